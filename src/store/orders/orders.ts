import { randomUUID } from 'node:crypto';
import { homeMinor } from '../../core/listings/rates';
import { type Account, balancesOf, converted, type LedgerLine, postingOf } from '../../core/orders/ledger';
import { type Breach, breachOf } from '../../core/orders/limits';
import {
  type Commitment,
  commitmentOf,
  costOf,
  isEnded,
  type OrderEvent,
  type OrderKind,
  type OrderMoney,
  type OrderState,
  stateAfter,
} from '../../core/orders/order';
import { Refusal } from '../../core/refusal';
import { readRates, readSettings, type Store, statement, write } from '../base/database';
import { putSales } from '../offers/sales';
import { putHolding } from '../portfolio/holdings';
import type { Stage } from '../shortlist/shortlist';

const DAY = 86_400_000;

/** An order as it is kept. Amounts in minor units of `currency`, fees of the brief's; times in ms since 1970 UTC. */
export interface Order {
  id: number;
  /** Goes out with it: a venue takes it once. */
  key: string;
  briefId: number;
  domainId: number;
  name: string;
  venue: string;
  url: string | null;
  kind: OrderKind;
  state: OrderState;
  amountMinor: number;
  currency: string;
  /** Millionths of the brief's currency that one unit is worth, as when it was given. */
  ratePpm: number;
  feesMinor: number;
  priceMinor: number | null;
  leastMinor: number | null;
  counterMinor: number | null;
  finalMinor: number | null;
  bids: number | null;
  reserve: string | null;
  closesAt: number | null;
  reason: string | null;
  /** Not to be sent before; null: at once. */
  sendAt: number | null;
  attempts: number;
  nextAt: number | null;
  createdAt: number;
  sentAt: number | null;
  answeredAt: number | null;
  endedAt: number | null;
}

const READ = `SELECT o.id, o.key, o.brief_id AS briefId, o.domain_id AS domainId, d.name, o.venue, o.url, o.kind, o.state,
  o.amount_minor AS amountMinor, o.currency, o.rate_ppm AS ratePpm, o.fees_minor AS feesMinor, o.price_minor AS priceMinor,
  o.least_minor AS leastMinor, o.counter_minor AS counterMinor, o.final_minor AS finalMinor, o.bids, o.reserve,
  o.closes_at AS closesAt, o.reason, o.send_at AS sendAt, o.attempts, o.next_at AS nextAt, o.created_at AS createdAt,
  o.sent_at AS sentAt, o.answered_at AS answeredAt, o.ended_at AS endedAt
  FROM orders o JOIN domains d ON d.id = o.domain_id`;

/** What was thought of an order when it was given. Amounts in the order's currency. */
export interface OrderEstimates {
  winChance?: number;
  worthLowMinor?: number;
  worthHighMinor?: number;
}

export interface OrderInput {
  estimates?: OrderEstimates;
  briefId: number;
  domainId: number;
  venue: string;
  url: string | null;
  kind: OrderKind;
  amountMinor: number;
  currency: string;
  ratePpm: number;
  feesMinor: number;
  /** When it closes, as far as it is known. */
  closesAt: number | null;
  sendAt: number | null;
  /** How it is carried out. */
  way: 'send' | 'by hand' | 'dry';
  /** Under which its sender knows it. */
  clientKey?: string | null;
}

/** The order would break a hard limit. */
export class LimitError extends Refusal {
  constructor(readonly breach: Breach) {
    super('over-limit', limitWords(breach));
  }
}

function limitWords({ limit, limitMinor, overMinor }: Breach): string {
  const [over, most] = [overMinor, limitMinor].map((minor) => (minor / 100).toFixed(2));
  return limit === 'brief'
    ? `This order would cost ${over} more than the budget of the brief, ${most}, allows. Nothing was sent.`
    : `This order would cost ${over} more than today’s limit of ${most} (Settings) allows. Nothing was sent.`;
}

/** Orders for one name at one venue, of which only one can be won. Two venues may both sell it: each is held for. */
const groupOf = ({ domainId, venue }: Pick<Order, 'domainId' | 'venue'>) => `${domainId} ${venue}`;

