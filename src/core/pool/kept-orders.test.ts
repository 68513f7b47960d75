import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Sort } from './conditions';
import type { PoolRow } from './facts';
import { KeptOrders } from './kept-orders';
import type { FurtherOffer } from './offer';
import { sortRows } from './sort';
import { indexOf, row } from './testing';

const SORTS: Sort[][] = [
  [{ fact: 'strength', descending: true }],
  [
    { fact: 'phase', descending: false },
    { fact: 'strength', descending: true },
  ],
  [{ fact: 'name', descending: true }],
  [{ fact: 'price', descending: false }],
];
const value = fc.option(fc.integer({ min: 0, max: 5 }), { nil: null });
const put = fc.record({
  at: fc.nat(80),
  strength: value,
  price: value,
  phase: fc.constantFrom('free' as const, 'active' as const),
});
const question = fc.record({
  sorts: fc.constantFrom(...SORTS),
  out: fc.uniqueArray(fc.nat(80), { maxLength: 30 }),
  top: fc.integer({ min: 1, max: 12 }),
  others: fc.uniqueArray(fc.record({ row: fc.nat(80), price: value }), { maxLength: 4, selector: (one) => one.row }),
});
const offer = (price: number | null): FurtherOffer => ({
  listing: 'auction',
  venue: null,
  price,
  bids: null,
  closing: null,
});

describe('an order that is kept', () => {
  it('gives the first rows as sorting all of them does, whatever changed and came since', () => {
    let read = 0;
    fc.assert(
      fc.property(
        fc.array(fc.oneof(put, question), { minLength: 5, maxLength: 60 }),
        fc.constantFrom(0, 4),
        (steps, least) => {
          const { columns } = indexOf(
            Array.from({ length: 20 }, (_, n) => row(n + 1, { strength: n % 4, price: n % 3 })),
          );
          const orders = new KeptOrders(columns, least);
          const rows: Partial<PoolRow>[] = [];
          for (const step of steps) {
            if ('at' in step) {
              const { at, ...values } = step;
              const id = Math.min(at, columns.count) + 1;
              rows[id] = values;
              columns.put(row(id, values));
              continue;
            }
            const { sorts, top } = step;
            const passing = Array.from({ length: columns.count }, (_, n) => n).filter((n) => !step.out.includes(n));
            const bits = new Uint32Array(columns.blocks);
            for (const n of passing) bits[n >> 5] |= 1 << (n & 31);
            const others = new Map(
              step.others.filter(({ row: n }) => n < columns.count).map((one) => [one.row, offer(one.price)]),
            );
            const found = orders.first(bits, passing.length, sorts, top, others);
            if (found === null) continue;
            read++;
            const sorted = sortRows(columns, Uint32Array.from(passing), sorts, passing.length, others);
            expect([...found]).toEqual([...sorted.subarray(0, top)]);
          }
        },
      ),
      { numRuns: 600 },
    );
    // most of what is asked twice
    expect(read).toBeGreaterThan(1000);
  });

  it('is made when it is asked for the second time, and not for few rows or facts that come with words', () => {
    const { columns } = indexOf(Array.from({ length: 100 }, (_, n) => row(n + 1, { strength: n })));
    const orders = new KeptOrders(columns);
    const all = new Uint32Array(columns.blocks).fill(0xffffffff);
    const ask = (fact: Sort['fact'], total = 100) =>
      orders.first(all, total, [{ fact, descending: true }], 2, new Map());
    expect(ask('strength')).toBeNull();
    expect([...(ask('strength') ?? [])]).toEqual([99, 98]);
    expect(ask('strength', 5)).toBeNull();
    expect(ask('words')).toBeNull();
    expect(ask('words')).toBeNull();
  });
});
