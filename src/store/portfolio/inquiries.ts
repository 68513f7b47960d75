import { randomUUID } from 'node:crypto';
import type { AnswerAct, Inquiry, InquiryState } from '../../core/selling/talk';
import { actor } from '../../core/work/actor';
import { type Store, write } from '../base/database';
import { all, camel, columns, knex, known, pick, run, sql } from '../base/query';
import { newsOf, ResaleRefused } from './resale-news';
import { openResales, RESALES, type Resale, readResale, tell } from './resale-rows';

const INQUIRY_ANSWERS = columns('inquiry_answers');

const INQUIRIES = columns('inquiries', 'i');

export function inquiriesOf(store: Store, id: number): Inquiry[] {
  return all(
    store,
    pick(
      knex('inquiries as i'),
      camel(INQUIRIES, 'at', 'inquiry', 'buyer', 'words', 'offer_minor', 'asked_minor', 'state', 'until'),
    )
      .where('resale_id', id)
      .orderBy([{ column: 'at' }, { column: 'inquiry' }]),
  );
}

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
    tell(store, id, actor(), `to ${asked.buyer}: ${act}${price}`);
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
    pick(
      knex('inquiry_answers'),
      camel(INQUIRY_ANSWERS, 'key', 'at', 'inquiry', 'act', 'amount_minor', 'state', 'reason'),
    )
      .where('resale_id', id)
      .orderBy([{ column: 'at' }, { column: 'key' }]),
  );
}

/** What the venue made of an answer. */
export function endAnswer(store: Store, id: number, key: string, reason: string | null): void {
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
    if (told !== null) tell(store, id, actor(), told);
  });
}

export function putInquiry(
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
