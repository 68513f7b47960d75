import { beforeEach, describe, expect, it } from 'vitest';
import type { Verdict } from '../../core/lifecycle/phase';
import { type Store, write } from '../../store/base/database';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { type CheckEntry, putVerdict } from '../../store/lifecycle/verdicts';
import { LimitError } from '../../store/orders/commitments';
import type { Order } from '../../store/orders/order-rows';
import { happen } from '../../store/orders/orders';
import { addHoldings } from '../../store/portfolio/holdings';
import { type Brief, saveBrief } from '../../store/shortlist/briefs';
import { briefOfTest, domainOfTest, listingOfTest } from '../../store/testing';
import { FRESH_VERDICT_MS, OrderRefused, type OrderWish, place, rateBetween, termsOf } from './place';

const VENUE = 'Saltmarsh Exchange';
const DAY = 86_400_000;
let store: Store;
let brief: Brief;
let domain: number;

beforeEach(async () => {
  store = await freshStore();
  changeSettings(store, { isDryRun: false, rates: { GBP: 1.25 }, dayLimitMinor: null });
  brief = briefOfTest(store, { feesMinor: 300 });
  domain = domainOfTest(store, 'tarnhives.org').id;
  listingOfTest(store, domain, { venue: VENUE, priceMinor: 5000, url: 'https://saltmarsh.test/tarnhives.org' });
});

const order = (part: Partial<OrderWish> = {}): Order =>
  place(store, { briefId: brief.id, domainId: domain, venue: VENUE, kind: 'buy', amountMinor: 5000, ...part });
const account = (part = {}) => ({ venue: VENUE, address: 'http://127.0.0.1:9/', key: 'k', currency: 'GBP', ...part });
const checks = (...said: [CheckEntry['step'], string][]): CheckEntry[] =>
  said.map(([step, outcome]) => ({ step, server: 's', outcome, detail: '', elapsedMs: 1 }));
const FREE: Verdict = { phase: 'free', confidence: 0.95, reason: 'not there', contradictions: [] } as never;
const verdict = (
  part: Partial<Verdict>,
  at = store.now(),
  entries = checks(['dns', 'nxdomain'], ['rdap', 'not-found']),
) => write(store, () => putVerdict(store, domain, at, entries, { ...FREE, ...part }, null));
const register = () => order({ venue: 'a registrar', kind: 'register', amountMinor: 1200 });

describe('an order', () => {
  it('goes out where the venue has an account, is done by hand where not, and is only written down in a dry run', () => {
    expect(order()).toMatchObject({
      state: 'by hand',
      url: 'https://saltmarsh.test/tarnhives.org',
      currency: 'EUR',
      feesMinor: 300,
    });
    happen(store, 1, { kind: 'hand', outcome: 'lost' }, 'you', null);
    changeSettings(store, { accounts: [account()] });
    expect(order()).toMatchObject({ state: 'queued', currency: 'GBP', ratePpm: 1_250_000 });
    happen(store, 2, { kind: 'withdraw' }, 'you', null);
    changeSettings(store, { isDryRun: true });
    expect(order()).toMatchObject({ state: 'dry' });
  });

  it('that comes again under the same key is the same one, and another under it is refused', () => {
    const first = order({ clientKey: 'a-key' });
    expect(order({ clientKey: 'a-key' }).id).toBe(first.id);
    expect(() => order({ clientKey: 'a-key', amountMinor: 6000 })).toThrow('under a key of its own');
  });

  it.each([
    ['of a domain that is not known', { domainId: 4711 }, 'not in the pool'],
    ['for a brief that is not there', { briefId: 4711 }, 'no such brief'],
    ['at a venue that does not offer it', { venue: 'Elsewhere' }, 'Elsewhere does not offer it'],
  ])('%s is refused', (_, part, words) => {
    expect(() => order(part)).toThrow(OrderRefused);
    expect(() => order(part)).toThrow(words);
  });

  it('is refused before its brief begins and after it ended, and taken on its last day', () => {
    const set = (fromAt: number | null, untilAt: number | null) =>
      saveBrief(store, { ...brief, fromAt, untilAt }, brief.id);
    set(store.now() + DAY, null);
    expect(() => order()).toThrow(/begins on \d{4}/);
    set(null, store.now() - 2 * DAY);
    expect(() => order()).toThrow(/ended on \d{4}/);
    set(store.now() - DAY, store.now() - DAY / 2);
    expect(order().state).toBe('by hand');
  });

  it('is refused for what is owned, or ordered for another brief, or under way', () => {
    const other = briefOfTest(store, { name: 'Apiaries' });
    const first = order();
    expect(() => order()).toThrow('stands already: by hand');
    expect(() => order({ briefId: other.id })).toThrow('it is ordered for Hives already');
    happen(store, first.id, { kind: 'hand', outcome: 'lost' }, 'you', null);
    const bought = { boughtAt: null, costMinor: 1, currency: null, renewsAt: null, renewalMinor: null, seller: '' };
    addHoldings(store, [{ line: 1, name: 'tarnhives.org', ending: 'org', ...bought }]);
    expect(() => order()).toThrow('you own it already');
  });

  it('raises a bid only upwards, and not while one is on its way', () => {
    changeSettings(store, { accounts: [account({ currency: 'EUR' })] });
    listingOfTest(store, domain, { venue: VENUE, kind: 'auction', priceMinor: 1000, bids: 1 });
    const bid = (amountMinor: number) => order({ kind: 'bid', amountMinor });
    const first = bid(2000);
    expect(() => bid(3000)).toThrow('on its way');
    happen(store, first.id, { kind: 'send' }, 'test', null, { sentAt: store.now() });
    happen(store, first.id, { kind: 'answer', state: 'outbid' }, VENUE, null);
    expect(() => bid(2000)).toThrow('a raised bid is higher than the last');
    expect(bid(3000)).toMatchObject({ state: 'queued', amountMinor: 3000 });
  });

  it('is refused where no rate is set, and where it would break a limit', () => {
    listingOfTest(store, domain, { venue: VENUE, priceMinor: 5000, currency: 'NOK' });
    expect(() => order()).toThrow('no rate is set between NOK and EUR');
    expect(rateBetween(store, 'GBP', 'EUR')).toBe(1_250_000);
    expect(rateBetween(store, 'EUR', 'NOK')).toBeNull();
    listingOfTest(store, domain, { venue: VENUE, priceMinor: 5000 });
    changeSettings(store, { dayLimitMinor: 4000 });
    expect(() => order()).toThrow(LimitError);
  });
});

