import { randomUUID } from 'node:crypto';
import { isEnded, type OrderEvent, type OrderKind, type OrderState, stateAfter } from '../../core/orders/order';
import { actor } from '../../core/work/actor';
import { type Store, write } from '../base/database';
import { exists, knex, run, the } from '../base/query';
import { putSales } from '../offers/sales';
import { putHolding } from '../portfolio/holdings';
import type { Stage } from '../shortlist/shortlist';
import { breachOfOrder, dayOf, LimitError } from './commitments';
import { postCommitment } from './ledger';
import { type OrderEstimates, tell } from './order-log';
import { type Order, orders, readOrder } from './order-rows';

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
    const { lastInsertRowid } = run(
      store,
      knex('orders').insert({
        key: randomUUID(),
        brief_id: input.briefId,
        domain_id: input.domainId,
        venue: input.venue,
        url: input.url,
        kind: input.kind,
        state,
        amount_minor: input.amountMinor,
        currency: input.currency,
        rate_ppm: input.ratePpm,
        fees_minor: input.feesMinor,
        closes_at: input.closesAt,
        send_at: input.sendAt,
        next_at: nextAt,
        created_at: at,
        ended_at: isEnded(state) ? at : null,
        estimates: JSON.stringify(input.estimates ?? {}),
        client_key: input.clientKey ?? null,
      }),
    );
    const order = the(store, orders().where('o.id', lastInsertRowid));
    const how = { send: 'to be sent', 'by hand': 'to be done by hand', dry: 'a dry run: not sent' }[input.way];
    tell(
      store,
      order,
      actor(),
      `${order.kind} up to ${(order.amountMinor / 100).toFixed(2)} ${order.currency}, ${how}`,
    );
    postCommitment(store, order, 'ordered');
    moveOnShortlist(store, order);
    return order;
  });
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
    | 'venueNumber'
    | 'reason'
    | 'refusedFor'
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
    run(
      store,
      knex('orders').where('id', after.id).update({
        state: after.state,
        price_minor: after.priceMinor,
        least_minor: after.leastMinor,
        counter_minor: after.counterMinor,
        final_minor: after.finalMinor,
        bids: after.bids,
        reserve: after.reserve,
        closes_at: after.closesAt,
        venue_number: after.venueNumber,
        reason: after.reason,
        refused_for: after.refusedFor,
        attempts: after.attempts,
        next_at: after.nextAt,
        sent_at: after.sentAt,
        answered_at: after.answeredAt,
        ended_at: after.endedAt,
      }),
    );
    if (state !== before.state || words) tell(store, after, who, words ?? state);
    if (state !== before.state || after.finalMinor !== before.finalMinor) {
      postCommitment(store, after, state);
      moveOnShortlist(store, after);
      if (isEnded(state)) keepOutcome(store, after, at);
    }
    return after;
  });
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
  const newer = exists(
    store,
    knex('orders').where('domain_id', domainId).where('id', '>', id).where('state', '<>', 'dry'),
  );
  if (newer && state !== 'won') return;
  const at = store.now();
  run(
    store,
    knex('shortlist')
      .insert({ domain_id: domainId, brief_id: briefId, stage, added_at: at, changed_at: at })
      .onConflict(['brief_id', 'domain_id'])
      .merge(['stage', 'changed_at']),
  );
}

/** What was won is owned; what somebody else got is a sale to learn from. */
function keepOutcome(store: Store, order: Order, at: number): void {
  const { state, finalMinor, name, currency, venue } = order;
  if (state === 'won') putHolding(store, order, at);
  if ((state === 'won' || state === 'lost') && finalMinor !== null && order.kind !== 'register')
    putSales(store, [{ name, priceMinor: finalMinor, currency, at: dayOf(at), venue }], 'own orders');
}
