import { mkdtempSync, readFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Outbox } from '../src/engine/orders/outbox';
import { OrderRefused, type OrderWish, place, termsOf } from '../src/engine/orders/place';
import { type Store, write } from '../src/store/base/database';
import { changeSettings } from '../src/store/base/settings';
import { freshStore } from '../src/store/base/testing';
import { putDomain } from '../src/store/domains/domains';
import { type CheckStep, putVerdict } from '../src/store/lifecycle/verdicts';
import { readAllSales } from '../src/store/offers/sales';
import { commitment } from '../src/store/orders/commitments';
import { balances } from '../src/store/orders/ledger';
import { orderLog } from '../src/store/orders/order-log';
import { type Order, readOrder } from '../src/store/orders/order-rows';
import { happen } from '../src/store/orders/orders';
import { listHoldings } from '../src/store/portfolio/holdings';
import { saveBrief } from '../src/store/shortlist/briefs';
import { ACCOUNT_KEY, VenueAccounts } from '../standins/accounts';
import { availabilityOf, REGISTRAR_HOST } from '../standins/registrar';
import { type Lot, listingsOf, VENUES } from '../standins/venues';
import { makeWeb } from '../standins/web';
import { makeWorld, stateAt, type World } from '../standins/world';

const START = Date.UTC(2026, 10, 20, 8);
const HOUR = 3_600_000;
const [EXCHANGE] = VENUES;

let store: Store;
let world: World;
let web: Server;
let outbox: Outbox;
let brief: number;
const journal = join(mkdtempSync(join(tmpdir(), 'desk-')), 'orders.jsonl');
const silent = pino({ level: 'silent' });
const now = () => store.now();
const accountsAt = (path = 'desk') => [
  { venue: EXCHANGE.name, address: `http://${EXCHANGE.host}/${path}`, key: ACCOUNT_KEY, currency: EXCHANGE.currency },
  { venue: 'Coombe Names', address: `http://${REGISTRAR_HOST}/${path}`, key: ACCOUNT_KEY, currency: 'EUR' },
];

beforeAll(async () => {
  world = makeWorld(3, START, 1500);
  let shownNow = () => START;
  web = makeWeb(world, () => shownNow(), new VenueAccounts(world, journal));
  await new Promise<void>((done) => web.listen(0, '127.0.0.1', done));
  store = await freshStore({
    clock: { worldStart: new Date(START).toISOString(), realStart: new Date().toISOString() },
    connector: `127.0.0.1:${(web.address() as AddressInfo).port}`,
    settings: { isDryRun: false, accounts: accountsAt(), registrarAccount: 'Coombe Names', dayLimitMinor: null },
  });
  shownNow = now;
  brief = saveBrief(store, {
    name: 'b',
    purpose: 'resell',
    subjectWords: [],
    trustedSites: [],
    excludedEndings: [],
    budgetMinor: null,
    currency: 'EUR',
  });
  outbox = new Outbox(store, () => undefined, silent);
});
afterAll(async () => {
  await outbox.close();
  web.closeAllConnections();
  web.close();
});

const taken = new Set<string>();
/** A lot of the exchange that no test has had yet. */
function lot(fits: (lot: Lot) => boolean): Lot {
  const found = listingsOf(world, EXCHANGE, now()).find(
    (one) => one.state === 'open' && !taken.has(one.domain) && fits(one),
  );
  if (!found) throw new Error('the world has no such lot');
  taken.add(found.domain);
  return found;
}
const idOf = (name: string) => putDomain(store, { name, ending: name.slice(name.indexOf('.') + 1) }, true, 1).id;
const wish = (domain: string, more: Partial<OrderWish> = {}): OrderWish => ({
  briefId: brief,
  domainId: idOf(domain),
  venue: EXCHANGE.name,
  kind: 'bid',
  amountMinor: 1_000_000,
  ...more,
});
const order = async (domain: string, more: Partial<OrderWish> = {}): Promise<Order> =>
  (await outbox.attend(place(store, wish(domain, more)).id)) as Order;
const look = async ({ id }: Order) => (await outbox.attend(id)) as Order;
/** What the desk has written down of a domain. */
const journalOf = (domain: string) =>
  readFileSync(journal, 'utf8')
    .split('\n')
    .filter((line) => line.includes(`"domain":"${domain}"`))
    .map((line) => JSON.parse(line) as { key: string; refused: string | null });
