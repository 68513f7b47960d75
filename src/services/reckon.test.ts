import { beforeEach, describe, expect, it } from 'vitest';
import { freeName } from '../core/free-name';
import type { Listing } from '../core/listings/listing';
import { type Store, write } from '../store/base/database';
import { changeSettings } from '../store/base/settings';
import { freshStore } from '../store/base/testing';
import { findDomain, putDomain } from '../store/domains/domains';
import { putVerdict } from '../store/lifecycle/verdicts';
import { updateBestListing } from '../store/offers/best-listing';
import { furtherOffers, putListing } from '../store/offers/listings';
import { registrationPrice } from '../store/offers/ways';
import { happen, placeOrder } from '../store/orders/orders';
import { type Brief, listBriefs, saveBrief } from '../store/shortlist/briefs';
import { addToShortlist, changeShortlist } from '../store/shortlist/shortlist';
import { addSource } from '../store/sources/sources';
import { concernsOf } from './dossier/concerns';
import { waysFor } from './orders/ways';
import { reckon } from './plan/plan';

const RATES = { home: 'EUR', worth: { GBP: 1.2 } };
let store: Store;
let brief: Brief;
let count = 0;

beforeEach(async () => {
  store = await freshStore();
  changeSettings(store, { rates: RATES.worth });
  const id = saveBrief(store, {
    name: 'Hives',
    purpose: 'resell',
    subjectWords: ['hive'],
    trustedSites: [],
    excludedEndings: [],
    budgetMinor: 500_000,
    currency: 'EUR',
    renewalMinor: 1300,
  });
  brief = listBriefs(store).find((one) => one.id === id) as Brief;
});

const domain = () => putDomain(store, { name: `pellgate${count++}.org`, ending: 'org' }, true, 1).id;
const row = (id: number) => findDomain(store, `pellgate${id - 1}.org`);
const listed = (id: number, venue: string, part: Partial<Listing>) =>
  write(store, () => {
    const source = addSource(store, 'venue', `${venue} ${id}`, {});
    putListing(
      store,
      id,
      source,
      { kind: 'buy-now', venue, state: 'open', priceMinor: 1000, currency: 'EUR', reserve: null, bids: null, closingAt: null, steps: [], url: null, ...part },
      store.now(),
    ); // biome-ignore format: one listing
    updateBestListing(store, id, store.now(), RATES);
  });
const free = (id: number, registrar: { outcome: string; priceMinor: number | null } | null = null) =>
  write(store, () =>
    putVerdict(
      store,
      id,
      store.now(),
      registrar === null
        ? []
        : [
            {
              step: 'registrar',
              server: 'registrar.test',
              detail: '',
              elapsedMs: 1,
              currency: 'EUR',
              ...registrar,
            },
          ],
      { phase: 'free', confidence: 0.9, reason: 'not there', contradictions: [] } as never,
      null,
    ),
  );
const shortlisted = (id: number, low = 20_000, high = 40_000) => {
  addToShortlist(store, brief.id, [id]);
  changeShortlist(store, brief.id, id, { worthLowMinor: low, worthHighMinor: high });
};
const named = (id: number) => {
  const found = store.raw.prepare('SELECT name FROM domains WHERE id = ?').pluck().get(id) as string;
  return findDomain(store, found) as NonNullable<ReturnType<typeof row>>;
};

describe('the ways to have a name', () => {
  it('are those of all venues, in what they cost in all, whatever their currency', () => {
    const id = domain();
    listed(id, 'Dear', { priceMinor: 5000, currency: 'GBP' });
    listed(id, 'Cheap', { priceMinor: 5500 });
    free(id, { outcome: 'available', priceMinor: 900 });
    const [ways] = waysFor(store, brief, [{ domain: named(id) }]);
    expect(ways.map(({ venue, costMinor }) => [venue, costMinor])).toEqual([
      ['a registrar', 900],
      ['Cheap', 7000],
      ['Dear', 7500],
    ]);
  });

  it('by registration cost what the registrar says, else one’s own registrations, Settings, a renewal: and say which', () => {
    const id = domain();
    free(id);
    const said = () => {
      const { priceMinor, says, isPremium } = registrationPrice(store, named(id), brief);
      return [priceMinor, says, isPremium];
    };
    expect(said()).toEqual([1300, 'brief', false]);
    changeSettings(store, { registrationPrices: { '*': 1500 } });
    expect(said()).toEqual([1500, 'settings', false]);
    changeSettings(store, { registrationPrices: { '*': 1500, org: 1100 } });
    expect(said()).toEqual([1100, 'settings', false]);
    const mine = domain();
    const order = placeOrder(store, {
      briefId: brief.id, domainId: mine, venue: 'a registrar', url: null, kind: 'register', amountMinor: 990, currency: 'EUR',
      ratePpm: 1_000_000, feesMinor: 0, closesAt: null, sendAt: null, way: 'by hand',
    }); // biome-ignore format: one order
    happen(store, order.id, { kind: 'hand', outcome: 'won' }, 'you', null, { finalMinor: 990 });
    expect(said()).toEqual([990, 'own registrations', false]);
    free(id, { outcome: 'premium', priceMinor: 250_000 });
    expect(said()).toEqual([250_000, 'registrar', true]);
  });
});

