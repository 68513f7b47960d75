import { randomUUID } from 'node:crypto';
import { Refusal } from '../../core/refusal';
import { isResaleOpen, nextSaleLook, type ResaleState } from '../../core/selling/resale';
import type { AnswerAct, Inquiry, InquiryState } from '../../core/selling/talk';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, knex, known, pick, run, sql, the } from '../base/query';
import { setWatched } from '../lifecycle/watching';
import { putSales } from '../offers/sales';
import { addEntry, changeHolding, holdingOf } from './holdings';

const RESALES = columns('resales', 'r');
const DOMAINS = columns('domains', 'd');
const INQUIRY_ANSWERS = columns('inquiry_answers');
const INQUIRIES = columns('inquiries', 'i');

const resales = () =>
  pick(knex('resales as r').join('domains as d', 'd.id', 'r.domain_id'), {
    ...camel(
      RESALES,
      'id',
      'key',
      'domain_id',
      'venue',
      'ask_minor',
      'floor_minor',
      'currency',
      'text',
      'state',
      'final_minor',
      'fees_minor',
      'reason',
      'attempts',
      'created_at',
      'answered_at',
      'ended_at',
    ),
    ...camel(DOMAINS, 'name'),
  });

/** An owned domain that is offered at a venue. Amounts in minor units of `currency`; times in ms since 1970 UTC. */
export interface Resale {
  id: number;
  key: string;
  domainId: number;
  name: string;
  venue: string;
  askMinor: number;
  /** The least it is let go for; the venue is not told. */
  floorMinor: number;
  currency: string;
  text: string;
  state: ResaleState;
  finalMinor: number | null;
  feesMinor: number | null;
  reason: string | null;
  attempts: number;
  createdAt: number;
  answeredAt: number | null;
  endedAt: number | null;
}

export function readResale(store: Store, id: number): Resale | null {
  return first(store, resales().where('r.id', id)) ?? null;
}

/** Sales of a domain, the latest first. */
export function resalesOf(store: Store, domainId: number): Resale[] {
  return all(store, resales().where('r.domain_id', domainId).orderBy('r.id', 'desc'));
}

/** All that are not over. */
export function openResales(store: Store): Resale[] {
  return all(store, resales().whereNull('r.ended_at').orderBy('r.id'));
}

export interface ResaleInput {
  domainId: number;
  venue: string;
  askMinor: number;
  floorMinor: number;
  currency: string;
  text: string;
  state: 'by hand' | 'dry run' | 'queued';
}

/** A sale that is not taken, with why in words. */
export class ResaleRefused extends Refusal {
  constructor(message: string, options: ErrorOptions = {}) {
    super('sale-refused', `${message[0].toUpperCase()}${message.slice(1)}.`, options);
  }
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
      'you',
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

export function inquiriesOf(store: Store, id: number): Inquiry[] {
  return all(
    store,
    pick(knex('inquiries as i'), {
      ...camel(INQUIRIES, 'inquiry', 'buyer', 'words', 'offer_minor', 'asked_minor', 'state', 'until'),
      inquiredAt: INQUIRIES.at,
    })
      .where('resale_id', id)
      .orderBy([{ column: 'at' }, { column: 'inquiry' }]),
  ).map((row) => {
    const { inquiredAt, ...rest } = row as Omit<Inquiry, 'at'> & { inquiredAt: number };
    return { ...rest, at: inquiredAt };
  });
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
    if (news.state === 'sold') settleSale(store, before, news);
    else if (isOver && resalesOf(store, before.domainId).every(({ state }) => !isResaleOpen(state)))
      changeHolding(store, before.domainId, { status: 'owned' });
    return readResale(store, id);
  });
}

