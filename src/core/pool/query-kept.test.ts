import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DEFAULT_SORT, type SievePart, type Sort } from './conditions';
import { type ChoiceFact, type FactName, JUDGEMENTS, type NumberFact, type PoolRow, type TimeFact } from './facts';
import { indexOf, NOW, query, range, row, splitter } from './testing';

describe('an index that is asked again and again', () => {
  const bounds = fc.option(fc.integer({ min: 0, max: 9 }), { nil: null });
  const condition: fc.Arbitrary<SievePart> = fc.oneof(
    fc
      .record({
        fact: fc.constantFrom<NumberFact | TimeFact>('strength', 'spamRisk', 'age', 'closing', 'words'),
        min: bounds,
        max: bounds,
        keepUnknown: fc.boolean(),
      })
      .map(({ fact, min, max, keepUnknown }) => range(fact, min, max, keepUnknown)),
    fc.record({
      type: fc.constant('text' as const),
      fact: fc.constant('name' as const),
      mode: fc.constantFrom(
        'contains' as const,
        'starts' as const,
        'ends' as const,
        'word' as const,
        'pattern' as const,
      ),
      values: fc.array(fc.constantFrom('a', 'b', 'ab', 'ba', '1', '2'), { minLength: 1, maxLength: 6 }),
      not: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('choice' as const),
      fact: fc.constantFrom<ChoiceFact>('phase', 'judged'),
      values: fc.constantFrom<string[]>(['free'], ['active'], [], ['keep'], ['excluded']),
      not: fc.boolean(),
      keepUnknown: fc.boolean(),
    }),
    fc.record({
      type: fc.constant('member' as const),
      fact: fc.constant('source' as const),
      values: fc.constantFrom<number[]>([1], [2], [1, 2]),
      not: fc.boolean(),
    }),
  );
  const sort = fc.record({
    fact: fc.constantFrom<FactName>('strength', 'phase', 'age', 'name', 'words'),
    descending: fc.boolean(),
  });
  const step = fc.oneof(
    fc.record({
      ask: fc.array(condition, { maxLength: 3 }),
      sorts: fc.oneof(fc.constant<Sort[]>([DEFAULT_SORT]), fc.array(sort, { maxLength: 2 })),
      limit: fc.constantFrom(3, 50),
      at: fc.constantFrom(NOW, NOW + 60, NOW + 4000),
    }),
    fc.record({ change: fc.nat(24), strength: bounds }),
    fc.record({
      put: fc.record({
        label: fc.string({ unit: fc.constantFrom('a', 'b'), minLength: 1, maxLength: 4 }),
        strength: bounds,
        phase: fc.constantFrom('free', 'active'),
        source: fc.constantFrom(1, 2),
      }),
    }),
    fc.record({ judge: fc.nat(24), as: fc.constantFrom(...JUDGEMENTS) }),
  );

  it('answers like one that is asked for the first time, whatever was asked, added and marked before', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        const used = indexOf([]);
        const rows: PoolRow[] = [];
        const members: [number, number][] = [];
        for (const entry of steps) {
          if ('judge' in entry) {
            const marked = rows[entry.judge % Math.max(1, rows.length)];
            if (!marked) continue;
            marked.judged = entry.as;
            used.columns.judge(marked.id, entry.as);
          } else if ('put' in entry) {
            const id = rows.length + 1;
            const { label, strength, phase, source } = entry.put;
            rows.push(
              row(id, {
                name: `${label}${id}.org`,
                strength,
                phase,
                spamRisk: id % 10,
                age: NOW - id * 4e7,
                closing: NOW + id * 900,
              }),
            );
            members.push([source, id]);
            used.columns.put(rows[rows.length - 1]);
            used.columns.setMembers('source', source, [id]);
            while (used.columns.splitSome(splitter, 10));
          } else if ('change' in entry) {
            const changed = rows[entry.change % Math.max(1, rows.length)];
            if (!changed) continue;
            changed.strength = entry.strength;
            used.columns.put(changed);
          } else {
            const asked = { parts: entry.ask, sorts: entry.sorts, limit: entry.limit, anchor: 3 };
            const { version: _, ...answer } = query(used, asked, entry.at);
            const fresh = indexOf(rows, members);
            while (fresh.columns.splitSome(splitter, 10));
            const { version: __, ...expected } = query(fresh, asked, entry.at);
            expect(answer).toEqual(expected);
          }
        }
      }),
      { numRuns: 400 },
    );
  });
});