const moneyOf = (
  order: Pick<Order, 'state' | 'domainId' | 'venue' | 'amountMinor' | 'finalMinor' | 'ratePpm' | 'feesMinor'>,
) => ({
  state: order.state,
  group: groupOf(order),
  amountMinor: converted(order.amountMinor, order.ratePpm),
  finalMinor: order.finalMinor === null ? null : converted(order.finalMinor, order.ratePpm),
  feesMinor: order.feesMinor,
});

export function readOrder(store: Store, id: number): Order | null {
  return (statement(store.raw, `${READ} WHERE o.id = ?`).get(id) as Order | undefined) ?? null;
}

/** Orders of a brief, or of all, the latest first. */
export function listOrders(store: Store, briefId: number | null, limit = 500): Order[] {
  return statement(
    store.raw,
    `${READ} WHERE (@briefId IS NULL OR o.brief_id = @briefId) ORDER BY o.id DESC LIMIT @limit`,
  ).all({ briefId, limit }) as Order[];
}

/** Orders that are not ended, the next to close first. */
export function openOrders(store: Store): Order[] {
  return statement(
    store.raw,
    `${READ} WHERE o.ended_at IS NULL ORDER BY o.closes_at NULLS LAST, o.id`,
  ).all() as Order[];
}

export function ordersOf(store: Store, domainId: number): Order[] {
  return statement(store.raw, `${READ} WHERE o.domain_id = ? ORDER BY o.id DESC`).all(domainId) as Order[];
}

/** Orders that something is to be done about: to be sent, or to be asked after. */
export function dueOrders(store: Store, now: number, limit: number): Order[] {
  return statement(store.raw, `${READ} WHERE o.next_at <= ? ORDER BY o.next_at LIMIT ?`).all(now, limit) as Order[];
}

/** Lets every order that is on its way or at a venue be asked about now. */
export function askAll(store: Store, now: number): void {
  write(store, () =>
    statement(
      store.raw,
      `UPDATE orders SET next_at = ? WHERE state IN ('sent', 'leading', 'outbid', 'waiting', 'countered')`,
    ).run(now),
  );
}

/** What a brief's orders hold and have spent. */
export function commitment(store: Store, briefId: number): Commitment {
  return commitmentOf(moneyOfBrief(store, briefId));
}

function moneyOfBrief(store: Store, briefId: number): OrderMoney[] {
  const orders = statement(store.raw, `${READ} WHERE o.brief_id = ? AND o.state <> 'dry'`).all(briefId) as Order[];
  return orders.map(moneyOf);
}

/** What the orders given on the day of a moment may cost already, UTC, over all briefs, in the user's currency. */
export function costOfDay(store: Store, now: number): number {
  const from = Math.floor(now / DAY) * DAY;
  return costSince(store, from, []);
}

function costSince(store: Store, from: number, more: (OrderMoney & { currency: string })[]): number {
  const rates = readRates(store);
  const rows = statement(
    store.raw,
    `SELECT o.state, o.domain_id AS domainId, o.venue, o.amount_minor AS amountMinor, o.final_minor AS finalMinor, o.rate_ppm AS ratePpm,
       o.fees_minor AS feesMinor, b.currency AS briefCurrency FROM orders o JOIN briefs b ON b.id = o.brief_id
     WHERE o.created_at >= ? AND o.state <> 'dry'`,
  ).all(from) as (Pick<
    Order,
    'state' | 'domainId' | 'venue' | 'amountMinor' | 'finalMinor' | 'ratePpm' | 'feesMinor'
  > & {
    briefCurrency: string;
  })[];
  const home = (money: OrderMoney, currency: string): OrderMoney => ({
    ...money,
    amountMinor: homeMinor(money.amountMinor, currency, rates) ?? money.amountMinor,
    finalMinor: homeMinor(money.finalMinor, currency, rates),
    feesMinor: homeMinor(money.feesMinor, currency, rates) ?? money.feesMinor,
  });
  return costOf(
    commitmentOf([
      ...rows.map((row) => home(moneyOf(row), row.briefCurrency)),
      ...more.map(({ currency, ...money }) => home(money, currency)),
    ]),
  );
}

