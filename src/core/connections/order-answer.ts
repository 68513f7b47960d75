import { parseCurrency, parsePrice } from '../formats/amounts';
import { parseDate } from '../formats/dates';
import { plainText } from '../formats/plain-text';
import type { OrderKind } from '../orders/order';
import { type Description, RESULTS, type Result } from './connection';
import { entryOf, FieldReader, folded, readerFor } from './meanings';
import type { ReadAnswer } from './read-answer';
import type { Filling } from './template';
import { domainFilling } from './template';
import { AnswerFault } from './tree';

/** How services say where an order stands, in small letters and without marks. What is not among them says nothing. */
const USUAL: Record<Result, ReadonlySet<string>> = {
  won: new Set(['won', 'bought', 'purchased', 'sold to you', 'completed', 'complete', 'registered', 'created', 'fulfilled', 'caught', 'captured', 'you won', 'winner']),
  leading: new Set(['leading', 'winning', 'highest', 'highest bidder', 'high bidder', 'you are the highest bidder', 'you are winning', 'top bid', 'ahead']),
  outbid: new Set(['outbid', 'losing', 'out bid', 'you have been outbid', 'not highest', 'below', 'behind']),
  waiting: new Set(['waiting', 'pending', 'processing', 'in progress', 'queued', 'submitted', 'received', 'placed', 'open', 'accepted for processing', 'backordered', 'ordered', 'pendingcreate', 'pending create']),
  lost: new Set(['lost', 'not won', 'missed', 'not caught', 'expired', 'you lost', 'ended lost', 'closed lost', 'caught by another']),
  refused: new Set(['refused', 'rejected', 'declined', 'failed', 'failure', 'error', 'invalid', 'denied', 'cancelled', 'canceled', 'false', 'no', '0', 'not available', 'unavailable', 'insufficient funds', 'too low', 'bid too low']),
}; // biome-ignore format: lists of words

/** That it went well, and not how it stands. */
const WELL = new Set(['true', 'yes', '1', 'ok', 'okay', 'success', 'successful', 'succeeded', 'accepted', 'taken', 'done', '200', '201', '1000']); // biome-ignore format: a list of words

/**
 * Where an order stands by a word of a service, by the description's own words first; null: nobody knows it. That all went well says of a
 * registration that the name is had; of what is decided later, only that it was taken.
 */
export function resultOf(text: string, words: Description['words'], kind: OrderKind): Result | null {
  const word = folded(text);
  if (word === '') return null;
  const own = RESULTS.find((one) => (words[one] ?? '').split(',').map(folded).includes(word));
  if (own !== undefined) return own;
  if (WELL.has(word)) return kind === 'register' ? 'won' : 'waiting';
  return RESULTS.find((one) => USUAL[one].has(word)) ?? null;
}

/** What a service says of an order. Amounts in minor units of the order's currency; times in ms since 1970 UTC; null: it does not say. */
export interface OrderReply {
  result: Result;
  reason: string | null;
  /** What the service calls it by. */
  number: string | null;
  /** The highest bid, or what it was had for. */
  priceMinor: number | null;
  closesAt: number | null;
  bids: number | null;
}

/** An order as far as a service is told of it. */
export interface DescribedOrder {
  /** Ours: a UUID. */
  key: string;
  domain: string;
  kind: OrderKind;
  amountMinor: number;
  currency: string;
  /** What the service called it by; null: it has not, or has no numbers. */
  number: string | null;
}

/**
 * @param now ms since 1970 UTC; times that are left are counted from it.
 * @throws AnswerFault where it says nothing of this order that is understood: a doubt is neither taken nor refused.
 */
export function readOrderReply(
  description: Description,
  answer: ReadAnswer,
  { domain, kind, currency: ordered }: Pick<DescribedOrder, 'domain' | 'kind' | 'currency'>,
  now: number,
): OrderReply {
  const reader = readerFor(description, answer);
  const entry = entryOf(reader, domain);
  const word = reader.text(entry, 'result');
  if (word === '') throw new AnswerFault('where it should say how the order stands there is nothing', 'fields');
  const result = resultOf(word, description.words, kind);
  if (result === null) throw new AnswerFault(`“${plainText(word, 80)}” is no word that is known of an order`, 'words');
  const price = parsePrice(reader.amount(entry, 'price'), '.');
  const currency = price?.currency ?? parseCurrency(reader.text(entry, 'currency')) ?? (description.currency || null);
  const bids = reader.text(entry, 'bids');
  return {
    result,
    reason: plainText(reader.text(entry, 'reason'), 300) || null,
    number: plainText(reader.text(entry, 'order-number'), 100) || null,
    // of another currency it is no answer to what was ordered
    priceMinor: price !== null && currency === ordered ? price.minor : null,
    closesAt: parseDate(reader.text(entry, 'closing'), { order: null, now }),
    bids: /^\d{1,6}$/.test(bids.trim()) ? Number(bids) : null,
  };
}

/** Why an answer refuses, as the place for it says; null: nothing stands there. */
export function reasonIn(description: Description, answer: ReadAnswer): string | null {
  const reader = new FieldReader(description, answer);
  return reader.count > 0 ? plainText(reader.text(0, 'reason'), 300) || null : null;
}

/** What an order puts into a question: `{amount}` like `90.00`, `{minor}` like `9000`. */
export function orderFilling({ key, domain, amountMinor, currency, number }: DescribedOrder): Filling {
  return {
    ...domainFilling(domain),
    order: key,
    number: number ?? '',
    amount: (amountMinor / 100).toFixed(2),
    minor: String(amountMinor),
    currency,
  };
}

/** An order to show a description with: of nothing that is ever sent. */
export const EXAMPLE_ORDER: Omit<DescribedOrder, 'domain' | 'currency' | 'kind'> = {
  key: '00000000-0000-4000-8000-000000000000',
  amountMinor: 4250,
  number: null,
};