describe('a registration', () => {
  it('wants a fresh verdict that says free, by those who can know, without a contradiction', () => {
    expect(register).toThrow('its verdict is not fresh');
    verdict({}, store.now() - FRESH_VERDICT_MS - 1000);
    expect(register).toThrow('its verdict is not fresh');
    verdict({ phase: 'active' });
    expect(register).toThrow('it is not available: active');
    verdict({ contradictions: ['DNS says taken, RDAP says free'] });
    expect(register).toThrow('the checks disagree: DNS says taken');
    verdict({});
    expect(register()).toMatchObject({ kind: 'register', feesMinor: 0, state: 'by hand' });
  });

  it('rests on two ways at least', () => {
    verdict({}, store.now(), checks(['dns', 'nxdomain']));
    expect(register).toThrow(OrderRefused);
  });

  it('wants the registrar’s word too, where one can be asked', () => {
    changeSettings(store, { registrar: 'http://127.0.0.1:9/' });
    verdict({});
    expect(register).toThrow('the registrar has not said yet');
    verdict({}, store.now(), checks(['dns', 'nxdomain'], ['rdap', 'not-found'], ['registrar', 'available']));
    expect(register().state).toBe('by hand');
  });
});

describe('the terms of a domain', () => {
  it('are all ways to have it, the cheapest first, with what limits leave', async () => {
    listingOfTest(store, domain, { venue: 'Quill Auctions', priceMinor: 4000 });
    const terms = await termsOf(store, brief.id, domain);
    expect(terms).toMatchObject({ name: 'tarnhives.org', isOwned: false, isDryRun: false, brief: { currency: 'EUR' } });
    expect(
      terms.ways.map(({ venue, costMinor, isLive, hasAccount }) => [venue, costMinor, isLive, hasAccount]),
    ).toEqual([
      ['Quill Auctions', 4300, false, false],
      [VENUE, 5300, false, false],
    ]);
    expect(terms.limits.briefMinor).toBe(500_000);
  });

  it('say that a venue with an account does not answer, beside what its listing said', async () => {
    changeSettings(store, { accounts: [account({ currency: 'EUR' })] });
    const { ways } = await termsOf(store, brief.id, domain);
    expect(ways).toMatchObject([{ venue: VENUE, isLive: false, hasAccount: true, refusal: null, priceMinor: 5000 }]);
  });

  it('tell of a registration where nothing else is known, and why it cannot be had', async () => {
    const other = domainOfTest(store, 'wexcombe.org', { phase: 'free', phase_at: store.now() }).id;
    const { ways } = await termsOf(store, brief.id, other);
    expect(ways).toMatchObject([{ kind: 'register' }]);
    expect(ways[0].refusal).not.toBeNull();
    await expect(termsOf(store, brief.id, 4711)).rejects.toThrow('not in the pool');
  });
});