const forward = (ms: number) => store.forward?.move(ms);
/** A name that is free, by a verdict of this moment. */
function freeName(
  availability: string,
  fits: (name: string) => boolean = () => true,
  said: [step: CheckStep, outcome: string][] = [
    ['dns', 'nxdomain'],
    ['rdap', 'not-found'],
    ['registrar', 'available'],
  ],
): string {
  const found = [...world.domains.values()].find(
    ({ name }) => !taken.has(name) && availabilityOf(world, name, now()).availability === availability && fits(name),
  );
  if (!found) throw new Error(`no name is ${availability}`);
  taken.add(found.name);
  const entries = said.map(([step, outcome]) => ({ step, server: 'a', outcome, detail: '', elapsedMs: 1 }));
  const verdict = { phase: 'free' as const, confidence: 0.99, reason: '', contradictions: [] };
  write(store, () => putVerdict(store, idOf(found.name), now(), entries, verdict, null));
  return found.name;
}
const registered = { kind: 'register' as const, venue: 'Coombe Names' };

describe('a backorder', () => {
  it('order a catch at the drop; where others did, it goes on as an auction; where somebody else was quicker, it is lost', async () => {
    const caught: Order[] = [];
    for (let n = 0; n < 6; n++)
      caught.push(
        await order(lot(({ kind }) => kind === 'backorder').domain, { kind: 'backorder', amountMinor: 200_000 }),
      );
    expect(caught.every(({ state }) => state === 'waiting')).toBe(true);
    const seen = new Set<string>();
    for (let hour = 0; hour < 30 * 24; hour += 12) {
      forward(12 * HOUR);
      for (const one of caught) if (readOrder(store, one.id)?.endedAt === null) seen.add((await look(one)).state);
    }
    expect(seen.has('leading') || seen.has('outbid')).toBe(true);
    const ends = caught.map(({ id }) => readOrder(store, id) as Order);
    expect(new Set(ends.map(({ state }) => state))).toEqual(new Set(['won', 'lost']));
    const [first] = ends.filter(({ state }) => state === 'won');
    expect(first.finalMinor).toBeGreaterThanOrEqual(6900);
    expect(stateAt(world.domains.get(first.name)!, now()).phase).toBe('active');
  });
});

describe('an auction', () => {
  it('is led with a proxy maximum, won when it ends, and the name changes hands', async () => {
    const { domain, priceMinor } = lot(({ kind, bids }) => kind === 'expired-auction' && (bids ?? 0) > 0);
    const before = balances(store, brief).spent;
    const [way] = (await termsOf(store, brief, idOf(domain))).ways;
    expect(way).toMatchObject({ venue: 'Coombe Names', kind: 'register' });
    const bid = await order(domain);
    expect(bid.state).toBe('leading');
    expect(bid.priceMinor).toBeGreaterThan(priceMinor ?? 0);
    expect(bid.priceMinor).toBeLessThan(bid.amountMinor);
    forward(8 * 24 * HOUR);
    const won = await look(bid);
    expect(won.state).toBe('won');
    expect(won.finalMinor).toBeLessThan(won.amountMinor);
    expect(listHoldings(store).find(({ name }) => name === domain)).toMatchObject({ costMinor: won.finalMinor });
    expect(balances(store, brief).spent - before).toBe(won.finalMinor);
    expect(stateAt(world.domains.get(domain)!, now())).toMatchObject({ phase: 'active' });
    expect(listingsOf(world, EXCHANGE, now()).some((one) => one.domain === domain)).toBe(false);
    expect(() => place(store, wish(domain))).toThrow('you own it already');
  });

  it('is outbid by who wants it more, raised by a second bid, and lost with the price as a sale', async () => {
    // the least bid, before rivals have come
    const bids: Order[] = [];
    for (let n = 0; n < 6; n++) {
      const { domain, priceMinor } = lot(({ kind, bids }) => kind === 'expired-auction' && bids === 0);
      bids.push(await order(domain, { amountMinor: (priceMinor ?? 0) + 100 }));
    }
    expect(bids.every(({ state }) => state === 'leading')).toBe(true);
    const outbid: Order[] = [];
    for (let day = 0; day < 8; day++) {
      forward(20 * HOUR);
      for (const bid of bids) {
        const after = await look(bid);
        if (after.state === 'outbid' && !outbid.some(({ id }) => id === after.id)) outbid.push(after);
      }
    }
    const ends = bids.map(({ id }) => readOrder(store, id) as Order);
    const lost = ends.filter(({ state }) => state === 'lost');
    expect(lost.length).toBeGreaterThan(0);
    for (const { name, finalMinor, amountMinor } of lost.filter((bid) => bid.finalMinor !== null)) {
      expect(finalMinor).toBeGreaterThanOrEqual(amountMinor);
      expect(readAllSales(store).find((sale) => sale.name === name)?.priceMinor).toBe(finalMinor);
    }
    expect(commitment(store, brief).heldMinor).toBe(0);
  });

  it('takes a raise under a new key, and a bid below the least is refused with the reason', async () => {
    const { domain, priceMinor } = lot(({ kind, bids }) => kind === 'expired-auction' && (bids ?? 0) > 0);
    const low = await order(domain, { amountMinor: Math.max(1, (priceMinor ?? 0) - 100) });
    expect(low).toMatchObject({ state: 'refused', reason: expect.stringContaining('below the least bid') });
    const before = balances(store, brief).held;
    const first = await order(domain, { amountMinor: 900_000 });
    expect(first.state).toBe('leading');
    expect(() => place(store, wish(domain, { amountMinor: 800_000 }))).toThrow('higher than the last');
    const second = await order(domain, { amountMinor: 950_000 });
    expect(second.state).toBe('leading');
    expect((await look(first)).state).toBe('withdrawn');
    expect(balances(store, brief).held - before).toBe(951_500);
    expect(await outbox.withdraw(second.id)).toContain('binding');
  });

  it('whose reserve is not met is lost without a price', async () => {
    const { domain, priceMinor } = lot(
      ({ kind, reserve, bids }) => kind === 'auction' && reserve === 'unmet' && bids === 0,
    );
    const bid = await order(domain, { amountMinor: priceMinor ?? 0 });
    expect(bid.reserve).toBe('unmet');
    forward(8 * 24 * HOUR);
    const after = await look(bid);
    expect(after.state).toBe('lost');
    if (after.finalMinor === null) expect(after.reason).toContain('reserve');
  });
});