/**
 * Takes an order: it is on disk, with its money held, before anything is sent.
 *
 * @throws LimitError when the brief's budget or the day's limit would be broken; nothing is kept then.
 */
export function placeOrder(store: Store, input: OrderInput): Order {
  return write(store, () => {
    const at = store.now();
    const state: OrderState = input.way === 'send' ? 'queued' : input.way;
    if (state !== 'dry') {
      const breach = breachOfOrder(store, { ...input, state, finalMinor: null }, at);
      if (breach) throw new LimitError(breach);
    }
    const nextAt = state === 'queued' ? (input.sendAt ?? at) : null;
    const { lastInsertRowid } = statement(
      store.raw,
      `INSERT INTO orders (key, brief_id, domain_id, venue, url, kind, state, amount_minor, currency, rate_ppm, fees_minor, closes_at,
         send_at, next_at, created_at, ended_at, estimates, client_key)
       VALUES (@key, @briefId, @domainId, @venue, @url, @kind, @state, @amountMinor, @currency, @ratePpm, @feesMinor, @closesAt,
         @sendAt, @nextAt, @at, @endedAt, @estimates, @clientKey)`,
    ).run({
      clientKey: null,
      ...input,
      key: randomUUID(),
      state,
      nextAt,
      at,
      endedAt: isEnded(state) ? at : null,
      estimates: JSON.stringify(input.estimates ?? {}),
    });
    const order = readOrder(store, Number(lastInsertRowid)) as Order;
    const how = { send: 'to be sent', 'by hand': 'to be done by hand', dry: 'a dry run: not sent' }[input.way];
    tell(store, order, 'you', `${order.kind} up to ${(order.amountMinor / 100).toFixed(2)} ${order.currency}, ${how}`);
    settle(store, order, 'ordered');
    moveOnShortlist(store, order);
    return order;
  });
}

/** The order that came under a key of its sender; null: none did. */
export function orderOfClient(store: Store, clientKey: string): Order | null {
  const id = statement(store.raw, 'SELECT id FROM orders WHERE client_key = ?').pluck().get(clientKey);
  return id === undefined ? null : readOrder(store, Number(id));
}

/** The first limit that an order breaks, itself not counted yet. Call inside a write transaction. */
function breachOfOrder(
  store: Store,
  order: Pick<
    Order,
    'briefId' | 'state' | 'domainId' | 'venue' | 'amountMinor' | 'finalMinor' | 'ratePpm' | 'feesMinor'
  >,
  at: number,
): Breach | null {
  const brief = statement(store.raw, 'SELECT budget_minor AS budgetMinor, currency FROM briefs WHERE id = ?').get(
    order.briefId,
  ) as { budgetMinor: number | null; currency: string };
  const money = moneyOf(order);
  const before = moneyOfBrief(store, order.briefId);
  const briefUsed = costOf(commitmentOf(before));
  const briefAdds = costOf(commitmentOf([...before, money])) - briefUsed;
  const byBrief = breachOf(
    briefAdds,
    { briefMinor: briefUsed, dayMinor: 0 },
    { briefMinor: brief.budgetMinor, dayMinor: null },
  );
  if (byBrief) return byBrief;
  const from = Math.floor(at / DAY) * DAY;
  const dayUsed = costSince(store, from, []);
  const dayAdds = costSince(store, from, [{ ...money, currency: brief.currency }]) - dayUsed;
  const { dayLimitMinor } = readSettings(store);
  return breachOf(dayAdds, { briefMinor: 0, dayMinor: dayUsed }, { briefMinor: null, dayMinor: dayLimitMinor });
}

/** What is known of an order after something happened. */
export type OrderNews = Partial<
  Pick<
    Order,
    | 'priceMinor'
    | 'leastMinor'
    | 'counterMinor'
    | 'finalMinor'
    | 'bids'
    | 'reserve'
    | 'closesAt'
    | 'reason'
    | 'attempts'
    | 'nextAt'
    | 'sentAt'
    | 'answeredAt'
  >
>;

/**
 * Lets something happen to an order: its state, its log, the ledger, the shortlist, and what follows from an end. All of it or
 * nothing.
 *
 * @param words what the log says; null: nothing worth a line, unless the state changed.
 * @returns the order now; null: it cannot happen to it in its state.
 */
