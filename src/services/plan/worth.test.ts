import { beforeEach, describe, expect, it } from 'vitest';
import { subjectClassifier } from '../../core/topics/classifier';
import type { Store } from '../../store/base/database';
import { changeSettings, readRates } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { putRankings } from '../../store/portfolio/rankings';
import { briefOfTest, domainOfTest, linkOfTest } from '../../store/testing';
import { engineOfTest } from '../testing';
import { inCurrency } from './currency';
import { resaleFor, usesOf } from './plan-worth';
import { rebuildFor, redirectFor } from './worth';

const NAME = 'tarnhives.org';
/** What the words of the briefs here tell. */
const SUBJECT = subjectClassifier().nameSubject(['beekeeping', 'hives', 'honey']);
const YEAR = 365.25 * 86_400_000;
let store: Store;

beforeEach(async () => {
  store = await freshStore();
  changeSettings(store, { rates: { GBP: 1.25, USD: 0.8 } });
});

const row = (values = {}) => domainOfTest(store, NAME, values);
const phrase = (text: string, part = {}) => ({
  name: NAME, ending: 'org', line: 1, phrase: text, position: 1, searches: 1000, clickMinor: 100, currency: 'EUR', competition: 0, at: null,
  ...part,
}); // biome-ignore format: one phrase

describe('amounts in another currency', () => {
  it('go through one’s own, and are unknown where a rate is missing', () => {
    const pounds = inCurrency(readRates(store), 'GBP');
    expect(pounds(1000, 'USD')).toBe(640);
    expect(pounds(1000, null)).toBe(800);
    expect(pounds(1000, 'NOK')).toBeNull();
    expect(pounds(null, 'USD')).toBeNull();
    expect(inCurrency(readRates(store), 'NOK')(1000, 'EUR')).toBeNull();
  });
});

describe('a site brought back', () => {
  it('is worth its traffic value, less by the time it is off line', () => {
    row({ phase: 'active' });
    putRankings(store, [phrase('raising queens')], 'Autumn');
    const brief = briefOfTest(store, { purpose: 'rebuild' });
    const on = rebuildFor(store, row(), brief);
    expect(on).toMatchObject({ yearsOff: 0, sources: ['Autumn'] });
    const off = rebuildFor(store, row({ phase: 'free', last_seen_at: store.now() - 3 * YEAR }), brief);
    expect(off?.yearsOff).toBeCloseTo(3, 2);
    expect(off?.monthMinor).toBeLessThan(on?.monthMinor as number);
    expect(rebuildFor(store, domainOfTest(store, 'wexcombe.org'), brief)).toBeNull();
  });

  it('goes by the newest of several lists that name a phrase, in the brief’s currency', () => {
    row({ phase: 'active' });
    putRankings(store, [phrase('raising queens', { at: 2000, clickMinor: 400 })], 'Later');
    putRankings(store, [phrase('raising queens', { at: 1000, clickMinor: 10 })], 'Earlier');
    const [told] = rebuildFor(store, row(), briefOfTest(store))?.phrases ?? [];
    expect(told.clickMinor).toBe(400);
    const pounds = briefOfTest(store, { name: 'Pounds', currency: 'GBP' });
    expect(rebuildFor(store, row(), pounds)?.phrases[0].clickMinor).toBe(320);
    expect(rebuildFor(store, row(), pounds)?.asOf).toBe(1000);
  });
});

describe('links that are redirected', () => {
  const engine = engineOfTest({
    subjectsOfNames: async (names) => names.map((name) => (name.includes('bee') ? SUBJECT : null)),
  });

  it('count by whether who links is of the brief’s subject, in whole or in its area', async () => {
    linkOfTest(store, 'beeclub.org', NAME, { anchor: 'Tarn Hives' });
    linkOfTest(store, 'quillmere.org', NAME, { anchor: 'x' });
    const brief = briefOfTest(store, { purpose: 'redirect', subjectWords: ['beekeeping', 'hives', 'honey'] });
    const told = await redirectFor(store, engine, row(), brief);
    expect(told?.subject).toBe(SUBJECT);
    const of = new Map(told?.referrers.map(({ site, isOfSubject }) => [site, isOfSubject]));
    expect(of.get('beeclub.org')).toBe(true);
    expect(of.get('quillmere.org')).toBeNull();
    expect(told?.ofSubject).toBe(1);
  });

  it('are worth nothing that is known where nobody links', async () => {
    expect(await redirectFor(store, engine, row(), briefOfTest(store))).toBeNull();
  });
});

describe('uses of a name', () => {
  const engine = engineOfTest({ subjectsOfNames: async (names) => names.map(() => SUBJECT) });

  it('are told where the brief is for them, each with its way', async () => {
    linkOfTest(store, 'beeclub.org', NAME);
    row({ phase: 'active', strength: 30 });
    putRankings(store, [phrase('raising queens')], 'Autumn');
    const resell = briefOfTest(store);
    expect(await usesOf(store, engine, row(), resell)).toEqual([]);
    const rebuild = briefOfTest(store, { name: 'R', purpose: 'rebuild' });
    const [use, ...others] = await usesOf(store, engine, row(), rebuild);
    expect(others).toEqual([]);
    expect(use).toMatchObject({ use: 'rebuild', rows: [{ what: 'raising queens' }] });
    expect(use.words).toContain('estimates of Autumn');
    expect(use.highMinor).toBeGreaterThan(use.lowMinor);
    const mix = { resell: 0, rebuild: 1, redirect: 1, prospect: 0 };
    const both = briefOfTest(store, { name: 'B', mix, subjectWords: ['beekeeping'] });
    expect((await usesOf(store, engine, row(), both)).map(({ use: of }) => of)).toContain('rebuild');
  });
});

describe('what names like it were sold for', () => {
  const worth = {
    lowMinor: 1000,
    highMinor: 4000,
    near: Array.from({ length: 8 }, (_, n) => ({
      sale: { name: `s${n}.org`, priceMinor: 2000, at: n },
      distance: 0.12345,
      adjustedMinor: 2500,
    })),
  };

  it('is in the brief’s currency, as wide as outcomes have taught, with the nearest five', async () => {
    const engine = engineOfTest({
      resaleWorth: async (names) => names.map((_, n) => (n === 0 ? worth : null)) as never,
    });
    const pounds = inCurrency(readRates(store), 'GBP');
    const [told, none] = await resaleFor(engine, ['a.org', 'b.org'], pounds, 1);
    expect(none).toBeNull();
    expect(told).toMatchObject({ lowMinor: 800, highMinor: 3200 });
    expect(told?.near).toHaveLength(5);
    expect(told?.near[0]).toMatchObject({ priceMinor: 1600, adjustedMinor: 2000, distance: 0.12 });
    const [wide] = await resaleFor(engine, ['a.org'], pounds, 2);
    expect(wide?.lowMinor).toBeLessThan(800);
    expect(wide?.highMinor).toBeGreaterThan(3200);
  });

  it('is nothing while the engine starts', async () => {
    expect(await resaleFor(engineOfTest(), ['a.org'], inCurrency(readRates(store), 'EUR'), 1)).toEqual([null]);
  });
});
