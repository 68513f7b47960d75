import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { JsonItems } from './json-items';

function itemsOf(text: string, piece = 1 << 20): [path: string, value: unknown][] {
  const found: [string, unknown][] = [];
  const items = new JsonItems((path, item) => found.push([path, JSON.parse(item)]));
  for (let at = 0; at < text.length; at += piece) items.write(text.slice(at, at + piece));
  return found;
}

/** The same by what reads documents whole: arrays that no other array holds. */
function expected(value: unknown, path: string[] = []): [string, unknown][] {
  if (Array.isArray(value)) return value.map((item) => [path.join('.'), item]);
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([key, entry]) => expected(entry, [...path, key]));
}

describe('items of arrays', () => {
  it('are those of the document, wherever its pieces end', () => {
    const key = fc
      .string({ maxLength: 8 })
      .filter((text) => !/["\\]/.test(JSON.stringify(text).slice(1, -1)) && text !== '__proto__');
    const document = fc.letrec<{ value: unknown }>((tie) => ({
      value: fc.oneof(
        { maxDepth: 4, withCrossShrink: true },
        fc.oneof(fc.string(), fc.integer(), fc.boolean(), fc.constant(null), fc.constant('a "quoted, [odd] {text}\\ ')),
        fc.array(tie('value'), { maxLength: 4 }),
        fc.dictionary(key, tie('value'), { maxKeys: 4 }),
      ),
    })).value;
    fc.assert(
      fc.property(document, fc.integer({ min: 1, max: 40 }), fc.constantFrom(undefined, 2), (value, piece, space) => {
        const text = JSON.stringify(value, null, space);
        expect(itemsOf(text, piece)).toEqual(expected(JSON.parse(text)));
      }),
      { numRuns: 2000 },
    );
  });

  it('are refused where one has no end, or the document no bottom', () => {
    expect(() => itemsOf(`["${'x'.repeat(5 << 20)}`, 1 << 18)).toThrow('longer than any row');
    expect(() => itemsOf('['.repeat(1000))).toThrow('nested deeper');
  });
});
