import { randomUUID } from 'node:crypto';
import { isResaleOpen, nextSaleLook, type ResaleState } from '../../core/selling/resale';
import type { Inquiry } from '../../core/selling/talk';
import { actor } from '../../core/work/actor';
import { type Store, write } from '../base/database';
import { all, first, knex, run, the } from '../base/query';
import { setWatched } from '../lifecycle/watching';
import { putSales } from '../offers/sales';
import { addEntry, changeHolding, holdingOf } from './holdings';
import { inquiriesOf, putInquiry } from './inquiries';
import { newsOf, ResaleRefused } from './resale-news';
import { type Resale, readResale, resales, resalesOf, tell } from './resale-rows';

export interface ResaleInput {
  domainId: number;
  venue: string;
  askMinor: number;
  floorMinor: number;
  currency: string;
  text: string;
  state: 'by hand' | 'dry run' | 'queued';
}

/**
 * Offers what is owned. It is on disk, with its key, before anything goes out.
 *
 * @throws ResaleRefused when it is not owned, offered there already, or asked for less than its floor.
 */
export function offerResale(store: Store, input: ResaleInput): Resale {
  return write(store, () => {
    const status = first(store, knex('holdings').where('domain_id', input.domainId).pluck('status'));
    if (status === undefined) throw new ResaleRefused('it is not owned');
    if (status === 'sold' || status === 'given up') throw new ResaleRefused(`it is ${status}`);
    if (input.askMinor < input.floorMinor) throw new ResaleRefused('less is asked than the floor');
    if (resalesOf(store, input.domainId).some(({ venue, state }) => venue === input.venue && isResaleOpen(state)))
      throw new ResaleRefused(`it is offered at ${input.venue} already`);
    const now = store.now();
    const isOver = input.state === 'dry run';
    const { lastInsertRowid } = run(
      store,
      knex('resales').insert({
        key: randomUUID(),
        domain_id: input.domainId,
        venue: input.venue,
        ask_minor: input.askMinor,
        floor_minor: input.floorMinor,
        currency: input.currency,
        text: input.text,
        state: input.state,
        next_at: input.state === 'queued' ? now : null,
        created_at: now,
        ended_at: isOver ? now : null,
      }),
    );
    const id = Number(lastInsertRowid);
    const price = `${(input.askMinor / 100).toFixed(2)} ${input.currency}`;
    tell(
      store,
      id,
      actor(),
      isOver ? `would be offered at ${input.venue} for ${price}` : `offered at ${input.venue} for ${price}`,
    );
    if (!isOver) changeHolding(store, input.domainId, { status: 'for sale' });
    return the(store, resales().where('r.id', id));
  });
}

/** Sales whose venue is to be told or asked now. */
export function dueResales(store: Store, now: number, limit: number): Resale[] {
  return all(store, resales().where('r.next_at', '<=', now).orderBy('r.next_at').limit(limit));
}

/** Puts the next look at a sale off, or at once. */
export function setNextLook(
  store: Store,
  id: number,
  nextAt: number | null,
  reason: string | null,
  attempts: number,
): void {
  write(store, () => run(store, knex('resales').where('id', id).update({ next_at: nextAt, reason, attempts })));
}

/** It is marked as sent before its first byte goes out. */
export function markSent(store: Store, id: number): void {
  write(store, () => run(store, knex('resales').where({ id, state: 'queued' }).update({ state: 'sent' })));
}

/** What came of a sale, as its venue says, or by hand. */
export interface ResaleNews {
  state: ResaleState;
  finalMinor: number | null;
  feesMinor: number | null;
  reason: string | null;
  inquiries: Inquiry[];
}

/**
 * Takes what a venue says: the sale, who asked, and, when it is sold, its money: an entry for the price and one for the fees, the holding
 * as sold, and its price among the sales that worth is reckoned from. Nothing comes after an end.
 *
 * @returns the sale afterwards; null: it is over, or there is none.
 */
export function takeNews(store: Store, id: number, news: ResaleNews, who: string): Resale | null {
  return write(store, () => {
    const before = readResale(store, id);
    if (!before || before.endedAt !== null) return null;
    const known = new Map(inquiriesOf(store, id).map((one) => [one.inquiry, one]));
    for (const inquiry of news.inquiries) {
      const words = newsOf(known.get(inquiry.inquiry), inquiry, before.currency);
      putInquiry(store, id, inquiry);
      if (words !== null) tell(store, id, who, words);
    }
    const now = store.now();
    const isOver = !isResaleOpen(news.state);
    const states = news.inquiries.map(({ state }) => state);
    run(
      store,
      knex('resales')
        .where('id', id)
        .update({
          state: news.state,
          final_minor: news.finalMinor,
          fees_minor: news.feesMinor,
          reason: news.reason,
          attempts: 0,
          next_at: nextSaleLook(news.state, states, now),
          answered_at: now,
          ended_at: isOver ? now : null,
        }),
    );
    if (news.state !== before.state) tell(store, id, who, stateWords(news, before.currency));
    if (news.state === 'sold') bookSale(store, before, news);
    else if (isOver && resalesOf(store, before.domainId).every(({ state }) => !isResaleOpen(state)))
      changeHolding(store, before.domainId, { status: 'owned' });
    return readResale(store, id);
  });
}

function bookSale(
  store: Store,
  { id, domainId, name, venue, currency }: Resale,
  { finalMinor, feesMinor }: ResaleNews,
): void {
  const at = store.now();
  if (holdingOf(store, domainId)?.status === 'sold') {
    tell(store, id, 'Jam Ladle', 'it was sold elsewhere before: nothing is entered, settle it with the venue');
    return;
  }
  const common = { at, currency };
  if (finalMinor)
    addEntry(store, domainId, { ...common, kind: 'sale', amountMinor: finalMinor, words: `sold at ${venue}` });
  if (feesMinor)
    addEntry(store, domainId, { ...common, kind: 'fees', amountMinor: feesMinor, words: `kept by ${venue}` });
  changeHolding(store, domainId, { status: 'sold', renewsAt: null });
  setWatched(store, domainId, null, at);
  if (finalMinor) putSales(store, [{ name, priceMinor: finalMinor, currency, at, venue }], 'own sales');
  // it can be sold once: what is offered elsewhere is taken back
  for (const other of resalesOf(store, domainId))
    if (isResaleOpen(other.state)) {
      run(
        store,
        knex('resales')
          .where('id', other.id)
          .whereIn('state', ['by hand', 'queued'])
          .update({ state: 'withdrawn', ended_at: at, next_at: null, reason: `sold at ${venue}` }),
      );
      run(
        store,
        knex('resales').where('id', other.id).whereNull('ended_at').update({ reason: SOLD_ELSEWHERE, next_at: at }),
      );
      tell(store, other.id, 'Jam Ladle', `sold at ${venue}: it is taken back here`);
    }
}
/** Why a sale is to be taken back from its venue. */
export const SOLD_ELSEWHERE = 'sold elsewhere';

function stateWords({ state, finalMinor, reason }: ResaleNews, currency: string): string {
  if (state === 'sold') return `sold${finalMinor === null ? '' : ` for ${(finalMinor / 100).toFixed(2)} ${currency}`}`;
  return reason === null ? state : `${state}: ${reason}`;
}
