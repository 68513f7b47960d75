import { beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../base/database';
import { freshStore } from '../base/testing';
import { addHoldings, changeHolding } from '../portfolio/holdings';
import { noteInquiry } from '../portfolio/inquiries';
import { offerResale } from '../portfolio/resales';
import { addToShortlist } from '../shortlist/shortlist';
import { briefOfTest, domainOfTest, listingOfTest } from '../testing';
import { calendarEntries, deadlinesFor, myDeadlines } from './deadlines';
import { setWatched } from './watching';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const VENUE = 'Saltmarsh Exchange';
let store: Store;
let now: number;

beforeEach(async () => {
  store = await freshStore();
  now = store.now();
});

const watch = (id: number, reason: 'by hand' | 'near miss' = 'by hand') =>
  write(store, () => setWatched(store, id, reason, now));
const kindsOf = (id: number) => deadlinesFor(store, [id], now).map(({ kind }) => kind);

describe('deadlines', () => {
  it('are one’s own where a name is watched by hand, shortlisted or owned, and near misses where they are wanted', () => {
    const drop = { drop_from: now + HOUR, drop_to: now + 2 * HOUR, drop_conditional: 0 } as const;
    const [hand, near, listed, other] = ['hand', 'near', 'listed', 'other'].map(
      (name) => domainOfTest(store, `${name}.org`, drop).id,
    );
    watch(hand);
    watch(near, 'near miss');
    addToShortlist(store, briefOfTest(store).id, [listed]);
    const ids = (withNear: boolean) =>
      [...new Set(myDeadlines(store, now, withNear).map(({ domainId }) => domainId))].sort();
    expect(ids(false)).toEqual([hand, listed].sort());
    expect(ids(true)).toEqual([hand, near, listed].sort());
    expect(kindsOf(other)).toContain('drop');
  });

  it('tell each offer of its own, with its price, and the next step of one that falls', () => {
    const { id } = domainOfTest(store, 'tarnhives.org');
    listingOfTest(store, id, { venue: VENUE, kind: 'auction', priceMinor: 4250, bids: 2, closingAt: now + 5 * HOUR });
    const steps = [-1, 3].map((hours) => ({ at: now + hours * HOUR, priceMinor: 9000 - 1000 * hours }));
    listingOfTest(store, id, {
      venue: 'Quill Auctions',
      kind: 'falling',
      priceMinor: 10_000,
      steps,
      closingAt: now + 9 * HOUR,
    });
    const told = deadlinesFor(store, [id], now).map(({ kind, at, words, origin }) => [
      kind,
      (at - now) / HOUR,
      words,
      origin,
    ]);
    expect(told.find(([kind, hours]) => kind === 'closing' && hours === 5)?.[2]).toContain('42.5 EUR');
    expect(told.find(([kind]) => kind === 'price-step')?.[2]).toContain('60 EUR');
    listingOfTest(store, id, {
      venue: VENUE,
      kind: 'auction',
      priceMinor: 4250,
      state: 'sold',
      closingAt: now + 5 * HOUR,
    });
    expect(deadlinesFor(store, [id], now).some(({ at }) => at === now + 5 * HOUR)).toBe(false);
  });

  it('are renewals of what is owned until it is sold, and buyers who wait for an answer', () => {
    const bought = {
      boughtAt: null,
      costMinor: 900,
      currency: 'EUR',
      renewsAt: now + 9 * DAY,
      renewalMinor: 1250,
      seller: '',
    };
    addHoldings(store, [{ line: 1, name: 'tarnhives.org', ending: 'org', ...bought }]);
    const { id } = domainOfTest(store, 'tarnhives.org');
    expect(kindsOf(id)).toContain('renewal');
    const sale = {
      domainId: id,
      venue: 'a fair',
      askMinor: 9000,
      floorMinor: 5000,
      currency: 'EUR',
      text: 't',
      state: 'by hand' as const,
    };
    noteInquiry(store, offerResale(store, sale).id, { buyer: 'Hale', words: 'asks', offerMinor: 4000 });
    const mine = myDeadlines(store, now, false);
    expect(mine.filter(({ domainId }) => domainId === id).map(({ kind }) => kind)).toContain('renewal');
    changeHolding(store, id, { status: 'sold' });
    expect(kindsOf(id)).not.toContain('renewal');
  });
});

describe('the calendar', () => {
  const entries = (ids: number[], at = now) => calendarEntries(store, deadlinesFor(store, ids, now), at);
  const dropping = (from: number) => {
    const { id } = domainOfTest(store, 'tarnhives.org', { drop_from: from, drop_to: from + HOUR, drop_conditional: 0 });
    return id;
  };

  it('keeps an entry as it is while nothing changes, and counts each change', () => {
    const id = dropping(now + DAY);
    const [first] = entries([id]);
    expect(first).toMatchObject({ sequence: 0, changedAt: now, isCancelled: false });
    expect(entries([id], now + HOUR)[0]).toEqual(first);
    dropping(now + 2 * DAY);
    const [moved] = entries([id], now + 2 * HOUR);
    expect(moved).toMatchObject({ uid: first.uid, sequence: 1, changedAt: now + 2 * HOUR });
  });

  it('tells for a week that something is not expected any more, and again where it is', () => {
    const id = dropping(now + 30 * DAY);
    const [{ uid }] = entries([id]);
    const gone = entries([], now + HOUR);
    expect(gone).toMatchObject([{ uid, sequence: 1, isCancelled: true, changedAt: now + HOUR }]);
    expect(entries([], now + DAY)).toMatchObject([{ uid, sequence: 1, isCancelled: true, changedAt: now + HOUR }]);
    expect(entries([id], now + 2 * DAY)).toMatchObject([{ uid, sequence: 2, isCancelled: false }]);
    entries([], now + 3 * DAY);
    expect(entries([], now + 11 * DAY)).toEqual([]);
  });

  it('forgets what is over', () => {
    const id = dropping(now + HOUR);
    entries([id]);
    expect(entries([], now + 3 * DAY)).toEqual([]);
  });
});
