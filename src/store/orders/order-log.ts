import { z } from 'zod';
import type { OrderKind, OrderState, RefusedFor } from '../../core/orders/order';
import type { Store } from '../base/database';
import { all, camel, columns, fromJson, knex, pick, run } from '../base/query';
import { DOMAINS, ORDERS, type Order } from './order-rows';

const BRIEFS = columns('briefs', 'b');
const ORDER_EVENTS = columns('order_events', 'e');

const orderLines = () =>
  pick(
    knex('order_events as e').join('orders as o', 'o.id', 'e.order_id').join('domains as d', 'd.id', 'o.domain_id'),
    {
      ...camel(ORDER_EVENTS, 'id', 'order_id', 'at', 'who', 'state', 'words'),
      ...camel(DOMAINS, 'name'),
      ...camel(ORDERS, 'venue'),
    },
  );

/** What was thought of an order when it was given. Amounts in the order's currency. */
export const OrderEstimates = z.object({
  winChance: z.number().optional(),
  worthLowMinor: z.number().optional(),
  worthHighMinor: z.number().optional(),
});

export type OrderEstimates = z.infer<typeof OrderEstimates>;

export function tell(store: Store, { id, state }: Order, who: string, words: string): void {
  run(store, knex('order_events').insert({ order_id: id, at: store.now(), who, state, words }));
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
  return all(
    store,
    orderLines()
      .where({ ...(orderId !== null && { 'e.order_id': orderId }), ...(briefId !== null && { 'o.brief_id': briefId }) })
      .orderBy('e.id', 'desc')
      .limit(limit),
  );
}

/** How orders ended since a moment, the latest first. */
export function outcomesSince(store: Store, since: number, limit: number): OrderLine[] {
  return all(
    store,
    orderLines()
      .where('e.at', '>', since)
      .whereIn('e.state', ['won', 'lost', 'refused', 'countered'])
      .orderBy('e.id', 'desc')
      .limit(limit),
  );
}

/** An order that has ended, with what was thought of it before. */
export interface OutcomeRow {
  name: string;
  /** When it ended, ms since 1970 UTC. */
  endedAt: number | null;
  /** Of the price that it went for. */
  currency: string;
  kind: OrderKind;
  venue: string;
  purpose: string;
  state: 'won' | 'lost' | 'refused';
  finalMinor: number | null;
  refusedFor: RefusedFor | null;
  estimates: OrderEstimates;
}

/** All orders that were sent and have ended one way or the other, to learn from. */
export function outcomes(store: Store): OutcomeRow[] {
  const rows = all(
    store,
    pick(knex('orders as o').join('briefs as b', 'b.id', 'o.brief_id').join('domains as d', 'd.id', 'o.domain_id'), {
      ...camel(ORDERS, 'kind', 'venue', 'state', 'final_minor', 'refused_for', 'ended_at', 'currency'),
      name: DOMAINS.name,
      ...camel(BRIEFS, 'purpose'),
      packedEstimates: ORDERS.estimates,
    })
      .whereIn('o.state', ['won', 'lost', 'refused'])
      .whereNotNull('o.sent_at')
      .orderBy('o.id'),
  );
  return rows.flatMap(({ packedEstimates, state, ...row }) =>
    state !== 'won' && state !== 'lost' && state !== 'refused'
      ? []
      : { ...row, state, estimates: fromJson(OrderEstimates, packedEstimates) },
  );
}
