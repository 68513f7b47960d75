import { closeSync, existsSync, fsyncSync, openSync, readFileSync, writeSync } from 'node:fs';
import { type AuctionState, type AuctionTerms, auctionAt, type ProxyBid, rivalsFor } from './auction';
import type { Page } from './pages';
import { hash, Random } from './random';
import { availabilityOf, REGISTRAR_HOST } from './registrar';
import { SaleRoom } from './sale-room';
import { auctionTermsOf, lotOfDomain, VENUES } from './venues';
import { DAY, dropOf, stateAt, type World } from './world';

/** Every desk of the vale knows its customer by this. */
export const ACCOUNT_KEY = 'vale-demo-key';
const HOUR = 3_600_000;
const CATCH_FEE_MINOR = 6900;
const COUNTER_MS = 2 * DAY;
const KINDS = ['bid', 'buy', 'offer', 'backorder', 'register'] as const;

type Kind = (typeof KINDS)[number];
type RefusedFor = 'gone' | 'price' | 'payment' | 'other';
type State = 'leading' | 'outbid' | 'waiting' | 'countered' | 'won' | 'lost' | 'refused' | 'withdrawn';

/** What a customer sent, as the account wrote it down; what became of it follows from this and the time. */
interface Order {
  key: string;
  host: string;
  domain: string;
  kind: Kind;
  amountMinor: number;
  at: number;
  refused: string | null;
  refusedFor?: RefusedFor;
  /** What it was bought for at once. */
  paidMinor: number | null;
  /** The auction it belongs to; a backorder's is private and begins at the drop. */
  auction: AuctionTerms | null;
  dropAt: number | null;
  withdrawnAt: number | null;
}

interface Answer {
  state: State;
  priceMinor: number | null;
  leastMinor: number | null;
  counterMinor: number | null;
  finalMinor: number | null;
  closesAt: string | null;
  bids: number | null;
  reserve: AuctionState['reserve'] | null;
  reason: string | null;
  refusedFor: RefusedFor | null;
}

const refused = (refusedFor: RefusedFor, words: string) => ({ refused: words, refusedFor });

/** Where orders are taken: at each venue and at the registrar, by the key that the customer gave them. Written down before they are answered. */
export class VenueAccounts {
  private readonly orders = new Map<string, Order>();
  private readonly settled = new Set<string>();
  private readonly isWon = new Set<string>();
  private readonly room: SaleRoom;

  /** @param path the journal; null: nothing is kept. */
  constructor(
    private readonly world: World,
    private readonly path: string | null,
  ) {
    this.room = new SaleRoom(
      path?.replace('orders', 'sales') ?? null,
      (domain) => !world.domains.has(domain) || this.isBought(domain),
      (domain, at) => handOver(world, domain, at, 'Lathergill Names'),
    );
    if (!path || !existsSync(path)) return;
    for (const line of readFileSync(path, 'utf8').split('\n'))
      if (line.endsWith('}')) {
        const order = JSON.parse(line) as Order;
        this.orders.set(order.key, order);
      }
  }

  /** Answers a request to a desk; null when it goes elsewhere. */
  answer(host: string, method: string, path: string, body: string, authorization: string, now: number): Page | null {
    const url = new URL(path, 'http://x');
    const asked = /^\/(?:slow-|lossy-)?desk\/(terms|orders\/([A-Za-z0-9-]{8,64})|sales\/(.+))$/.exec(url.pathname);
    const currency = currencyOf(host);
    if (!asked || !currency) return null;
    this.settle(now);
    if (authorization !== `Bearer ${ACCOUNT_KEY}`) return json(401, { error: 'the key is not known here' });
    const [, , key, sale] = asked;
    if (sale !== undefined) return this.room.answer(host, currency, method, sale, body, now);
    if (key === undefined) return this.terms(host, currency, url.searchParams.get('domain') ?? '', now);
    const known = this.orders.get(key);
    if (method === 'PUT') return this.put(host, currency, key, body, now);
    if (known?.host !== host) return json(404, { error: 'no such order' });
    if (method === 'DELETE') return this.withdraw(known, currency, now);
    return json(200, this.shown(known, currency, now));
  }

  /** What was won changes hands when its time has come. */
  settle(now: number): void {
    this.room.settle(now);
    for (const order of this.orders.values()) {
      if (this.settled.has(order.key)) continue;
      const { state } = this.stateOf(order, now);
      if (state !== 'won' && state !== 'lost' && state !== 'refused' && state !== 'withdrawn') continue;
      this.settled.add(order.key);
      if (state !== 'won') continue;
      this.isWon.add(order.key);
      handOver(this.world, order.domain, Math.max(order.at, this.endOf(order)));
    }
  }

