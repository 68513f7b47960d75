import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SORT, formatPart, formatView, parsePart, parseView, type SievePart, troubleWith } from './conditions';
import {
  CHOICE_FACTS,
  type ChoiceFact,
  MEMBER_FACTS,
  NUMBER_FACTS,
  type NumberFact,
  SORT_FACTS,
  TIME_FACTS,
  type TimeFact,
} from './facts';
import { patternProblem } from './pattern-problem';

import { range, text } from './testing';

describe('a view in an address', () => {
  const number = fc.option(
    fc.double({ noNaN: true, noDefaultInfinity: true }).map((n) => (n === 0 ? 0 : n)),
    { nil: null },
  );
  const word = fc.string({ minLength: 1, maxLength: 8 }).filter((text) => !/\p{Surrogate}/u.test(text));
  const off = fc.constantFrom({}, { off: true });
  const condition: fc.Arbitrary<SievePart> = fc
    .tuple(
      fc.oneof(
        fc.record({
          type: fc.constant('range' as const),
          fact: fc.constantFrom<NumberFact | TimeFact>(...NUMBER_FACTS, ...TIME_FACTS),
          min: number,
          max: number,
          keepUnknown: fc.boolean(),
        }),
        fc.record({
          type: fc.constant('choice' as const),
          fact: fc.constantFrom<ChoiceFact>(
            ...CHOICE_FACTS.filter((fact) => ['ending', 'registrar', 'venue'].includes(fact)),
          ),
          values: fc.array(word),
          not: fc.boolean(),
          keepUnknown: fc.boolean(),
        }),
        fc.record({
          type: fc.constant('text' as const),
          fact: fc.constant('name' as const),
          mode: fc.constantFrom('contains' as const, 'pattern' as const),
          values: fc.array(word.filter((one) => !/^@\d/.test(one))),
          not: fc.boolean(),
        }),
        fc.record({
          type: fc.constant('text' as const),
          fact: fc.constant('name' as const),
          mode: fc.constantFrom('is' as const, 'word' as const),
          values: fc.constant([]),
          list: fc.integer({ min: 1, max: 999 }),
          not: fc.boolean(),
        }),
        fc.record({
          type: fc.constant('member' as const),
          fact: fc.constantFrom(...MEMBER_FACTS),
          values: fc.array(fc.integer({ min: 1, max: 1e9 })),
          not: fc.boolean(),
        }),
        fc.record({ type: fc.constant('visit' as const), fact: fc.constantFrom(...TIME_FACTS), not: fc.boolean() }),
      ),
      off,
    )
    .map(([part, more]) => ({ ...part, ...more }) as SievePart);
  const mode = fc.constantFrom('all' as const, 'any' as const, 'none' as const);
  const groups = (inner: fc.Arbitrary<SievePart>) =>
    fc
      .tuple(mode, fc.array(inner, { maxLength: 3 }), off)
      .map(([how, parts, more]) => ({ type: 'group', mode: how, parts, ...more }) as SievePart);
  const part = fc.oneof(condition, groups(fc.oneof(condition, groups(condition))));

  it('comes back as it was written', () => {
    const sort = fc.record({ fact: fc.constantFrom(...SORT_FACTS), descending: fc.boolean() });
    const columns = fc.option(
      fc.record({
        shown: fc.array(
          fc.record({
            id: fc.constantFrom('domain', 'age'),
            width: fc.option(fc.integer({ min: 30, max: 800 }), { nil: null }),
          }),
          { minLength: 1, maxLength: 4 },
        ),
        pinned: fc.integer({ min: 0, max: 9 }),
      }),
      { nil: null },
    );
    fc.assert(
      fc.property(
        fc.array(part, { maxLength: 4 }),
        fc.array(sort, { minLength: 1, maxLength: 4 }),
        columns,
        (parts, sorts, shown) => {
          const view = { parts, sorts, columns: shown };
          const address = formatView(view).toString();
          expect(parseView(new URLSearchParams(address))).toEqual({ ...view, problems: [] });
        },
      ),
    );
  });

  it('never throws, whatever it is given', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(...'strength:any(.;)~!?,=@%e-19') }), (noise) => {
        parseView(
          new URLSearchParams([
            ['c', noise],
            ['sort', noise],
            ['columns', noise],
          ]),
        );
      }),
    );
  });

  it.each([
    ['nonsense', 'names no fact'],
    ['strength:much', 'is no range'],
    ['strength:1.2.3..', 'no number'],
    ['phase:gone', 'there is no "gone"'],
    ['name:like=x', 'say contains'],
    ['source:x', 'by its number'],
    ['name:is=%E0%A4%A', 'broken escape'],
    ['any(strength:1..;taste:2..)', 'names no fact'],
    ['any(any(any(strength:1..)))', 'at most 2 deep'],
  ])('says what is wrong with %j', (text, message) => {
    expect(parsePart(text)).toContain(message);
  });

  it('leaves out what makes no sense and goes on', () => {
    const view = parseView(new URLSearchParams('c=phase:free&c=bogus:1&sort=taste:up'));
    expect(view.parts.map(formatPart)).toEqual(['phase:free']);
    expect(view.sorts).toEqual([DEFAULT_SORT]);
    expect(view.problems).toHaveLength(2);
  });

  it('says what is wrong with a condition that is kept', () => {
    const trouble = (part: SievePart) => troubleWith(part, patternProblem);
    expect(trouble(range('strength', 50, 20))).toContain('above the upper');
    expect(trouble(range('strength', 20, 50))).toBeNull();
    expect(trouble(text('pattern', '(bee'))).toContain('no pattern');
    expect(trouble(text('pattern', 'a'.repeat(100_000)))).toContain('100,000');
    expect(trouble(text('contains', 'a'.repeat(300)))).toContain('longer than any name');
    expect(trouble(text('pattern', '^(bee|hive)'))).toBeNull();
  });
});
