import { beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../../store/base/database';
import { changeSettings, readSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { putVerdict } from '../../store/lifecycle/verdicts';
import type { Order } from '../../store/orders/order-rows';
import { happen, type OrderInput, placeOrder } from '../../store/orders/orders';
import type { Brief } from '../../store/shortlist/briefs';
import { addToShortlist, changeShortlist } from '../../store/shortlist/shortlist';
import { briefOfTest, domainOfTest, listingOfTest } from '../../store/testing';
import { ordersToShow, orderViews } from './orders';
import { buyTerms, estimatesFor, maximumFor, waysFor, worthOf } from './ways';

const HOUR = 3_600_000;
const VENUE = 'Saltmarsh Exchange';
let store: Store;
let brief: Brief;

beforeEach(async () => {
  store = await freshStore();
  changeSettings(store, { rates: { GBP: 1.25 } });
  brief = briefOfTest(store, { renewalMinor: 1200, feesMinor: 300, marginPercent: 20 });
});

const place = (name: string, more: Partial<OrderInput> = {}): Order =>
  placeOrder(store, {
    briefId: brief.id, domainId: domainOfTest(store, name).id, venue: VENUE, url: null, kind: 'bid', amountMinor: 4000, currency: 'EUR',
    ratePpm: 1_000_000, feesMinor: 0, closesAt: null, sendAt: null, way: 'send', ...more,
  }); // biome-ignore format: one order
const end = (order: Order) => {
  happen(store, order.id, { kind: 'send' }, 'test', null, { sentAt: store.now() });
  happen(store, order.id, { kind: 'answer', state: 'lost' }, VENUE, null, { finalMinor: 9000 });
};

describe('orders as they are shown', () => {
  it('say the worth in the order’s own currency, and the most it costs in the brief’s', () => {
    const order = place('tarnhives.org', { currency: 'GBP', ratePpm: 1_250_000, feesMinor: 500 });
    addToShortlist(store, brief.id, [order.domainId]);
    changeShortlist(store, brief.id, order.domainId, { worthLowMinor: 10_000, worthHighMinor: 25_000 });
    const [view] = orderViews(store, [order]);
    expect(view).toMatchObject({
      briefName: 'Hives',
      briefCurrency: 'EUR',
      worthLowMinor: 8000,
      worthHighMinor: 20_000,
    });
    // 40.00 GBP at 1.25, and 5.00 of fees
    expect(view.mostMinor).toBe(5500);
  });

  it('say no worth where none was said', () => {
    const order = place('tarnhives.org');
    expect(orderViews(store, [order])[0]).toMatchObject({ worthLowMinor: null, worthHighMinor: null });
  });

  it('are those that are open and the last that ended, of one brief or of all', () => {
    const open = place('tarnhives.org');
    for (const name of ['wexcombe.org', 'ossenmere.org', 'quillmere.org']) end(place(name));
    const other = briefOfTest(store, { name: 'Apiaries' });
    place('saltmarsh.org', { briefId: other.id });
    const shown = ordersToShow(store, brief.id, 2);
    expect(shown.open.map(({ id }) => id)).toEqual([open.id]);
    expect(shown.ended.map(({ name }) => name)).toEqual(['quillmere.org', 'ossenmere.org']);
    expect(ordersToShow(store, null).open).toHaveLength(2);
    expect(ordersToShow(store, other.id).ended).toEqual([]);
  });
});

describe('the most to pay', () => {
  const said = { worthLowMinor: 20_000, worthHighMinor: 40_000, feesMinor: null };
  const priced = (name: string, part: Parameters<typeof listingOfTest>[2]) => {
    const domain = domainOfTest(store, name);
    listingOfTest(store, domain.id, part);
    return waysFor(store, brief, [{ domain, said }])[0][0];
  };

  it('is not told until it is said what the name is worth', () => {
    expect(maximumFor(brief, { worthLowMinor: null, worthHighMinor: 5, feesMinor: null }, null)).toBeNull();
    expect(worthOf(said)).not.toBeNull();
  });

  it('is less for fees, and falls with the margin that is wanted', () => {
    const plain = maximumFor(brief, said, null);
    const dear = maximumFor(brief, { ...said, feesMinor: 2300 }, null);
    expect((plain?.plainMinor ?? 0) - (dear?.plainMinor ?? 0)).toBe(2000);
    const keen = maximumFor({ ...brief, marginPercent: 100 }, said, null);
    expect(keen?.plainMinor).toBeLessThan(plain?.plainMinor as number);
    expect(buyTerms(brief)).toMatchObject({ margin: 0.2, renewalMinor: 1200 });
  });

  it('is held back in an auction by what winning tells, and not where a price is just paid', () => {
    const dear = { ...said, worthLowMinor: 10_000, worthHighMinor: 90_000 };
    const auction = priced('tarnhives.org', {
      venue: VENUE,
      kind: 'auction',
      priceMinor: 12_000,
      bids: 4,
      closingAt: store.now() + HOUR,
    });
    const bought = priced('wexcombe.org', { venue: VENUE, kind: 'buy-now', priceMinor: 2000 });
    expect(maximumFor(brief, dear, auction)?.curseMinor).toBeGreaterThan(0);
    expect(maximumFor(brief, dear, bought)?.curseMinor).toBe(0);
  });
});

describe('ways and what is thought of them', () => {
  it('say nothing to weigh where the price is in a currency without a rate', () => {
    const domain = domainOfTest(store, 'tarnhives.org');
    listingOfTest(store, domain.id, { venue: VENUE, priceMinor: 5000, currency: 'NOK' });
    const [[way]] = waysFor(store, brief, [{ domain }]);
    expect(way).toMatchObject({ venue: VENUE, currency: 'NOK', offer: null });
  });

  it('of an open offer are not weighed, and of a backorder by the chance that settings have', () => {
    const [offered, back] = ['tarnhives.org', 'wexcombe.org'].map((name) => domainOfTest(store, name));
    listingOfTest(store, offered.id, { venue: VENUE, kind: 'offer', priceMinor: 5000 });
    listingOfTest(store, back.id, { venue: VENUE, kind: 'backorder', priceMinor: 6900 });
    const [[first], [second]] = waysFor(store, brief, [{ domain: offered }, { domain: back }]);
    expect(first.offer).toBeNull();
    expect(second.offer).toMatchObject({ kind: 'fixed', chance: readSettings(store).chances.backorder });
  });

  it('are kept with an order, in its currency', () => {
    const domain = domainOfTest(store, 'tarnhives.org');
    listingOfTest(store, domain.id, { venue: VENUE, kind: 'buy-now', priceMinor: 5000, currency: 'GBP' });
    addToShortlist(store, brief.id, [domain.id]);
    changeShortlist(store, brief.id, domain.id, { worthLowMinor: 10_000, worthHighMinor: 25_000 });
    const estimates = estimatesFor(store, brief.id, domain.id, { venue: VENUE, kind: 'buy', amountMinor: 5000 });
    expect(estimates).toEqual({
      worthLowMinor: 8000,
      worthHighMinor: 20_000,
      winChance: readSettings(store).chances.buyNow,
    });
    expect(estimatesFor(store, 4711, domain.id, { venue: VENUE, kind: 'buy', amountMinor: 5000 })).toEqual({});
  });

  it('give a bid a better chance the higher it is', () => {
    const domain = domainOfTest(store, 'tarnhives.org');
    listingOfTest(store, domain.id, {
      venue: VENUE,
      kind: 'auction',
      priceMinor: 3000,
      bids: 3,
      closingAt: store.now() + HOUR,
    });
    const chance = (amountMinor: number) =>
      estimatesFor(store, brief.id, domain.id, { venue: VENUE, kind: 'bid', amountMinor }).winChance ?? 0;
    expect(chance(3500)).toBeLessThan(chance(8000));
    expect(chance(8000)).toBeLessThan(chance(60_000));
  });

  it('give a registration the chance of what is free', () => {
    const { id } = domainOfTest(store, 'tarnhives.org');
    write(store, () =>
      putVerdict(
        store,
        id,
        store.now(),
        [],
        { phase: 'free', confidence: 1, reason: '', contradictions: [] } as never,
        null,
      ),
    );
    const order = { venue: 'a registrar', kind: 'register', amountMinor: 1000 } as const;
    expect(estimatesFor(store, brief.id, id, order)).toEqual({ winChance: readSettings(store).chances.free });
  });
});