  private isBought(domain: string): boolean {
    return [...this.orders.values()].some((order) => order.domain === domain && this.isWon.has(order.key));
  }

  private put(host: string, currency: string, key: string, body: string, now: number): Page {
    const sent = readOrder(body);
    if (typeof sent === 'string') return json(400, { error: sent });
    const known = this.orders.get(key);
    if (known) {
      const isSame =
        known.host === host &&
        known.domain === sent.domain &&
        known.kind === sent.kind &&
        known.amountMinor === sent.amountMinor;
      return isSame
        ? json(200, this.shown(known, currency, now))
        : json(409, { error: 'this key was used for another order' });
    }
    if (sent.currency !== currency) return json(400, { error: `orders here are in ${currency}` });
    const order = this.taken(host, key, sent, now);
    this.keep(order);
    this.settle(now);
    return json(200, this.shown(order, currency, now));
  }

  private keep(order: Order): void {
    this.orders.set(order.key, order);
    if (!this.path) return;
    const file = openSync(this.path, 'a');
    writeSync(file, `${JSON.stringify(order)}\n`);
    fsyncSync(file);
    closeSync(file);
  }

  private taken(host: string, key: string, { domain, kind, amountMinor }: Sent, now: number): Order {
    const order: Order = {
      key,
      host,
      domain,
      kind,
      amountMinor,
      at: now,
      refused: null,
      paidMinor: null,
      auction: null,
      dropAt: null,
      withdrawnAt: null,
    };
    if (kind === 'register') return { ...order, ...this.register(order, now) };
    const venue = VENUES.find((entry) => entry.host === host);
    const found = this.world.domains.get(domain);
    const lot = venue && found && lotOfDomain(this.world, venue, found, now);
    if (kind === 'bid') {
      const own = this.privateAuction(host, domain, now);
      const auction = own ?? (venue && found ? auctionTermsOf(this.world, venue, found, now) : null);
      if (!auction) return { ...order, ...refused('gone', 'there is no such auction') };
      const state = auctionAt(auction, this.bidsIn(auction), now);
      if (state.isOver) return { ...order, ...refused('gone', 'the auction is over') };
      const mine = state.leader === 'you';
      if (!mine && amountMinor < state.leastMinor)
        return { ...order, ...refused('price', `below the least bid of ${(state.leastMinor / 100).toFixed(2)}`) };
      return { ...order, auction };
    }
    if (kind === 'backorder') {
      if (lot?.kind !== 'backorder' || !found) return { ...order, ...refused('gone', 'it cannot be backordered') };
      if (amountMinor < CATCH_FEE_MINOR)
        return { ...order, ...refused('price', `a backorder costs ${CATCH_FEE_MINOR / 100}`) };
      return { ...order, dropAt: dropOf(found), auction: privateTerms(host, domain, dropOf(found) ?? now) };
    }
    if (kind === 'offer')
      return lot?.kind === 'offer' ? order : { ...order, ...refused('gone', 'no offers are taken for it') };
    if ((lot?.kind !== 'buy-now' && lot?.kind !== 'falling') || lot.state !== 'open' || lot.priceMinor === null)
      return { ...order, ...refused('gone', 'it is not for sale') };
    if (lot.priceMinor > amountMinor)
      return { ...order, ...refused('price', `it costs ${(lot.priceMinor / 100).toFixed(2)} by now`) };
    if (hash(`gone ${host} ${domain}`) % 16 === 0) return { ...order, ...refused('gone', 'it was sold a moment ago') };
    return { ...order, ...this.pay(domain, lot.priceMinor) };
  }

  private register({ domain, amountMinor }: Order, now: number): Partial<Order> {
    const { availability, priceMinor } = availabilityOf(this.world, domain, now);
    if (priceMinor === undefined) return refused('gone', `the registry says it is ${availability}`);
    if (priceMinor > amountMinor) return refused('price', `${availability}: it costs ${(priceMinor / 100).toFixed(2)}`);
    return this.pay(domain, priceMinor);
  }

  /** The card is turned down now and then, the first time. */
  private pay(domain: string, priceMinor: number): Partial<Order> {
    const isFirst = ![...this.orders.values()].some((order) => order.domain === domain);
    if (isFirst && hash(`card ${domain}`) % 12 === 0) return refused('payment', 'the payment was declined');
    return { paidMinor: priceMinor };
  }

  private bidsIn(auction: AuctionTerms): ProxyBid[] {
    return [...this.orders.values()].flatMap((order) =>
      order.auction?.seed === auction.seed && order.refused === null && order.withdrawnAt === null
        ? [{ bidder: 'you', amountMinor: order.amountMinor, at: Math.max(order.at, order.dropAt ?? 0) }]
        : [],
    );
  }