describe('other ways', () => {
  it('buy now at the price agreed to, never above it', async () => {
    const { domain, priceMinor } = lot(({ kind }) => kind === 'buy-now');
    const cheap = await order(domain, { kind: 'buy', amountMinor: (priceMinor ?? 0) - 1 });
    expect(cheap).toMatchObject({ state: 'refused', reason: expect.stringContaining('it costs') });
    const states = new Set<string>();
    for (let n = 0; n < 40 && !(states.has('payment') && states.has('won')); n++) {
      const next = lot(({ kind }) => kind === 'buy-now' || kind === 'falling');
      const bought = await order(next.domain, { kind: 'buy', amountMinor: next.priceMinor ?? 0 });
      states.add(bought.reason?.includes('payment') ? 'payment' : bought.state);
      if (bought.state === 'won') expect(bought.finalMinor).toBe(next.priceMinor);
      // a card that was turned down is taken the second time
      if (bought.reason?.includes('payment'))
        expect((await order(next.domain, { kind: 'buy', amountMinor: next.priceMinor ?? 0 })).state).not.toBe(
          'waiting',
        );
    }
    expect([...states]).toEqual(expect.arrayContaining(['won', 'payment']));
  });

  it('offer, hear another price, and take it', async () => {
    const { domain } = lot(({ kind }) => kind === 'offer');
    let offer: Order | null = null;
    for (let amount = 2000; amount < 500_000; amount = Math.round(amount * 1.6)) {
      const given = await order(domain, { kind: 'offer', amountMinor: amount });
      expect(given.state).toBe('waiting');
      forward(5 * HOUR);
      offer = await look(given);
      if (offer.state !== 'refused') break;
    }
    expect(offer?.state).toBe('countered');
    const answer = await order(domain, { kind: 'offer', amountMinor: offer?.counterMinor ?? 0 });
    forward(HOUR);
    expect(await look(answer)).toMatchObject({ state: 'won', finalMinor: offer?.counterMinor });
  });

  it('register what is free by the price of its ending, and hear why not', async () => {
    const org = freeName('available', (name) => name.endsWith('.org'));
    let done = await order(org, { ...registered, amountMinor: 1190 });
    if (done.reason?.includes('payment')) done = await order(org, { ...registered, amountMinor: 1190 });
    expect(done).toMatchObject({ state: 'won', finalMinor: 1190, feesMinor: 0 });
    expect(availabilityOf(world, org, now()).availability).toBe('taken');
    const dear = await order(freeName('premium'), { ...registered, amountMinor: 2000 });
    expect(dear).toMatchObject({ state: 'refused', reason: expect.stringContaining('premium: it costs') });
    const kept = await order(freeName('reserved'), { ...registered, amountMinor: 2000 });
    expect(kept).toMatchObject({ state: 'refused', reason: expect.stringContaining('reserved') });
    // one way alone is too little, and two are too little to be sent where a registrar can be asked
    const byRecord = freeName('available', () => true, [['rdap', 'not-found']]);
    expect(() => place(store, wish(byRecord, registered))).toThrow('only one way says that it is free');
    changeSettings(store, { registrar: `http://${REGISTRAR_HOST}/availability` });
    const unasked = freeName('available', () => true, [
      ['dns', 'nxdomain'],
      ['rdap', 'not-found'],
    ]);
    expect(() => place(store, wish(unasked, registered))).toThrow('the registrar has not said yet');
    changeSettings(store, { registrar: '' });
    // a verdict of yesterday is none
    const stale = freeName('available');
    forward(HOUR);
    expect(() => place(store, wish(stale, registered))).toThrow('confirm first');
    expect(() => place(store, wish(stale, registered))).toThrow(OrderRefused);
  });
});

