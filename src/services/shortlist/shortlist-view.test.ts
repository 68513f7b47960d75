import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import type { Brief } from '../../store/shortlist/briefs';
import { addToShortlist, changeShortlist } from '../../store/shortlist/shortlist';
import { briefOfTest, domainOfTest, listingOfTest } from '../../store/testing';
import { engineOfTest } from '../testing';
import { shortlistView } from './shortlist-view';

let store: Store;
let brief: Brief;
beforeEach(async () => {
  store = await freshStore();
  brief = briefOfTest(store, { budgetMinor: 40_000, currency: 'EUR', purpose: 'resell' });
});
const engine = engineOfTest({
  readNames: async (names) => names.map(() => null) as never,
  resaleWorth: async (names) => names.map(() => null),
});

describe('the shortlist with all that a decision wants', () => {
  it('says of each name when it is decided, by its auction, by its drop, or at no time, and what the plan thinks', async () => {
    const now = store.now();
    const lot = domainOfTest(store, 'tarnhives.org');
    listingOfTest(store, lot.id, { venue: 'Quayside Lots', kind: 'auction', priceMinor: 900, currency: 'EUR', closingAt: now + 3_600_000 }); // biome-ignore format: one line
    const dropping = domainOfTest(store, 'ossencomb.net', {
      phase: 'pending-delete',
      phase_at: now,
      drop_at: now + 7_200_000,
    });
    const idle = domainOfTest(store, 'pellgate.com', { phase: 'active', phase_at: now });
    addToShortlist(store, brief.id, [lot.id, dropping.id, idle.id]);
    changeShortlist(store, brief.id, lot.id, { worthLowMinor: 15_000, worthHighMinor: 42_000 });
    const other = briefOfTest(store, { name: 'Another guide' });
    addToShortlist(store, other.id, [idle.id]);
    const { entries, plan } = await shortlistView(store, engine, brief, [brief, other]);
    const of = (id: number) => entries.find(({ domainId }) => domainId === id);
    expect(entries).toHaveLength(3);
    expect(of(lot.id)).toMatchObject({ decidedAt: now + 3_600_000, bid: { isIn: true }, order: null, alsoIn: [] });
    expect(of(lot.id)?.planned?.worthLowMinor).toBe(15_000);
    expect(of(lot.id)?.mostMinor).toBeGreaterThan(900);
    expect(of(dropping.id)).toMatchObject({ decidedAt: now + 7_200_000, bid: null });
    expect(of(idle.id)).toMatchObject({ decidedAt: null, bid: null, maximum: null, alsoIn: ['Another guide'] });
    expect(plan).toMatchObject({ leftMinor: 40_000, heldBeforeMinor: 0, brief: { currency: 'EUR' } });
    expect(plan.heldMinor).toBeGreaterThan(0);
  });

  it('plans nothing of what is had, and holds the maximum of what waits for its outcome', async () => {
    const had = domainOfTest(store, 'tarnhives.org');
    const waiting = domainOfTest(store, 'ossencomb.net');
    addToShortlist(store, brief.id, [had.id, waiting.id]);
    changeShortlist(store, brief.id, had.id, { stage: 'had' });
    changeShortlist(store, brief.id, waiting.id, { stage: 'waiting', maximumBidMinor: 30_000 });
    const { entries, plan } = await shortlistView(store, engine, brief, [brief]);
    expect(entries.map(({ planned }) => planned)).toEqual([null, null]);
    expect([plan.heldBeforeMinor, plan.leftMinor]).toEqual([30_000, 10_000]);
  });
});