  private privateAuction(host: string, domain: string, now: number): AuctionTerms | null {
    for (const order of this.orders.values())
      if (order.kind === 'backorder' && order.host === host && order.domain === domain && order.refused === null)
        if (order.dropAt !== null && now >= order.dropAt && isCaught(host, domain)) return order.auction;
    return null;
  }

  private withdraw(order: Order, currency: string, now: number): Page {
    const { state } = this.stateOf(order, now);
    if (state !== 'waiting' && state !== 'countered') return json(409, { error: `it is binding: ${state}` });
    const after = { ...order, withdrawnAt: now };
    this.keep(after);
    return json(200, this.shown(after, currency, now));
  }

  private shown(order: Order, currency: string, now: number): object {
    const { key, domain, kind, amountMinor } = order;
    return { key, domain, kind, amountMinor, currency, ...this.stateOf(order, now) };
  }

  private endOf(order: Order): number {
    return order.auction ? auctionAt(order.auction, this.bidsIn(order.auction), Infinity).closesAt : order.at;
  }

  private stateOf(order: Order, now: number): Answer {
    const none: Answer = {
      state: 'waiting',
      priceMinor: null,
      leastMinor: null,
      counterMinor: null,
      finalMinor: null,
      closesAt: null,
      bids: null,
      reserve: null,
      reason: null,
      refusedFor: null,
    };
    if (order.refused !== null)
      return { ...none, state: 'refused', reason: order.refused, refusedFor: order.refusedFor ?? null };
    if (order.withdrawnAt !== null) return { ...none, state: 'withdrawn' };
    if (order.paidMinor !== null) return { ...none, state: 'won', finalMinor: order.paidMinor };
    if (order.kind === 'offer') return { ...none, ...this.offerState(order, now) };
    if (order.kind === 'backorder') return { ...none, ...this.backorderState(order, now) };
    return { ...none, ...this.bidState(order, order.auction as AuctionTerms, now) };
  }

  private bidState(order: Order, auction: AuctionTerms, now: number): Partial<Answer> {
    const { leader, priceMinor, leastMinor, closesAt, bids, reserve, isOver, winner } = auctionAt(
      auction,
      this.bidsIn(auction),
      now,
    );
    const told = { priceMinor, leastMinor, bids, reserve, closesAt: new Date(closesAt).toISOString() };
    const last = [...this.orders.values()].filter(
      (other) => other.auction?.seed === auction.seed && other.refused === null,
    );
    if (last.at(-1)?.key !== order.key) return { ...told, state: 'withdrawn', reason: 'raised by a later bid' };
    if (!isOver) return { ...told, state: leader === 'you' ? 'leading' : 'outbid' };
    if (winner === 'you') return { ...told, state: 'won', finalMinor: priceMinor };
    if (winner === null) return { ...told, state: 'lost', reason: bids === 0 ? 'closed' : 'the reserve was not met' };
    return { ...told, state: 'lost', finalMinor: priceMinor, reason: 'outbid' };
  }

  private backorderState(order: Order, now: number): Partial<Answer> {
    const { host, domain, dropAt, auction } = order;
    if (dropAt === null || !auction || now < dropAt) return { state: 'waiting', priceMinor: CATCH_FEE_MINOR };
    if (!isCaught(host, domain)) return { state: 'lost', reason: 'somebody else caught it' };
    if (auction.rivals.length === 0) return { state: 'won', finalMinor: CATCH_FEE_MINOR };
    return this.bidState(order, auction, now);
  }

  private offerState({ host, domain, amountMinor, at, key }: Order, now: number): Partial<Answer> {
    const random = new Random(`seller ${host} ${domain}`);
    const worth = Math.round((12 + 8 * random.tail(120)) * 100);
    const askMinor = Math.round((worth * (1.2 + 0.8 * random.next())) / 100) * 100;
    const floorMinor = Math.round(askMinor * (0.6 + 0.3 * random.next()));
    const earlier = [...this.orders.values()].filter(
      (other) => other.kind === 'offer' && other.domain === domain && other.host === host && other.at < at,
    );
    const answersAt = at + (earlier.length > 0 ? 10 * 60_000 : random.whole(1, 4) * HOUR);
    if (now < answersAt) return { state: 'waiting' };
    if (amountMinor >= floorMinor) return { state: 'won', finalMinor: amountMinor };
    if (amountMinor < floorMinor / 2) return { state: 'refused', reason: 'the seller declines', refusedFor: 'price' };
    const later = [...this.orders.values()].some(
      (other) => other.kind === 'offer' && other.domain === domain && other.at > at && other.key !== key,
    );
    if (later) return { state: 'withdrawn', reason: 'another offer took its place' };
    const counterMinor = Math.max(floorMinor, Math.round((askMinor + amountMinor) / 200) * 100);
    const until = answersAt + COUNTER_MS;
    if (now > until) return { state: 'lost', reason: 'the counter-offer was not taken in time' };
    return { state: 'countered', counterMinor, closesAt: new Date(until).toISOString() };
  }