describe('what can go wrong between an order and its answer', () => {
  const buyable = () => lot(({ kind }) => kind === 'expired-auction');

  it('is not knowing: the connection broke once it was done, and it is asked about, not sent anew', async () => {
    changeSettings(store, { accounts: accountsAt('lossy-desk') });
    const { domain } = buyable();
    const lost = await order(domain);
    expect(lost).toMatchObject({ state: 'sent', answeredAt: null });
    expect(balances(store, brief).held).toBeGreaterThanOrEqual(1_000_000);
    // a new process knows nothing but what is on disk
    const reborn = new Outbox(store, () => undefined, silent);
    const found = await reborn.attend(lost.id);
    await reborn.close();
    expect(found?.state).toBe('leading');
    expect(journalOf(domain)).toHaveLength(1);
    changeSettings(store, { accounts: accountsAt() });
  });

  it('is a process that died before the first byte: the venue never heard of it, and gets it once', async () => {
    const { domain } = buyable();
    const given = place(store, wish(domain));
    happen(store, given.id, { kind: 'send' }, 'Jam Ladle', 'sent', { attempts: 1, nextAt: now() });
    expect((await look(given)).state).toBe('queued');
    expect((await look(given)).state).toBe('leading');
    expect(journalOf(domain).map(({ key }) => key)).toEqual([given.key]);
    expect(orderLog(store, { orderId: given.id }).some(({ words }) => words.includes('never arrived'))).toBe(true);
  });

  it('is the same order arriving twice: it is one order', async () => {
    const { domain } = buyable();
    const given = await order(domain);
    store.raw.prepare(`UPDATE orders SET state = 'queued' WHERE id = ?`).run(given.id);
    expect((await look(given)).state).toBe('leading');
    expect(journalOf(domain)).toHaveLength(1);
  });

  it('is a key that is not known there, a dry run, or a venue that nobody can ask', async () => {
    changeSettings(store, { accounts: accountsAt().map((desk) => ({ ...desk, key: 'wrong' })) });
    expect(await order(buyable().domain)).toMatchObject({ state: 'refused', reason: expect.stringContaining('key') });
    changeSettings(store, { accounts: accountsAt(), isDryRun: true });
    const { domain } = buyable();
    expect((await order(domain)).state).toBe('dry');
    expect(journalOf(domain)).toHaveLength(0);
    changeSettings(store, { isDryRun: false, accounts: [] });
    expect(() => place(store, wish(domain))).toThrow('does not offer it');
    changeSettings(store, { accounts: accountsAt() });
  });

  it('is an order whose time is over before it could go out', async () => {
    const { domain, closesAt } = buyable();
    const given = place(store, wish(domain));
    store.raw.prepare('UPDATE orders SET closes_at = ? WHERE id = ?').run(Date.parse(closesAt ?? ''), given.id);
    forward(9 * 24 * HOUR);
    expect(await look(given)).toMatchObject({ state: 'refused', reason: expect.stringContaining('closed before') });
    expect(journalOf(domain)).toHaveLength(0);
  });

  it('leaves the desk with all its orders when it starts anew', () => {
    const again = new VenueAccounts(makeWorld(3, START, 1500), journal);
    const [{ key }] = readFileSync(journal, 'utf8')
      .split('\n')
      .slice(0, 1)
      .map((line) => JSON.parse(line));
    const asked = again.answer(EXCHANGE.host, 'GET', `/desk/orders/${key}`, '', `Bearer ${ACCOUNT_KEY}`, now());
    expect(asked?.status).toBe(200);
  });
});
