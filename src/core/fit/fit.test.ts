import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  FIT_PARTS,
  type FitBrief,
  type FitFacts,
  firstShares,
  fitOf,
  fitParts,
  type PartValue,
  PURPOSE_WEIGHTS,
} from './fit';

const BRIEF: FitBrief = {
  subjectWords: ['bee', 'hive', 'honey'],
  requiredWords: [],
  unwantedWords: ['archive'],
  countries: [],
  languages: ['en'],
  subject: 'farming.beekeeping',
};
const CLUB: FitFacts = {
  words: ['ossenmere', 'bee', 'club'], length: 16, hyphens: 0, digits: 0, sayability: 70, subject: 'farming.beekeeping', subjectConfidence: 0.95,
  isSubjectRead: true, contentYears: 18, drift: 0, effective: 78, trust: 28, language: 'en',
  ending: 'org', spamRisk: 0,
}; // biome-ignore format: one domain
const value = (part: string, facts: Partial<FitFacts> = {}, brief: Partial<FitBrief> = {}) =>
  fitParts({ ...CLUB, ...facts }, { ...BRIEF, ...brief }).find((one) => one.part === part);
const score = (facts: Partial<FitFacts>, purpose: keyof typeof PURPOSE_WEIGHTS = 'rebuild') =>
  fitOf(fitParts({ ...CLUB, ...facts }, BRIEF), PURPOSE_WEIGHTS[purpose]).score ?? Number.NaN;

describe('the parts of a fit', () => {
  it('know words of the name by the words that it has, in either number, and what must or must not be there', () => {
    expect(value('nameWords')).toMatchObject({ words: 'it says bee' });
    expect(value('nameWords', { words: ['tarn', 'hives'] })?.value).toBeGreaterThan(0.9);
    expect(value('nameWords', { words: ['beech', 'walk'] })).toMatchObject({ value: 0, words: 'none of the subject' });
    expect(value('nameWords', { words: ['bee', 'archive'] })).toMatchObject({
      value: 0,
      words: 'it says archive, which is not wanted',
    });
    expect(value('nameWords', {}, { requiredWords: ['mead'] })).toMatchObject({ value: 0 });
    expect(value('nameWords', {}, { subjectWords: [] })?.value).toBeNull();
  });

  it('tell the subject apart from its area and from another, and what was not looked for from what is not clear', () => {
    const subject = (facts: Partial<FitFacts>) => value('subject', facts)?.value;
    expect(subject({})).toBeGreaterThan(0.9);
    expect(subject({ subject: 'farming.orchards' })).toBeLessThan(0.6);
    expect(subject({ subject: 'leisure.gambling' })).toBeLessThan(0.05);
    expect(subject({ subject: null })).toBe(0.2);
    expect(subject({ isSubjectRead: false })).toBeNull();
  });

  it('count long content of one site, referrers on a log scale, no spam, and a language that is wanted', () => {
    expect(value('continuity')?.value).toBe(1);
    expect(value('continuity', { drift: 0.9 })?.value).toBeCloseTo(0.1, 1);
    expect(value('continuity', { contentYears: null })?.value).toBeNull();
    expect(value('referrers', { effective: 0 })?.value).toBe(0);
    expect(value('referrers', { effective: 900 })?.value).toBe(1);
    expect(value('risk', { spamRisk: 80 })?.value).toBeCloseTo(0.2, 5);
    expect(value('language', { language: 'de' })).toMatchObject({ value: 0, words: 'German' });
    expect(value('language', { language: 'de' }, { languages: [] })?.value).toBeNull();
    expect(value('name', { hyphens: 2 })?.value).toBeLessThan(value('name')?.value ?? 0);
  });
});

describe('a fit', () => {
  it('ranks a club of the subject over a casino that came after it, and by purpose what the purpose needs', () => {
    expect(score({})).toBeGreaterThan(80);
    expect(score({ spamRisk: 100, drift: 0.95, subject: 'leisure.gambling' })).toBeLessThanOrEqual(25);
    // nothing makes up for spam
    expect(score({ spamRisk: 100 })).toBe(25);
    expect(score({ spamRisk: 100 }, 'resell')).toBeLessThanOrEqual(25);
    expect(score({ spamRisk: null })).toBeGreaterThan(80);
    const short = { words: ['bee'], length: 3, sayability: 95, effective: 1, trust: 0, contentYears: 0 };
    expect(score(short, 'resell')).toBeGreaterThan(score({}, 'resell'));
    expect(score(short, 'redirect')).toBeLessThan(score({}, 'redirect'));
  });

  it('goes by what is known, and says how far it may be off by what is not', () => {
    const parts = fitParts({ ...CLUB, contentYears: null, effective: null }, BRIEF);
    const fit = fitOf(parts, PURPOSE_WEIGHTS.rebuild);
    expect(fit.least).toBeLessThan(fit.score ?? 0);
    expect(fit.most).toBeGreaterThan(fit.score ?? 100);
    expect(
      fitOf(
        parts.map((part) => ({ ...part, value: null })),
        PURPOSE_WEIGHTS.rebuild,
      ),
    ).toEqual({ score: null, least: 0, most: 100, cappedAt: null });
  });

  const parts = fc.array(fc.option(fc.double({ min: 0, max: 1, noNaN: true })), {
    minLength: FIT_PARTS.length,
    maxLength: FIT_PARTS.length,
  });
  const asParts = (values: (number | null)[]): PartValue[] =>
    FIT_PARTS.map((part, n) => ({ part, value: values[n], words: '' }));
  it('lies between its bounds, never falls when a part gets better, and is the whole where all is known', () => {
    fc.assert(
      fc.property(parts, fc.nat(FIT_PARTS.length - 1), (values, place) => {
        const weights = PURPOSE_WEIGHTS.rebuild;
        const fit = fitOf(asParts(values), weights);
        if (fit.score === null) return;
        expect(fit.least).toBeLessThanOrEqual(fit.score + 1e-9);
        expect(fit.most).toBeGreaterThanOrEqual(fit.score - 1e-9);
        if (values.every((one) => one !== null)) expect(fit.most - fit.least).toBeLessThan(1e-9);
        if (values[place] === null) return;
        const better = values.with(place, 1);
        expect(fitOf(asParts(better), weights).score ?? 0).toBeGreaterThanOrEqual(fit.score - 1e-9);
      }),
    );
  });

  it('says how often each is first when the weights are set otherwise', () => {
    const sure = firstShares(
      [fitParts(CLUB, BRIEF), fitParts({ ...CLUB, spamRisk: 60, effective: 3, contentYears: 1 }, BRIEF)],
      PURPOSE_WEIGHTS.rebuild,
    );
    expect(sure).toEqual([1, 0]);
    const linked = { ...CLUB, effective: 200, contentYears: 2 };
    const old = { ...CLUB, effective: 12, contentYears: 20 };
    const shares = firstShares([fitParts(linked, BRIEF), fitParts(old, BRIEF)], PURPOSE_WEIGHTS.rebuild);
    expect(shares[0] + shares[1]).toBeCloseTo(1, 9);
    expect(Math.min(...shares)).toBeGreaterThan(0.02);
    expect(firstShares([], PURPOSE_WEIGHTS.rebuild)).toEqual([]);
  });
});
