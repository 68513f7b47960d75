import type { OrderKind, OrderState, RefusedFor } from '../../core/orders/order';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, knex, pick, run } from '../base/query';

export const ORDERS = columns('orders', 'o');

export const DOMAINS = columns('domains', 'd');

export const orders = () =>
  pick(knex('orders as o').join('domains as d', 'd.id', 'o.domain_id'), {
    ...camel(
      ORDERS,
      'id',
      'key',
      'brief_id',
      'domain_id',
      'venue',
      'url',
      'kind',
      'state',
      'amount_minor',
      'currency',
      'rate_ppm',
      'fees_minor',
      'price_minor',
      'least_minor',
      'counter_minor',
      'final_minor',
      'bids',
      'reserve',
      'closes_at',
      'venue_number',
      'reason',
      'refused_for',
      'send_at',
      'attempts',
      'next_at',
      'created_at',
      'sent_at',
      'answered_at',
      'ended_at',
    ),
    ...camel(DOMAINS, 'name'),
  });

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
  /** What the venue calls it by; null: it has not said. */
  venueNumber: string | null;
  reason: string | null;
  /** What it was refused for; null: it is not refused, or never went out. */
  refusedFor: RefusedFor | null;
  /** Not to be sent before; null: at once. */
  sendAt: number | null;
  attempts: number;
  nextAt: number | null;
  createdAt: number;
  sentAt: number | null;
  answeredAt: number | null;
  endedAt: number | null;
}

export function readOrder(store: Store, id: number): Order | null {
  return first(store, orders().where('o.id', id)) ?? null;
}

/** Orders of a brief, or of all, the latest first. */
export function listOrders(store: Store, briefId: number | null, limit = 500): Order[] {
  return all(
    store,
    (briefId === null ? orders() : orders().where('o.brief_id', briefId)).orderBy('o.id', 'desc').limit(limit),
  );
}

/** Orders that are not ended, the next to close first. */
export function openOrders(store: Store): Order[] {
  return all(store, orders().whereNull('o.ended_at').orderByRaw('o.closes_at NULLS LAST, o.id'));
}

export function ordersOf(store: Store, domainId: number): Order[] {
  return all(store, orders().where('o.domain_id', domainId).orderBy('o.id', 'desc'));
}

/** Orders that something is to be done about: to be sent, or to be asked after. */
export function dueOrders(store: Store, now: number, limit: number): Order[] {
  return all(store, orders().where('o.next_at', '<=', now).orderBy('o.next_at').limit(limit));
}

/** Lets every order that is on its way or at a venue be asked about now. */
export function askAll(store: Store, now: number): void {
  write(store, () =>
    run(
      store,
      knex('orders').whereIn('state', ['sent', 'leading', 'outbid', 'waiting', 'countered']).update({ next_at: now }),
    ),
  );
}

/** The order that came under a key of its sender; null: none did. */
export function orderOfClient(store: Store, clientKey: string): Order | null {
  const id = first(store, knex('orders').where('client_key', clientKey).pluck('id'));
  return id === undefined ? null : readOrder(store, Number(id));
}
