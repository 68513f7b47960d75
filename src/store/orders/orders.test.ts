import fc from 'fast-check';
import { beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { OrderEvent } from '../../core/orders/order';
import { VENUE_STATES } from '../../core/orders/order';
import type { Store } from '../base/database';
import { changeSettings } from '../base/settings';
import { freshStore } from '../base/testing';
import { putDomain } from '../domains/domains';
import { readAllSales } from '../offers/sales';
import { listHoldings } from '../portfolio/holdings';
import { saveBrief } from '../shortlist/briefs';
import { shortlistedFor } from '../shortlist/shortlist';
import { commitment, costOfDay, LimitError, limitsLeft } from './commitments';
import { balances, readLedger } from './ledger';
import { orderLog } from './order-log';
import { type Order, readOrder } from './order-rows';
import { happen, type OrderInput, placeOrder } from './orders';

let store: Store;
let brief: number;
let names = 0;
const BRIEF = {
  purpose: 'resell' as const,
  subjectWords: [],
  trustedSites: [],
  excludedEndings: [],
  currency: 'EUR',
};

beforeAll(async () => {
  store = await freshStore();
});
beforeEach(() => {
  changeSettings(store, { dayLimitMinor: null, currency: 'EUR', rates: { GBP: 1.15 } });
  brief = saveBrief(store, { ...BRIEF, name: `brief ${names++}`, budgetMinor: 100_000 });
});

const newDomain = () => putDomain(store, { name: `orchard${names++}.org`, ending: 'org' }, true, 1).id;
const wish = (more: Partial<OrderInput> = {}): OrderInput => ({
  briefId: brief,
  domainId: more.domainId ?? newDomain(),
  venue: 'Saltmarch Exchange',
  url: null,
  kind: 'bid',
  amountMinor: 10_000,
  currency: 'EUR',
  ratePpm: 1_000_000,
  feesMinor: 1500,
  closesAt: null,
  sendAt: null,
  way: 'send',
  ...more,
});
const send = (order: Order) => happen(store, order.id, { kind: 'send' }, 'test', null);
const answer = (order: Order, state: (typeof VENUE_STATES)[number], finalMinor: number | null = null) =>
  happen(store, order.id, { kind: 'answer', state }, 'venue', null, { finalMinor });
const stageOf = (order: Order) => shortlistedFor(store, order.domainId)[0].stage;

describe('orders', () => {
  it('hold their maximum with fees, and give back what was not needed', () => {
    const order = placeOrder(store, wish());
    expect(balances(store, brief)).toEqual({ budget: -11_500, held: 11_500, spent: 0, fees: 0 });
    expect(stageOf(order)).toBe('waiting');
    send(order);
    answer(order, 'leading');
    answer(order, 'won', 6000);
    expect(balances(store, brief)).toEqual({ budget: -7500, held: 0, spent: 6000, fees: 1500 });
    expect(stageOf(order)).toBe('had');
    expect(listHoldings(store).find(({ domainId }) => domainId === order.domainId)).toMatchObject({
      costMinor: 6000,
      feesMinor: 1500,
      seller: 'Saltmarch Exchange',
      renewalMinor: 1500,
    });
    expect(orderLog(store, { orderId: order.id }).map(({ state }) => state)).toEqual([
      'won',
      'leading',
      'sent',
      'queued',
    ]);
  });

  it('that are lost keep the price as a sale, and leave the budget as it was', () => {
    const order = placeOrder(store, wish());
    send(order);
    answer(order, 'outbid');
    expect(balances(store, brief).held).toBe(0);
    expect(stageOf(order)).toBe('to act on');
    answer(order, 'lost', 24_000);
    expect(stageOf(order)).toBe('let go');
    expect(readAllSales(store).find(({ name }) => name === order.name)).toMatchObject({
      priceMinor: 24_000,
      currency: 'EUR',
    });
    expect(listHoldings(store).some(({ domainId }) => domainId === order.domainId)).toBe(false);
  });

  it('of another currency are held in the brief’s, at the rate of when they were given', () => {
    placeOrder(store, wish({ currency: 'GBP', ratePpm: 1_150_000, feesMinor: 0 }));
    changeSettings(store, { rates: { GBP: 9 } });
    expect(balances(store, brief).held).toBe(11_500);
  });

  it('break no limit: not of the brief, not of the day, and a raise counts by what it adds', () => {
    const first = placeOrder(store, wish({ amountMinor: 80_000, feesMinor: 0 }));
    expect(() => placeOrder(store, wish({ amountMinor: 20_001, feesMinor: 0 }))).toThrow(LimitError);
    placeOrder(store, wish({ domainId: first.domainId, amountMinor: 95_000, feesMinor: 0 }));
    expect(limitsLeft(store, brief).briefMinor).toBe(5000);
    changeSettings(store, { dayLimitMinor: costOfDay(store, store.now()) + 3000 });
    expect(() => placeOrder(store, wish({ amountMinor: 3001, feesMinor: 0 }))).toThrow(/day/);
    placeOrder(store, wish({ amountMinor: 3000, feesMinor: 0 }));
    expect(limitsLeft(store, brief).dayMinor).toBe(0);
    expect(readLedger(store, brief).filter(({ account }) => account === 'held')).toHaveLength(3);
  });

  it('for one name at two venues are held for twice, since both may be won', () => {
    const first = placeOrder(store, wish({ amountMinor: 60_000, feesMinor: 0 }));
    const there = { domainId: first.domainId, venue: 'Quayside Lots', feesMinor: 0 };
    expect(() => placeOrder(store, wish({ ...there, amountMinor: 60_000 }))).toThrow(LimitError);
    const second = placeOrder(store, wish({ ...there, amountMinor: 40_000 }));
    expect(balances(store, brief).held).toBe(100_000);
    for (const order of [first, second]) {
      send(order);
      answer(order, 'won', order.amountMinor);
    }
    expect(limitsLeft(store, brief).briefMinor).toBe(0);
  });

  it('of a dry run hold nothing, move nothing and never go out', () => {
    const order = placeOrder(store, wish({ way: 'dry', amountMinor: 1e9 }));
    expect(order).toMatchObject({ state: 'dry', nextAt: null });
    expect(commitment(store, brief).heldMinor).toBe(0);
    expect(shortlistedFor(store, order.domainId)).toEqual([]);
    expect(send(order)).toBeNull();
    expect(orderLog(store, { orderId: order.id })[0].words).toContain('a dry run');
  });

  it('done by hand end as the person says', () => {
    const order = placeOrder(store, wish({ way: 'by hand' }));
    expect(send(order)).toBeNull();
    happen(store, order.id, { kind: 'hand', outcome: 'won' }, 'you', null, { finalMinor: 9000 });
    expect(balances(store, brief)).toMatchObject({ held: 0, spent: 9000 });
  });

  it('cannot have their ledger or their log rewritten', () => {
    placeOrder(store, wish());
    expect(() => store.raw.prepare('UPDATE ledger SET amount_minor = 0').run()).toThrow(/not changed/);
    expect(() => store.raw.prepare('DELETE FROM ledger').run()).toThrow(/not changed/);
    expect(() => store.raw.prepare(`UPDATE order_events SET words = ''`).run()).toThrow(/not changed/);
  });

  it('keep ledger and orders equal, whatever happens in whatever order', () => {
    const happened: fc.Arbitrary<OrderEvent> = fc.oneof(
      { weight: 2, arbitrary: fc.constant<OrderEvent>({ kind: 'send' }) },
      {
        weight: 1,
        arbitrary: fc.constantFrom<OrderEvent>({ kind: 'no trace' }, { kind: 'withdraw' }, { kind: 'refuse' }),
      },
      {
        weight: 4,
        arbitrary: fc.constantFrom(...VENUE_STATES).map((state): OrderEvent => ({ kind: 'answer', state })),
      },
    );
    const step = fc.record({
      isNew: fc.boolean(),
      which: fc.nat(5),
      amountMinor: fc.integer({ min: 1, max: 60_000 }),
      ratePpm: fc.constantFrom(1_000_000, 1_150_000, 869_565),
      event: happened,
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 25 }), (steps) => {
        const id = saveBrief(store, { ...BRIEF, name: `brief ${names++}`, budgetMinor: 100_000 });
        const domains = [newDomain(), newDomain(), newDomain()];
        const orders: Order[] = [];
        for (const { isNew, which, amountMinor, ratePpm, event } of steps) {
          if (isNew || orders.length === 0) {
            try {
              orders.push(placeOrder(store, wish({ briefId: id, domainId: domains[which % 3], amountMinor, ratePpm })));
            } catch (error) {
              expect(error).toBeInstanceOf(LimitError);
            }
          } else {
            const order = orders[which % orders.length];
            const before = readOrder(store, order.id);
            const after = happen(store, order.id, event, 'test', null, {
              finalMinor: Math.min(amountMinor, order.amountMinor),
            });
            if (before?.endedAt !== null) expect(after).toBeNull();
          }
          const { held, spent, fees, budget } = balances(store, id);
          expect({ heldMinor: held, spentMinor: spent, feesMinor: fees }).toEqual(commitment(store, id));
          expect(budget + held + spent + fees).toBe(0);
        }
        const postings = store.raw
          .prepare('SELECT sum(amount_minor) FROM ledger WHERE brief_id = ? GROUP BY posting')
          .pluck()
          .all(id);
        expect(postings.every((sum) => sum === 0)).toBe(true);
      }),
      { numRuns: 40 },
    );
  });
});