export function happen(
  store: Store,
  id: number,
  event: OrderEvent,
  who: string,
  words: string | null,
  news: OrderNews = {},
): Order | null {
  return write(store, () => {
    const before = readOrder(store, id);
    const state = before && stateAfter(before.state, event);
    if (!before || !state) return null;
    const at = store.now();
    const after: Order = { ...before, ...news, state, endedAt: isEnded(state) ? at : null };
    if (isEnded(state)) after.nextAt = null;
    statement(
      store.raw,
      `UPDATE orders SET state = @state, price_minor = @priceMinor, least_minor = @leastMinor, counter_minor = @counterMinor,
         final_minor = @finalMinor, bids = @bids, reserve = @reserve, closes_at = @closesAt, reason = @reason, attempts = @attempts,
         next_at = @nextAt, sent_at = @sentAt, answered_at = @answeredAt, ended_at = @endedAt WHERE id = @id`,
    ).run(after);
    if (state !== before.state || words) tell(store, after, who, words ?? state);
    if (state !== before.state || after.finalMinor !== before.finalMinor) {
      settle(store, after, state);
      moveOnShortlist(store, after);
      if (isEnded(state)) keepOutcome(store, after, at);
    }
    return after;
  });
}

function tell(store: Store, { id, state }: Order, who: string, words: string): void {
  statement(store.raw, 'INSERT INTO order_events (order_id, at, who, state, words) VALUES (?, ?, ?, ?, ?)').run(
    id,
    store.now(),
    who,
    state,
    words,
  );
}

/** Brings the brief's accounts to what its orders commit to now. */
function settle(store: Store, { id, briefId, name }: Order, words: string): void {
  const lines = postingOf(commitmentBooked(store, briefId), commitment(store, briefId));
  if (lines.length === 0) return;
  const posting = 1 + Number(statement(store.raw, 'SELECT max(posting) AS lastPosting FROM ledger').pluck().get() ?? 0);
  const insert = statement(
    store.raw,
    'INSERT INTO ledger (posting, at, brief_id, order_id, account, amount_minor, words) VALUES (?, ?, ?, ?, ?, ?, ?)',
  );
  for (const { account, amountMinor } of lines)
    insert.run(posting, store.now(), briefId, id, account, amountMinor, `${name}: ${words}`);
}

/** Balances of a brief's accounts by the ledger, in minor units of its currency. */
export function balances(store: Store, briefId: number): Record<Account, number> {
  return balancesOf(
    statement(
      store.raw,
      'SELECT account, sum(amount_minor) AS amountMinor FROM ledger WHERE brief_id = ? GROUP BY account',
    ).all(briefId) as LedgerLine[],
  );
}

function commitmentBooked(store: Store, briefId: number): Commitment {
  const { held, spent, fees } = balances(store, briefId);
  return { heldMinor: held, spentMinor: spent, feesMinor: fees };
}

const STAGE_BY_STATE: Partial<Record<OrderState, Stage>> = {
  queued: 'waiting',
  sent: 'waiting',
  'by hand': 'waiting',
  leading: 'waiting',
  waiting: 'waiting',
  outbid: 'to act on',
  countered: 'to act on',
  refused: 'to act on',
  withdrawn: 'wanted',
  won: 'had',
  lost: 'let go',
};

/** A name that is ordered stands on the shortlist, where its order is. */
function moveOnShortlist(store: Store, { briefId, domainId, state, id }: Order): void {
  const stage = STAGE_BY_STATE[state];
  if (!stage) return;
  // an order that another took the place of says nothing of the name
  const newer = statement(store.raw, `SELECT 1 FROM orders WHERE domain_id = ? AND id > ? AND state <> 'dry'`).get(
    domainId,
    id,
  );
  if (newer && state !== 'won') return;
  const at = store.now();
  statement(
    store.raw,
    `INSERT INTO shortlist (domain_id, brief_id, stage, added_at, changed_at) VALUES (@domainId, @briefId, @stage, @at, @at)
     ON CONFLICT (brief_id, domain_id) DO UPDATE SET stage = excluded.stage, changed_at = excluded.changed_at`,
  ).run({ domainId, briefId, stage, at });
}