  private terms(host: string, currency: string, domain: string, now: number): Page {
    const own = this.privateAuction(host, domain, now);
    const venue = VENUES.find((entry) => entry.host === host);
    const found = this.world.domains.get(domain);
    if (host === REGISTRAR_HOST) {
      const { availability, priceMinor = null } = availabilityOf(this.world, domain, now);
      return json(200, { domain, kind: 'register', state: availability, priceMinor, currency, feesMinor: 0 });
    }
    const auction = own ?? (venue && found ? auctionTermsOf(this.world, venue, found, now) : null);
    if (auction) {
      const { priceMinor, leastMinor, bids, reserve, closesAt, isOver } = auctionAt(auction, this.bidsIn(auction), now);
      const state = isOver ? 'closed' : 'open';
      const ends = new Date(closesAt).toISOString();
      const told = { domain, kind: 'bid', state, priceMinor, leastMinor, currency, bids, reserve, closesAt: ends };
      return json(200, { ...told, feesMinor: 0 });
    }
    const lot = venue && found && lotOfDomain(this.world, venue, found, now);
    if (!lot) return json(404, { error: 'not offered here' });
    const kind = lot.kind === 'offer' ? 'offer' : lot.kind === 'backorder' ? 'backorder' : 'buy';
    const { state, priceMinor, closesAt } = lot;
    return json(200, { domain, kind, state, priceMinor, currency, closesAt, feesMinor: 0 });
  }

  /** For what a venue shows to everybody: the bids of its customer in an auction. */
  bidsOn(auction: AuctionTerms): ProxyBid[] {
    return this.bidsIn(auction);
  }
}

interface Sent {
  domain: string;
  kind: Kind;
  amountMinor: number;
  currency: string;
}

function readOrder(body: string): Sent | string {
  let value: Partial<Sent>;
  try {
    value = JSON.parse(body);
  } catch {
    return 'the order is no JSON';
  }
  const { domain, kind, amountMinor, currency } = value;
  if (typeof domain !== 'string' || !/^[^.\s]+(\.[^.\s]+)+$/.test(domain)) return 'no domain';
  if (!KINDS.includes(kind as Kind)) return 'no such kind of order';
  if (!Number.isSafeInteger(amountMinor) || (amountMinor as number) <= 0) return 'no amount';
  return { domain, kind: kind as Kind, amountMinor: amountMinor as number, currency: String(currency) };
}

function currencyOf(host: string): string | null {
  if (host === REGISTRAR_HOST) return 'EUR';
  return VENUES.find((entry) => entry.host === host)?.currency ?? null;
}

/** Whether the venue is the quickest at the drop. */
const isCaught = (host: string, domain: string) => hash(`catch ${host} ${domain}`) % 10 < 7;

/** The auction among those who ordered a name that was caught; with nobody else, there is none. */
function privateTerms(host: string, domain: string, dropAt: number): AuctionTerms {
  const random = new Random(`private ${host} ${domain}`);
  const closesAt = dropAt + 3 * DAY;
  const rivals = rivalsFor(random, CATCH_FEE_MINOR * (1 + random.next() * 3), closesAt)
    .filter(({ limitMinor }) => limitMinor > CATCH_FEE_MINOR)
    .map((rival) => ({ ...rival, comesAt: dropAt + random.whole(1, 60) * HOUR }));
  return {
    seed: `private ${host} ${domain} ${dropAt}`,
    startMinor: CATCH_FEE_MINOR,
    reserveMinor: null,
    closesAt,
    rivals,
  };
}

/** From now on it is another's, and every registry says so. */
function handOver(world: World, name: string, at: number, registrar = 'Coombe Names'): void {
  const domain = world.domains.get(name);
  if (!domain) {
    const span = { from: at, until: null, use: 'bare' as const, registrar };
    const [first] = world.domains.values();
    const ending = name.slice(name.indexOf('.') + 1);
    world.domains.set(name, { ...first, name, ending, title: name, spans: [span], role: 'listed', story: undefined });
    return;
  }
  const { span } = stateAt(domain, at);
  if (span) Object.assign(span, { until: null, renewsLateDays: undefined });
  else domain.spans.push({ from: at, until: null, use: 'bare', registrar });
  domain.soldAt = at;
}

function json(status: number, value: object): Page {
  return { status, headers: { 'content-type': 'application/json' }, body: JSON.stringify(value) };
}
