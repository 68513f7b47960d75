import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { putDomain } from '../domains/domains';
import { addQuestions, OWN_SERVERS } from '../lifecycle/questions';
import { suspendQuestion, waitingNames } from '../lifecycle/suspended-questions';
import { askDue, setWatched } from '../lifecycle/watching';
import { dueOrders } from '../orders/order-rows';
import { happen, placeOrder } from '../orders/orders';
import { changeSieve, dueSieves, saveSieve } from '../pool/sieves';
import { saveBrief } from '../shortlist/briefs';
import { addWatch, dueWatches } from '../sources/watches';
import { afterSetBack, keepSeen, lastSeen } from './after-set-back';
import { type Store, write } from './database';
import { addJob } from './jobs';
import { freshStore } from './testing';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
/** A machine that was started with a wrong date. */
const WRONG = Date.UTC(2036, 0, 1, 12);
const RIGHT = Date.UTC(2026, 10, 20, 12);
let store: Store;

beforeEach(async () => {
  vi.useFakeTimers({ toFake: ['Date'], now: WRONG });
  store = await freshStore();
});
afterEach(() => vi.useRealTimers());

const setBack = () => {
  vi.setSystemTime(RIGHT);
  afterSetBack(store, WRONG - RIGHT);
};

describe('a clock that was set back', () => {
  it('lets watched places be looked at as often as before', () => {
    const target = { kind: 'folder' as const, target: '/srv/lists', name: 'Lists', options: { excludedEndings: [], checkAfter: false }, sourceId: null, everyMs: 15 * MINUTE }; // biome-ignore format: a watch
    const soon = addWatch(store, target, WRONG + 4 * MINUTE);
    const late = addWatch(store, target, WRONG - 2 * MINUTE);
    setBack();
    expect(dueWatches(store, RIGHT).map(({ id }) => id)).toEqual([late]);
    expect(dueWatches(store, RIGHT + 4 * MINUTE).map(({ id }) => id)).toContain(soon);
  });

  it('lets watched places be looked at after their time at most, where nobody knows how far it went back', () => {
    const target = { kind: 'folder' as const, target: '/srv/lists', name: 'Lists', options: { excludedEndings: [], checkAfter: false }, sourceId: null, everyMs: 15 * MINUTE }; // biome-ignore format: a watch
    addWatch(store, target, WRONG);
    vi.setSystemTime(RIGHT);
    afterSetBack(store, MINUTE);
    expect(dueWatches(store, RIGHT + 15 * MINUTE)).toHaveLength(1);
  });

  it('lets sieves run at their next hour, and not twice where it has not come', () => {
    const daily = saveSieve(store, 'Bees', 'c=name:bee');
    changeSieve(store, daily, { runs: 'daily', runMinute: 13 * 60 });
    saveSieve(store, 'By hand', 'c=name:hive');
    setBack();
    expect(dueSieves(store, RIGHT)).toEqual([]);
    expect(dueSieves(store, RIGHT + HOUR)).toEqual([daily]);
  });

  it('has orders asked after as soon as before, and sends what was for then at its own moment', () => {
    const briefId = saveBrief(store, { purpose: 'resell', subjectWords: [], trustedSites: [], excludedEndings: [], currency: 'EUR', name: 'Bees', budgetMinor: 100_000 }); // biome-ignore format: a brief
    const order = (name: string, sendAt: number | null) =>
      placeOrder(
        store,
        { briefId, domainId: putDomain(store, { name, ending: 'org' }, true, 1).id, venue: 'Saltmarch Exchange', url: null, kind: 'bid', amountMinor: 1000, currency: 'EUR', ratePpm: 1_000_000, feesMinor: 0, closesAt: null, sendAt, way: 'send' }, // biome-ignore format: an order
      );
    const sent = order('tarnhives.org', null);
    happen(store, sent.id, { kind: 'send' }, 'test', null, { attempts: 1, nextAt: WRONG + 5 * MINUTE });
    const then = order('ossencomb.org', WRONG + HOUR);
    setBack();
    const due = (at: number) => dueOrders(store, at, 10).map(({ id }) => id);
    expect(due(RIGHT + 5 * MINUTE)).toEqual([sent.id]);
    expect(due(RIGHT + DAY)).not.toContain(then.id);
    expect(due(WRONG + HOUR)).toContain(then.id);
  });

  it('tries names whose own servers were silent when their day has come', () => {
    const id = putDomain(store, { name: 'pellgate.org', ending: 'org' }, true, 1).id;
    const job = addJob(store, { kind: 'check', sourceId: null, params: {} });
    write(store, () => {
      addQuestions(store, job, [id], 'record');
      suspendQuestion(store, id, 'failed', 'unknown', OWN_SERVERS, WRONG + DAY);
    });
    setBack();
    expect(waitingNames(store)).toMatchObject([{ waitsFor: OWN_SERVERS, nextAt: RIGHT + DAY }]);
  });

  it('asks about watched names no later than it would have, a drop above all', () => {
    const { id } = putDomain(store, { name: 'tarnhives.org', ending: 'org' }, true, 1);
    write(store, () => setWatched(store, id, 'by hand', WRONG + 2 * HOUR));
    setBack();
    expect(askDue(store, RIGHT, 10)).toBe(0);
    expect(askDue(store, RIGHT + 2 * HOUR, 10)).toBe(1);
  });

  it('is known by the moment that was seen last', () => {
    expect(lastSeen(store)).toBeNull();
    keepSeen(store, WRONG);
    expect(lastSeen(store)).toBe(WRONG);
  });
});