/** What was won is owned; what somebody else got is a sale to learn from. */
function keepOutcome(store: Store, order: Order, at: number): void {
  const { state, finalMinor, name, currency, venue } = order;
  if (state === 'won') putHolding(store, order, at);
  if ((state === 'won' || state === 'lost') && finalMinor !== null && order.kind !== 'register')
    putSales(store, [{ name, priceMinor: finalMinor, currency, at: Math.floor(at / DAY) * DAY, venue }], 'own orders');
}

export interface OrderLine {
  id: number;
  orderId: number;
  at: number;
  who: string;
  state: OrderState;
  words: string;
  name: string;
  venue: string;
}

/** The log of every act, the latest first; of one order, of a brief or of all. */
export function orderLog(
  store: Store,
  { orderId = null, briefId = null }: { orderId?: number | null; briefId?: number | null },
  limit = 200,
): OrderLine[] {
  return statement(
    store.raw,
    `SELECT e.id, e.order_id AS orderId, e.at, e.who, e.state, e.words, d.name, o.venue FROM order_events e
       JOIN orders o ON o.id = e.order_id JOIN domains d ON d.id = o.domain_id
     WHERE (@orderId IS NULL OR e.order_id = @orderId) AND (@briefId IS NULL OR o.brief_id = @briefId)
     ORDER BY e.id DESC LIMIT @limit`,
  ).all({ orderId, briefId, limit }) as OrderLine[];
}

/** How orders ended since a moment, the latest first. */
export function outcomesSince(store: Store, since: number, limit: number): OrderLine[] {
  return statement(
    store.raw,
    `SELECT e.id, e.order_id AS orderId, e.at, e.who, e.state, e.words, d.name, o.venue FROM order_events e
       JOIN orders o ON o.id = e.order_id JOIN domains d ON d.id = o.domain_id
     WHERE e.at > ? AND e.state IN ('won', 'lost', 'refused', 'countered') ORDER BY e.id DESC LIMIT ?`,
  ).all(since, limit) as OrderLine[];
}

export interface LedgerRow extends LedgerLine {
  id: number;
  posting: number;
  at: number;
  orderId: number | null;
  words: string;
}

export function readLedger(store: Store, briefId: number, limit = 500): LedgerRow[] {
  return statement(
    store.raw,
    `SELECT id, posting, at, order_id AS orderId, account, amount_minor AS amountMinor, words FROM ledger
     WHERE brief_id = ? ORDER BY id DESC LIMIT ?`,
  ).all(briefId, limit) as LedgerRow[];
}

/** What may still be ordered: for a brief in its currency, today in the user’s; null: without a limit. */
export function limitsLeft(store: Store, briefId: number): { briefMinor: number | null; dayMinor: number | null } {
  const budget = statement(store.raw, 'SELECT budget_minor AS leftBudget FROM briefs WHERE id = ?')
    .pluck()
    .get(briefId) as number | null;
  const { dayLimitMinor } = readSettings(store);
  return {
    briefMinor: budget === null ? null : budget - costOf(commitment(store, briefId)),
    dayMinor: dayLimitMinor === null ? null : dayLimitMinor - costOfDay(store, store.now()),
  };
}

/** An order that has ended, with what was thought of it before. */
export interface OutcomeRow {
  kind: OrderKind;
  venue: string;
  purpose: string;
  state: 'won' | 'lost' | 'refused';
  finalMinor: number | null;
  reason: string | null;
  estimates: OrderEstimates;
}

/** All orders that were sent and have ended one way or the other, to learn from. */
export function outcomes(store: Store): OutcomeRow[] {
  const rows = statement(
    store.raw,
    `SELECT o.kind, o.venue, b.purpose, o.state, o.final_minor AS finalMinor, o.reason, o.estimates AS packedEstimates FROM orders o
       JOIN briefs b ON b.id = o.brief_id WHERE o.state IN ('won', 'lost', 'refused') AND o.sent_at IS NOT NULL ORDER BY o.id`,
  ).all() as (Omit<OutcomeRow, 'estimates'> & { packedEstimates: string })[];
  return rows.map(({ packedEstimates, ...row }) => ({ ...row, estimates: JSON.parse(packedEstimates) }));
}
