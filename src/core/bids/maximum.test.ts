import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beliefOfRange, type Rivals } from './belief';
import { type BuyTerms, maximumOf } from './maximum';
import { RISKS } from './risk';

const terms: BuyTerms = { risk: 'even', margin: 0.25, renewalMinor: 2000, months: 24, interest: 0 };
const worth = beliefOfRange(80_000, 125_000);
const rivals: Rivals = {
  highest: { medianMinor: 50_000, sigma: 0.6 },
  floorMinor: 10_000,
  stepMinor: 500,
  affiliation: 0.5,
};

describe('the most to pay', () => {
  it('is worth over one and the margin, less fees and renewals', () => {
    expect(maximumOf(worth, terms, 1500, null)).toEqual({
      worthMinor: 100_000,
      presentMinor: 100_000,
      costMinor: 80_000,
      feesMinor: 1500,
      renewalsMinor: 2000,
      plainMinor: 76_500,
      curseMinor: 0,
      maximumMinor: 76_500,
    });
  });

  it('falls with the margin, the fees, the time, the interest and caution, and never below nothing', () => {
    const { maximumMinor } = maximumOf(worth, terms, 1500, null);
    for (const worse of [{ margin: 0.5 }, { months: 60 }, { interest: 0.1 }, { risk: 'cautious' as const }])
      expect(maximumOf(worth, { ...terms, ...worse }, 1500, null).maximumMinor).toBeLessThan(maximumMinor);
    expect(maximumOf(worth, terms, 9000, null).maximumMinor).toBeLessThan(maximumMinor);
    expect(maximumOf(worth, { ...terms, risk: 'bold' }, 1500, null).maximumMinor).toBeGreaterThan(maximumMinor);
    expect(maximumOf(worth, terms, 1e9, null).maximumMinor).toBe(0);
  });

  it('is less in an auction whose others know the name as well, and the same where they do not', () => {
    expect(maximumOf(worth, terms, 1500, { ...rivals, affiliation: 0 })).toMatchObject({ curseMinor: 0 });
    const wide = beliefOfRange(60_000, 170_000);
    // that all of them stop below what such a name usually brings says something of this one
    const usual = { ...rivals, highest: { medianMinor: 150_000, sigma: 0.6 }, affiliation: 0.5 };
    const { plainMinor, curseMinor, maximumMinor } = maximumOf(wide, terms, 1500, usual);
    expect(curseMinor).toBeGreaterThan(0);
    expect(maximumMinor).toBe(plainMinor - curseMinor);
    // where even the least bid would win only what is worth less, it lies below that bid
    const all = maximumOf(beliefOfRange(40_000, 250_000), terms, 1500, { ...usual, affiliation: 0.8 });
    expect(all.maximumMinor).toBeLessThan(usual.floorMinor);
  });

  it('adds up, step by step, whatever goes in', () => {
    const amount = fc.integer({ min: 100, max: 500_000 });
    fc.assert(
      fc.property(
        fc.record({
          low: amount,
          wide: fc.double({ min: 1, max: 6, noNaN: true }),
          fees: fc.nat(5000),
          floor: amount,
          rival: amount,
          affiliation: fc.double({ min: 0, max: 0.9, noNaN: true }),
          risk: fc.constantFrom(...RISKS),
          margin: fc.double({ min: 0, max: 2, noNaN: true }),
          months: fc.integer({ min: 0, max: 60 }),
        }),
        ({ low, wide, fees, floor, rival, affiliation, risk, margin, months }) => {
          const given = { ...rivals, highest: { medianMinor: rival, sigma: 0.6 }, floorMinor: floor, affiliation };
          const found = maximumOf(beliefOfRange(low, low * wide), { ...terms, risk, margin, months }, fees, given);
          expect(found.maximumMinor).toBe(found.plainMinor - found.curseMinor);
          expect(found.curseMinor).toBeGreaterThanOrEqual(0);
          expect(found.maximumMinor).toBeGreaterThanOrEqual(0);
          const left = found.costMinor - found.feesMinor - found.renewalsMinor;
          expect(Math.abs(found.plainMinor - Math.max(0, left))).toBeLessThan(100);
          // what is not worth the least bid is said as it is, not cut to nothing
          if (found.plainMinor <= floor) expect(found.maximumMinor).toBe(found.plainMinor);
        },
      ),
      { numRuns: 300 },
    );
  });
});
