import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { choiceOf, choicesOf, countOf, idOf, listOf, readQuery, repeatable, textOf } from './query';

const FIELDS = {
  brief: idOf('a brief'),
  limit: countOf('rows', 100, 500),
  name: textOf('a name', 'a list', 10),
  format: choiceOf('a format', ['csv', 'jsonl']),
  kinds: choicesOf('kinds', ['closing', 'drop']),
  columns: listOf('columns'),
  c: repeatable('conditions'),
};
const read = (text: string) => readQuery(FIELDS, new URLSearchParams(text));

describe('what stands in an address', () => {
  it('is what its fields say where it is absent', () => {
    expect(read('')).toEqual({
      brief: undefined,
      limit: 100,
      name: 'a list',
      format: 'csv',
      kinds: ['closing', 'drop'],
      columns: null,
      c: [],
    });
    expect(read('brief=&limit=&name=')).toEqual(read(''));
  });

  it('is read by kind: numbers, words, lists, what stands several times', () => {
    expect(
      read('brief=7&limit=900&name=a%20long%20name%20of%20it&format=jsonl&kinds=drop&columns=a,,b&c=x&c=y'),
    ).toEqual({
      brief: 7,
      limit: 500,
      name: 'a long nam',
      format: 'jsonl',
      kinds: ['drop'],
      columns: ['a', 'b'],
      c: ['x', 'y'],
    });
  });

  it.each([
    ['brief=x', 'brief'],
    ['brief=-1', 'brief'],
    ['brief=1.5', 'brief'],
    ['limit=1e40x', 'limit'],
    ['format=xls', 'format'],
    ['kinds=drop,never', 'kinds'],
  ])('that makes no sense is told by the name of its field: %s', (text, field) => {
    expect(() => read(text)).toThrow(z.ZodError);
    try {
      read(text);
    } catch (error) {
      expect((error as z.ZodError).issues[0].path[0]).toBe(field);
    }
  });

  it('is refused or within its bounds, whatever it is', () => {
    fc.assert(
      fc.property(fc.dictionary(fc.constantFrom(...Object.keys(FIELDS)), fc.string()), (given) => {
        try {
          const { limit, name, brief } = readQuery(FIELDS, new URLSearchParams(given)) as Record<string, unknown>;
          expect(limit).toBeLessThanOrEqual(500);
          expect(String(name).length).toBeLessThanOrEqual(10);
          expect(brief === undefined || Number.isInteger(brief)).toBe(true);
        } catch (error) {
          expect(error).toBeInstanceOf(z.ZodError);
        }
      }),
    );
  });

  it('is described with its meaning', () => {
    expect(z.toJSONSchema(z.object(FIELDS), { io: 'input', unrepresentable: 'any' })).toMatchObject({
      properties: { format: { enum: ['csv', 'jsonl'], default: 'csv', description: 'a format' } },
    });
  });
});