describe('the reckoning of a shortlist', () => {
  it('does not plan a premium name for the fee of a plain one', () => {
    const [plain, premium] = [domain(), domain()];
    for (const id of [plain, premium]) shortlisted(id);
    free(plain, { outcome: 'available', priceMinor: 1000 });
    free(premium, { outcome: 'premium', priceMinor: 250_000 });
    const { plan } = reckon(store, brief);
    const bid = (id: number) => plan.bids.find((one) => one.id === id);
    expect(bid(plain)).toMatchObject({ isIn: true, bidMinor: 1000 });
    expect(bid(premium)).toMatchObject({ isIn: false });
    expect(bid(premium)?.why).toContain('it costs at least 2,500');
  });

  it('takes the cheaper of two venues, and says the maximum that an order and the shortlist say', () => {
    const id = domain();
    shortlisted(id);
    listed(id, 'Dear', { priceMinor: 9000 });
    listed(id, 'Cheap', { priceMinor: 6000 });
    const { plan, entries } = reckon(store, brief);
    expect(entries[0].way).toMatchObject({ venue: 'Cheap' });
    expect(plan.bids[0]).toMatchObject({ isIn: true, bidMinor: 6000 });
    expect(entries[0].maximum).toEqual(plan.bids[0].maximum);
    expect(entries[0].mostMinor).toBe(plan.bids[0].bidMinor);
  });

  it('goes by the person’s own maximum, and says no other figure', () => {
    const id = domain();
    shortlisted(id);
    listed(id, 'Quillmere', { kind: 'auction', priceMinor: 1000, bids: 3, closingAt: store.now() + 3_600_000 });
    const before = reckon(store, brief).entries[0];
    changeShortlist(store, brief.id, id, { maximumBidMinor: 5000 });
    const after = reckon(store, brief).entries[0];
    expect(before.mostMinor).toBeGreaterThan(5000);
    expect(after.mostMinor).toBe(5000);
    expect(after.maximum?.maximumMinor).toBe(before.maximum?.maximumMinor);
  });

  it('counts a falling price by the same worth as all else', () => {
    const id = domain();
    shortlisted(id);
    const at = store.now();
    const steps = [30_000, 20_000, 10_000].map((priceMinor, n) => ({ at: at + (n - 0.5) * 3_600_000, priceMinor }));
    listed(id, 'Quillmere', { kind: 'falling', priceMinor: 30_000, steps, closingAt: at + 9 * 3_600_000 });
    const [{ way, maximum }] = reckon(store, brief).entries;
    const [first] = way?.falling?.steps ?? [];
    // what it brings at a step is what it counts as today, less its price and fees
    const worth = (maximum?.presentMinor ?? 0) - (maximum?.renewalsMinor ?? 0);
    expect(first.expectedMinor).toBeCloseTo(worth - 30_000 - brief.feesMinor, -1);
  });
});

describe('what should be known before money moves', () => {
  it('names a reservation, a trademark and a spam risk', () => {
    const id = domain();
    store.raw
      .prepare(
        `UPDATE domains SET phase = 'not-registrable', phase_reason = 'Reserved by the registry.', spam_risk = 80`,
      )
      .run();
    store.raw.prepare('INSERT INTO inspections (domain_id, marks_found) VALUES (?, 1)').run(id);
    const concerns = concernsOf(store, named(id), {});
    expect(concerns).toContain('it cannot be registered: Reserved by the registry.');
    expect(concerns).toContain('its spam risk is 80 of 100');
    expect(concerns).toContain('a trademark is like it');
  });
});

it('tells the index of all open offers but the one that is shown', () => {
  const id = domain();
  listed(id, 'Cheap', { kind: 'auction', priceMinor: 500, bids: 2 });
  listed(id, 'Dear', { priceMinor: 9000, currency: 'GBP' });
  listed(id, 'Gone', { priceMinor: 100, state: 'sold' });
  const { venue, listing } = named(id);
  expect(venue).toBe('Cheap');
  expect(furtherOffers(store, { id, venue, listing }, RATES)).toEqual([
    { listing: 'buy-now', venue: 'Dear', price: 108, bids: null, closing: null },
  ]);
});

it('gives what is shared a name of its own where its name is taken', () => {
  expect(freeName('Hives', [])).toBe('Hives');
  expect(freeName('Hives', ['Hives', 'Hives (2)'])).toBe('Hives (3)');
});
