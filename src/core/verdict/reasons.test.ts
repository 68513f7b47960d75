import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type ReasonFacts, reasonsOf } from './reasons';

const NOTHING: ReasonFacts = {
  phase: 'unknown', phaseConfidence: null, ageYears: null, referringDomains: null, effective: null, strength: null, trust: null,
  spamMass: null, spamRisk: null, worstRule: null, judged: null, contentYears: null, drops: null, drift: null, subject: null,
  subjectConfidence: null, languageSwitches: null, forwardsTo: null, wordMarks: null, countFactor: null, networkSites: 0,
}; // biome-ignore format: a row
const words = (facts: Partial<ReasonFacts>) => {
  const reasons = reasonsOf({ ...NOTHING, ...facts });
  return {
    for: reasons.for.map((one) => one.words),
    against: reasons.against.map((one) => one.words),
    open: reasons.open,
  };
};

describe('reasonsOf', () => {
  it('says nothing of what is not known, but what is open', () => {
    expect(words({})).toEqual({
      for: [],
      against: [],
      open: ['whether it is available', 'who links to it', 'what was there', 'trademarks like it'],
    });
  });
  it('speaks for an honest club, strongest first', () => {
    const club = words({
      phase: 'pending-delete',
      referringDomains: 85,
      effective: 78.8,
      strength: 17,
      trust: 28,
      spamRisk: 2,
      contentYears: 18.6,
      drops: 0,
      drift: 0,
      subject: 'Beekeeping',
      subjectConfidence: 1,
      wordMarks: 0,
      ageYears: 19,
    });
    expect(club.for.slice(0, 3)).toEqual([
      'trust 28 beside strength 17',
      '78.8 effective referring domains',
      '18.6 years with content',
    ]);
    expect(club.against).toEqual([]);
    expect(club.open).toEqual([]);
  });
  it('speaks against what was abused', () => {
    const shop = words({
      phase: 'free',
      phaseConfidence: 0.97,
      referringDomains: 48,
      effective: 3.9,
      spamRisk: 96,
      worstRule: 'Referrers of one owner',
      networkSites: 45,
      contentYears: 5.4,
    });
    expect(shop.against.slice(0, 2)).toEqual([
      "45 referring domains are one owner's",
      'spam risk 96 of 100: referrers of one owner',
    ]);
    expect(shop.against).toContain('only 3.9 of 48 referring domains count');
    expect(shop.for[shop.for.length - 1]).toBeDefined();
  });
  it("lets a person's mark speak in place of the computed risk", () => {
    expect(words({ judged: 'clean', spamRisk: 90 })).toMatchObject({ for: ['you marked it sound'], against: [] });
    expect(words({ judged: 'spam', spamRisk: 1 }).against[0]).toBe('you marked it spam');
  });
  it.each([
    [{ forwardsTo: 'gazette.com' }, 'forwards to gazette.com, whose strength it borrows'],
    [{ drift: 0.95 }, 'its last site has little in common with the main one (topic change 0.95)'],
    [{ drops: 2 }, 'it changed hands 2 times'],
    [{ wordMarks: 1 }, 'a trademark is like it'],
    [{ phase: 'active' }, 'it is registered'],
    [{ contentYears: 0 }, 'no content was ever captured'],
  ])('names %o', (facts, reason) => expect(words(facts).against).toContain(reason));
  it('never says the same for and against, and keeps weights in order', () => {
    const share = fc.option(fc.double({ min: 0, max: 1, noNaN: true }));
    const count = fc.option(fc.integer({ min: 0, max: 5000 }));
    const score = fc.option(fc.integer({ min: 0, max: 100 }));
    fc.assert(
      fc.property(
        fc.record({
          effective: count,
          referringDomains: count,
          trust: score,
          strength: score,
          spamRisk: score,
          spamMass: share,
          drift: share,
          drops: fc.option(fc.nat(6)),
          contentYears: fc.option(fc.nat(25)),
        }),
        (facts) => {
          const reasons = reasonsOf({ ...NOTHING, ...facts });
          for (const list of [reasons.for, reasons.against])
            list.forEach((one, n) => {
              expect(one.weight).toBeGreaterThan(0);
              expect(one.weight).toBeLessThanOrEqual(1);
              if (n > 0) expect(one.weight).toBeLessThanOrEqual(list[n - 1].weight);
            });
          const said = new Set(reasons.for.map((one) => one.words));
          expect(reasons.against.some((one) => said.has(one.words))).toBe(false);
        },
      ),
    );
  });
});
