import { afterAll, beforeAll, expect, it } from 'vitest';
import { type Store, write } from '../base/database';
import { changeSettings } from '../base/settings';
import { freshStore } from '../base/testing';
import { findDomain, putDomain } from '../domains/domains';
import { factChangesOf } from '../domains/fact-changes';
import { readPoolRow } from '../domains/pool-rows.sql';
import { putRankings, recountTraffic } from './rankings';

const NAME = 'tarnsidecombs.org';
const RATES = { home: 'EUR', worth: {} };
let store: Store;
let id = 0;
beforeAll(async () => {
  store = await freshStore();
  id = write(store, () => putDomain(store, { name: NAME, ending: 'org' }, true, 1)).id;
});
afterAll(() => store.close());

const ranking = (phrase: string, position: number, searches: number, name = NAME) => ({
  name,
  phrase,
  position,
  searches,
  clickMinor: 50,
  currency: 'EUR',
  competition: null,
  at: null,
  line: 1,
});
const visits = () => readPoolRow(store, id, RATES)?.visits;

it('counts the visits a month that lists of phrases suggest, each phrase by the list that was taken last', () => {
  expect(visits()).toBeNull();
  expect(putRankings(store, [ranking('comb honey', 1, 1000), ranking('skeps', 2, 100)], 'Vale Ranks')).toEqual({
    taken: 2,
    unknown: 0,
    ids: [id],
  });
  const first = visits() ?? 0;
  // the first place gets a good part of its searches, the second a quarter of that
  expect(first).toBeGreaterThan(200);
  expect(first).toBeLessThan(1000);
  putRankings(store, [ranking('comb honey', 1, 2000)], 'Tarn Figures');
  const second = visits() ?? 0;
  expect(second / first).toBeCloseTo(2, 0);
  // another list's phrase stays counted
  putRankings(store, [ranking('comb honey', 200, 2000)], 'Tarn Figures');
  expect(visits()).toBe(findDomain(store, NAME)?.visits);
  expect(visits()).toBeGreaterThan(0);
  expect(visits()).toBeLessThan(first / 10);
});

it('keeps what the figure was, and says nothing of names that are not known', () => {
  const changed = factChangesOf(store, id, 10).map(({ fact }) => fact);
  expect(changed.sort()).toEqual(['traffic_value', 'traffic_value', 'visits', 'visits']);
  expect(putRankings(store, [ranking('mead', 1, 10, 'nobodysmead.org')], 'Vale Ranks')).toMatchObject({
    unknown: 1,
    ids: [],
  });
});

it('counts what the visits would cost as clicks, in the currency of the person, and anew when rates change', () => {
  const value = () => readPoolRow(store, id, RATES)?.trafficValue ?? null;
  putRankings(store, [ranking('comb honey', 1, 1000)], 'Last Figures');
  const first = value() ?? 0;
  expect(first).toBeCloseTo(((visits() ?? 0) * 50) / 100, -1);
  putRankings(store, [{ ...ranking('comb honey', 1, 1000), clickMinor: 200, currency: 'GBP' }], 'Last Figures');
  // no rate is set: what is known in the person's currency counts alone
  expect(value() ?? 0).toBeLessThan(first);
  changeSettings(store, { rates: { GBP: 1.25 } });
  expect(recountTraffic(store)).toBe(1);
  expect(value() ?? 0).toBeGreaterThan(first * 4);
  expect(recountTraffic(store, true)).toBe(0);
});
