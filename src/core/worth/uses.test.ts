import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ASSUMPTIONS } from './assumptions';
import { clickShare, type Ranking, rebuildWorth } from './rebuild';
import { type CarriedReferrer, linkPrice, redirectWorth } from './redirect';

const phrase = (more: Partial<Ranking> = {}): Ranking => ({
  phrase: 'bee hives',
  position: 2,
  searches: 1000,
  clickMinor: 40,
  competition: 0,
  ...more,
});
const there = { yearsOff: 0, drift: 0 };

describe('the worth of a site that is brought back', () => {
  it('is what its visits would cost to buy', () => {
    const worth = rebuildWorth([phrase()], there, { ...ASSUMPTIONS, firstClickPercent: 30, earningMonths: 10 });
    // half of thirty hundredths of a thousand searches, at 40 each, for ten months
    expect(worth).toMatchObject({ visits: 150, keptVisits: 150, monthMinor: 6000, middleMinor: 60_000 });
    expect(worth?.lowMinor).toBeLessThan(60_000);
    expect(worth?.highMinor).toBeGreaterThan(60_000);
  });

  it('is halved by each half-life off line, taken by drift, and shared with who else wants the phrase', () => {
    const of = (state: Partial<typeof there>, more: Partial<Ranking> = {}) =>
      rebuildWorth([phrase(more)], { ...there, ...state }, ASSUMPTIONS)?.middleMinor ?? 0;
    expect(of({ yearsOff: 2 })).toBeCloseTo(of({}) / 4, -1);
    expect(of({ drift: 1 })).toBe(0);
    expect(of({}, { competition: 1 })).toBeCloseTo(of({}) * 0.4, -1);
    expect(of({}, { competition: null })).toBeCloseTo(of({}) * 0.7, -1);
    expect(of({}, { position: 300 })).toBe(0);
    expect(rebuildWorth([], there, ASSUMPTIONS)).toBeNull();
  });

  it('is the sum of its phrases, the dearest first', () => {
    const ranking = fc.record({
      phrase: fc.string(),
      position: fc.integer({ min: 1, max: 120 }),
      searches: fc.integer({ min: 0, max: 1e6 }),
      clickMinor: fc.integer({ min: 0, max: 5000 }),
      competition: fc.option(fc.double({ min: 0, max: 1, noNaN: true })),
    });
    fc.assert(
      fc.property(fc.array(ranking, { minLength: 1, maxLength: 20 }), (rankings) => {
        const worth = rebuildWorth(rankings, { yearsOff: 1, drift: 0.3 }, ASSUMPTIONS);
        const months = worth?.phrases.map(({ monthMinor }) => monthMinor) ?? [];
        expect(months).toEqual([...months].sort((a, b) => b - a));
        expect(worth?.keptVisits).toBeLessThanOrEqual(worth?.visits ?? 0);
        expect(worth?.monthMinor).toBeCloseTo(
          months.reduce((sum, one) => sum + one, 0),
          3,
        );
      }),
    );
    expect(clickShare(4, 0.28)).toBeCloseTo(0.07);
  });
});

describe('the worth of a redirect', () => {
  const referrer = (more: Partial<CarriedReferrer> = {}): CarriedReferrer => ({
    site: 'a.org',
    weight: 1,
    strength: 20,
    isOfSubject: true,
    ...more,
  });

  it('is what its relevant referrers would cost, as far as they are carried over', () => {
    expect(redirectWorth([referrer()], ASSUMPTIONS)?.middleMinor).toBe(750);
    expect(redirectWorth([referrer({ strength: 40 })], ASSUMPTIONS)?.middleMinor).toBe(3000);
    expect(redirectWorth([referrer({ weight: 0.5 })], ASSUMPTIONS)?.middleMinor).toBe(375);
    expect(redirectWorth([referrer({ isOfSubject: false })], ASSUMPTIONS)?.middleMinor).toBe(75);
    expect(linkPrice(30, ASSUMPTIONS)).toBe(3000);
  });

  it('counts nothing that was discounted away, and lies between where the subject is not told', () => {
    expect(redirectWorth([referrer({ weight: 0 })], ASSUMPTIONS)).toBeNull();
    const [other, unknown, same] = [false, null, true].map(
      (isOfSubject) => redirectWorth([referrer({ isOfSubject })], ASSUMPTIONS)?.middleMinor ?? 0,
    );
    expect(unknown).toBeGreaterThan(other);
    expect(unknown).toBeLessThan(same);
  });

  it('never falls when a referrer is added', () => {
    const any = fc.record({
      site: fc.string(),
      weight: fc.double({ min: 0, max: 1, noNaN: true }),
      strength: fc.option(fc.double({ min: 0, max: 100, noNaN: true })),
      isOfSubject: fc.option(fc.boolean()),
    });
    fc.assert(
      fc.property(fc.array(any, { maxLength: 10 }), any, (referrers, more) => {
        const before = redirectWorth(referrers, ASSUMPTIONS)?.middleMinor ?? 0;
        const after = redirectWorth([...referrers, more], ASSUMPTIONS)?.middleMinor ?? 0;
        expect(after).toBeGreaterThanOrEqual(before);
      }),
    );
  });
});
