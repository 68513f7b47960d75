import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ASSUMPTIONS } from './assumptions';
import { clickShare, ownNameTeller, type Ranking, rebuildWorth } from './rebuild';
import { type CarriedReferrer, linkPrice, redirectWorth } from './redirect';

const phrase = (more: Partial<Ranking> = {}): Ranking => ({
  phrase: 'bee hives',
  position: 2,
  searches: 1000,
  clickMinor: 40,
  competition: 0,
  ...more,
});
const there = { yearsOff: 0, drift: 0, isOwnName: () => false };

describe('the worth of a site that is brought back', () => {
  it('is its traffic value to buy', () => {
    const worth = rebuildWorth([phrase()], there, { ...ASSUMPTIONS, firstClickPercent: 30, earningMonths: 10 });
    // what the second place gets of thirty hundredths of a thousand searches, at 40 each, for ten months
    const visits = (300 * 11.9) / 42.13;
    expect(worth?.visits).toBeCloseTo(visits, 6);
    expect(worth?.keptVisits).toBeCloseTo(visits, 6);
    expect(worth?.monthMinor).toBeCloseTo(40 * visits, 4);
    expect(worth?.lowMinor).toBeLessThan(400 * visits);
    expect(worth?.highMinor).toBeGreaterThan(400 * visits);
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
        const worth = rebuildWorth(rankings, { ...there, yearsOff: 1, drift: 0.3 }, ASSUMPTIONS);
        const months = worth?.phrases.map(({ monthMinor }) => monthMinor) ?? [];
        expect(months).toEqual([...months].sort((a, b) => b - a));
        expect(worth?.keptVisits).toBeLessThanOrEqual(worth?.visits ?? 0);
        expect(worth?.monthMinor).toBeCloseTo(
          months.reduce((sum, one) => sum + one, 0),
          3,
        );
      }),
    );
    const page = (from: number) =>
      Array.from({ length: 10 }, (_, n) => clickShare(from + n, 0.28)).reduce((a, b) => a + b);
    expect(clickShare(1, 0.28)).toBeCloseTo(0.28);
    // the second page gets a twentieth of the first, what comes after the third next to nothing
    expect(page(11) / page(1)).toBeCloseTo(0.05, 2);
    expect(page(31)).toBeLessThan(0.01 * page(1));
  });
});

describe('phrases that ask for a name', () => {
  const known = new Set('car hire bee club beekeeping courses'.split(' '));
  const teller = (label: string) => ownNameTeller(label, (word) => known.has(word));
  it('are those with a coined word of the label', () => {
    expect(teller('ossenmerebeeclub')('ossenmere bee club')).toBe(true);
    expect(teller('ossenmerebeeclub')('Ossenmere')).toBe(true);
    expect(teller('ossenmerebeeclub')('beekeeping courses')).toBe(false);
    expect(teller('carhire')('car hire')).toBe(false);
  });
  it('are worth little to anybody else', () => {
    const own = rebuildWorth([phrase()], { ...there, isOwnName: () => true }, ASSUMPTIONS);
    const other = rebuildWorth([phrase()], there, ASSUMPTIONS);
    expect(own?.phrases[0].isOwnName).toBe(true);
    expect(own?.visits).toBe(other?.visits);
    expect(own?.monthMinor).toBeCloseTo(0.05 * (other?.monthMinor ?? 0), 6);
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