function settleSale(
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

/** An answer to an inquiry that is on its way, or arrived. */
export interface InquiryAnswer {
  key: string;
  inquiry: string;
  act: AnswerAct;
  amountMinor: number | null;
  state: 'to send' | 'done' | 'refused';
  reason: string | null;
  at: number;
}

/**
 * Answers who asked. With a venue it is on disk, under its key, before it goes out; by hand it stands as it is said.
 *
 * @throws ResaleRefused when there is nobody to answer, or less is agreed to than the floor.
 */
export function answerBuyer(
  store: Store,
  id: number,
  { inquiry, act, amountMinor }: { inquiry: string; act: AnswerAct; amountMinor: number | null },
): Resale {
  return write(store, () => {
    const sale = readResale(store, id);
    if (!sale || sale.endedAt !== null) throw new ResaleRefused('the sale is over');
    const asked = inquiriesOf(store, id).find((one) => one.inquiry === inquiry);
    if (asked?.state !== 'open') throw new ResaleRefused(asked ? `it is ${asked.state}` : 'nobody has asked so');
    if (answersOf(store, id).some((answer) => answer.inquiry === inquiry && answer.state === 'to send'))
      throw new ResaleRefused('an answer is on its way');
    const amount = act === 'accept' ? asked.offerMinor : act === 'counter' ? amountMinor : null;
    if (act !== 'decline' && amount === null) throw new ResaleRefused('an amount is wanted');
    if (amount !== null && amount < sale.floorMinor) throw new ResaleRefused('that is under the floor');
    const isByHand = sale.state === 'by hand';
    const price = amount === null ? '' : ` ${(amount / 100).toFixed(2)} ${sale.currency}`;
    run(
      store,
      knex('inquiry_answers').insert({
        key: randomUUID(),
        resale_id: id,
        inquiry,
        act,
        amount_minor: amount,
        state: isByHand ? 'done' : 'to send',
        reason: null,
        at: store.now(),
      }),
    );
    tell(store, id, 'you', `to ${asked.buyer}: ${act}${price}`);
    if (!isByHand) {
      run(store, knex('resales').where('id', id).update({ next_at: store.now() }));
      return sale;
    }
    const state: InquiryState = act === 'accept' ? 'agreed' : act === 'counter' ? 'countered' : 'declined';
    putInquiry(store, id, { ...asked, state, askedMinor: act === 'counter' ? amount : asked.askedMinor });
    return sale;
  });
}

export function answersOf(store: Store, id: number): InquiryAnswer[] {
  return all(
    store,
    pick(knex('inquiry_answers'), {
      ...camel(INQUIRY_ANSWERS, 'key', 'inquiry', 'act', 'amount_minor', 'state', 'reason'),
      saidAt: INQUIRY_ANSWERS.at,
    })
      .where('resale_id', id)
      .orderBy([{ column: 'at' }, { column: 'key' }]),
  ).map((row) => {
    const { saidAt, ...rest } = row as Omit<InquiryAnswer, 'at'> & { saidAt: number };
    return { ...rest, at: saidAt };
  });
}

/** What the venue made of an answer. */
export function settleAnswer(store: Store, id: number, key: string, reason: string | null): void {
  write(store, () => {
    const state = reason === null ? 'done' : 'refused';
    run(store, knex('inquiry_answers').where('key', key).update({ state, reason }));
    if (reason !== null) tell(store, id, 'Jam Ladle', `the answer was not taken: ${reason}`);
  });
}

/** Somebody asked, and it is noted by hand. */
export function noteInquiry(
  store: Store,
  id: number,
  { buyer, words, offerMinor }: { buyer: string; words: string; offerMinor: number | null },
): void {
  write(store, () => {
    const sale = readResale(store, id);
    if (sale?.state !== 'by hand') throw new ResaleRefused('its venue says who asks');
    const known = inquiriesOf(store, id).find((one) => one.buyer === buyer);
    const at = store.now();
    // who asked before comes again, with another offer
    const inquiry: Inquiry = known
      ? { ...known, words, offerMinor, state: 'open' }
      : { inquiry: `h${at.toString(36)}`, buyer, at, words, offerMinor, askedMinor: null, state: 'open', until: null };
    const told = newsOf(known, inquiry, sale.currency);
    putInquiry(store, id, inquiry);
    if (told !== null) tell(store, id, 'you', told);
  });
}

function putInquiry(
  store: Store,
  id: number,
  { inquiry, buyer, at, words, offerMinor, askedMinor, state, until }: Inquiry,
): void {
  run(
    store,
    knex('inquiries')
      .insert({
        resale_id: id,
        inquiry,
        buyer,
        at,
        words,
        offer_minor: offerMinor,
        asked_minor: askedMinor,
        state,
        until,
      })
      .onConflict(['resale_id', 'inquiry'])
      .merge(),
  );
}

export interface ResaleLine {
  at: number;
  who: string;
  words: string;
}

/** Everything that was done or heard of a sale, in order. */
export function resaleLog(store: Store, id: number): ResaleLine[] {
  return all(store, knex('resale_events').select('at', 'who', 'words').where('resale_id', id).orderBy('id'));
}

function tell(store: Store, id: number, who: string, words: string): void {
  run(store, knex('resale_events').insert({ resale_id: id, at: store.now(), who, words }));
}

/** A line for the log; null: nothing is new. */
function newsOf(
  before: Inquiry | undefined,
  { buyer, words, offerMinor, state }: Inquiry,
  currency: string,
): string | null {
  if (before?.state === state && before.offerMinor === offerMinor) return null;
  const offer = offerMinor === null ? '' : `, offers ${(offerMinor / 100).toFixed(2)} ${currency}`;
  return `${buyer} ${words}${state === 'open' ? offer : ''}`;
}

function stateWords({ state, finalMinor, reason }: ResaleNews, currency: string): string {
  if (state === 'sold') return `sold${finalMinor === null ? '' : ` for ${(finalMinor / 100).toFixed(2)} ${currency}`}`;
  return reason === null ? state : `${state}: ${reason}`;
}

/** Inquiries that want an answer, the one that waits no longer first. */
export function waitingInquiries(store: Store): (Inquiry & { resaleId: number; name: string; currency: string })[] {
  return openResales(store)
    .flatMap(({ id, name, currency }) =>
      inquiriesOf(store, id)
        .filter(({ state }) => state === 'open')
        .map((inquiry) => ({ ...inquiry, resaleId: id, name, currency })),
    )
    .sort((a, b) => (a.until ?? Infinity) - (b.until ?? Infinity));
}

/** Who asked for a domain and waits until some moment. */
export function inquiriesFor(
  store: Store,
  domainId: number,
): { key: string; until: number; buyer: string; offerMinor: number | null; currency: string; venue: string }[] {
  return all(
    store,
    pick(knex('resales as r').join('inquiries as i', 'i.resale_id', 'r.id'), {
      ...camel(INQUIRIES, 'buyer', 'offer_minor'),
      until: known(INQUIRIES.until),
      ...camel(RESALES, 'currency', 'venue'),
      key: sql<string>("i.resale_id || '-' || i.inquiry"),
    })
      .where('r.domain_id', domainId)
      .whereNull('r.ended_at')
      .where('i.state', 'open')
      .whereNotNull('i.until')
      .orderBy('i.until'),
  );
}
