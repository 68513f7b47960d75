import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { COST_KINDS, GROUPINGS, INCOME_KINDS, type MoneyEntry, profitBy, signed } from './profit';

const entry: fc.Arbitrary<MoneyEntry> = fc
  .record({
    id: fc.constant(null),
    domain: fc.constantFrom('a.org', 'b.org', 'c.org'),
    brief: fc.option(fc.constantFrom('bees', 'ink')),
    venue: fc.option(fc.constantFrom('Saltmarch Exchange', 'Quayside Lots')),
    at: fc.integer({ min: Date.UTC(2024, 0, 1), max: Date.UTC(2027, 0, 1) }),
    kind: fc.constantFrom(...COST_KINDS, ...INCOME_KINDS),
    amountMinor: fc.integer({ min: 0, max: 1_000_000 }),
    words: fc.constant(''),
    orderId: fc.constant(null),
  })
  .map((one) => ({ ...one, amountMinor: signed(one.kind, one.amountMinor) }));

describe('profit and loss', () => {
  it('comes to the same whichever way it is grouped, and every sum is made of its entries', () => {
    fc.assert(
      fc.property(fc.array(entry, { maxLength: 40 }), (entries) => {
        const total = entries.reduce((sum, { amountMinor }) => sum + amountMinor, 0);
        for (const grouping of GROUPINGS) {
          const lines = profitBy(entries, grouping);
          expect(lines.reduce((sum, { resultMinor }) => sum + resultMinor, 0)).toBe(total);
          expect(lines.flatMap((line) => line.entries)).toHaveLength(entries.length);
          for (const { costMinor, incomeMinor, resultMinor, entries: own } of lines) {
            expect(incomeMinor - costMinor).toBe(resultMinor);
            expect(own.reduce((sum, { amountMinor }) => sum + amountMinor, 0)).toBe(resultMinor);
            expect(costMinor).toBeGreaterThanOrEqual(0);
          }
        }
      }),
    );
  });

  it('has the best first, and years in their order', () => {
    const one = (domain: string, at: string, amountMinor: number): MoneyEntry => ({
      id: null, domain, brief: null, venue: null, at: Date.parse(at), kind: 'sale', amountMinor, words: '', orderId: null,
    }); // biome-ignore format: one entry
    const entries = [one('a.org', '2026-03-01', 500), one('b.org', '2025-12-31T23:59:00Z', -900)];
    expect(profitBy(entries, 'domain').map(({ key }) => key)).toEqual(['a.org', 'b.org']);
    expect(profitBy(entries, 'year').map(({ key, resultMinor }) => [key, resultMinor])).toEqual([
      ['2025', -900],
      ['2026', 500],
    ]);
    expect(profitBy(entries, 'venue')).toMatchObject([{ key: 'none', resultMinor: -400 }]);
  });
});
