import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ChangedRows } from './changed-rows';

const ROWS = 300;
const step = fc.oneof(
  fc.record({ from: fc.nat(ROWS - 1), many: fc.nat(70) }),
  fc.record({ set: fc.nat(ROWS - 1) }),
  fc.record({ all: fc.constant(true) }),
  fc.record({ look: fc.constant(true) }),
);

describe('what changed since', () => {
  it('is every row and block that did, and no other while stamps last', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), fc.constantFrom(5, 1000), (steps, mostStamps) => {
        const changed = new ChangedRows(mostStamps);
        const looks: { count: number; rows: Set<number>; blocks: Set<number> }[] = [];
        const note = (row: number, isValue: boolean) => {
          for (const look of looks) {
            if (isValue) look.rows.add(row);
            look.blocks.add(row >> 5);
          }
        };
        for (const one of steps) {
          if ('look' in one) looks.push({ count: changed.count, rows: new Set(), blocks: new Set() });
          else if ('set' in one) {
            changed.touchSets(one.set);
            note(one.set, false);
          } else if ('all' in one) {
            changed.touchAll();
            for (let row = 0; row < ROWS; row++) note(row, true);
          } else {
            const stop = Math.min(ROWS, one.from + one.many);
            changed.touch(one.from, stop);
            for (let row = one.from; row < stop; row++) note(row, true);
          }
        }
        for (const { count, rows, blocks } of looks) {
          const found = changed.rowsSince(count, ROWS, ROWS);
          const told = new Set<number>();
          changed.eachRunSince(count, Math.ceil(ROWS / 32), (from, to) => {
            for (let block = from; block < to; block++) told.add(block);
          });
          if (found === null) {
            // with many stamps only what was told of everything is everything
            if (mostStamps > 100) expect(rows.size).toBe(ROWS);
            continue;
          }
          expect([...found]).toEqual([...rows].sort((a, b) => a - b));
          for (const row of found) expect(changed.isSince(count, row)).toBe(true);
          expect(told).toEqual(blocks);
          if (rows.size > 1) expect(changed.rowsSince(count, ROWS, rows.size - 1)).toBeNull();
        }
      }),
      { numRuns: 500 },
    );
  });

  it('is nothing right after a look', () => {
    const changed = new ChangedRows();
    changed.touch(0, 40);
    expect(changed.rowsSince(changed.count, 40, 40)).toEqual(new Uint32Array(0));
    expect(changed.rowsSince(0, 40, 40)).toHaveLength(40);
  });
});
