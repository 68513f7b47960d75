import { z } from 'zod';
import { ORDER_KINDS, type OrderKind, REFUSED_FOR, VENUE_STATES } from '../core/orders/order';
import { VENUE_SALE_STATES } from '../core/selling/resale';
import { type AnswerAct, INQUIRY_STATES } from '../core/selling/talk';
import { NetError } from './errors';
import type { HttpClient } from './http';

/** A account takes orders for a venue or a registrar, in the product's own open format (docs/venue-orders.md). */
export interface AccountAddress {
  address: string;
  key: string;
}

const Minor = z.number().int().min(0).max(Number.MAX_SAFE_INTEGER).nullable().default(null);
const Moment = z.iso
  .datetime({ offset: true })
  .transform((text) => Date.parse(text))
  .nullable()
  .default(null);
const Words = z.string().max(500).nullable().default(null);
const Reserve = z.enum(['none', 'unmet', 'met']).nullable().default(null);
const Count = z.number().int().min(0).nullable().default(null);

const Answer = z.object({
  key: z.string(),
  domain: z.string(),
  state: z.enum(VENUE_STATES),
  priceMinor: Minor,
  leastMinor: Minor,
  counterMinor: Minor,
  finalMinor: Minor,
  closesAt: Moment,
  bids: Count,
  reserve: Reserve,
  reason: Words,
  refusedFor: z.enum(REFUSED_FOR).nullable().default(null),
  /** What the venue calls it by, to be asked after it. */
  number: z.string().max(100).nullable().default(null),
});
/** Where a venue says that an order stands. */
export type AccountAnswer = z.infer<typeof Answer>;

const Terms = z.object({
  domain: z.string(),
  kind: z.enum(ORDER_KINDS),
  state: z.string().max(40),
  priceMinor: Minor,
  leastMinor: Minor,
  currency: z.string().regex(/^[A-Z]{3}$/),
  feesMinor: Minor,
  closesAt: Moment,
  bids: Count,
  reserve: Reserve,
});
/** On what terms a domain is to be had at this moment. */
export type AccountTerms = z.infer<typeof Terms>;

export interface AccountOrder {
  key: string;
  domain: string;
  kind: OrderKind;
  amountMinor: number;
  currency: string;
}

/** What came of a question to a account. `unknown`: whether it was carried out cannot be told; ask again. */
export type AccountReply<T> =
  | { outcome: 'answered'; value: T }
  | { outcome: 'none' }
  | { outcome: 'rejected'; reason: string }
  | { outcome: 'unknown'; reason: string };

/** What came of an order that was sent; `unsent`: nothing of it has left. */
export type SentReply = AccountReply<AccountAnswer> | { outcome: 'unsent'; reason: string };

/** Sends an order under its key. Sending it again changes nothing (RFC 9110, 9.3.4): the same key is the same order. */
export function sendOrder(http: HttpClient, account: AccountAddress, order: AccountOrder, signal?: AbortSignal) {
  const { key, ...body } = order;
  return ask(
    http,
    account,
    `orders/${key}`,
    Answer,
    { method: 'PUT', body: JSON.stringify(body), signal },
    order.domain,
  );
}

/** Asks where an order stands; `none`: the account has never heard of it. */
export function askOrder(http: HttpClient, account: AccountAddress, key: string, domain: string, signal?: AbortSignal) {
  return ask(http, account, `orders/${key}`, Answer, { signal }, domain);
}

/** Takes an order back, where it is not binding. */
export function withdrawOrder(
  http: HttpClient,
  account: AccountAddress,
  key: string,
  domain: string,
  signal?: AbortSignal,
) {
  return ask(http, account, `orders/${key}`, Answer, { method: 'DELETE', signal }, domain);
}

/** Asks for the terms of a domain as they are now. */
export function askTerms(http: HttpClient, account: AccountAddress, domain: string, signal?: AbortSignal) {
  return ask(http, account, `terms?domain=${encodeURIComponent(domain)}`, Terms, { signal }, domain);
}

const SaleAnswer = z.object({
  key: z.string(),
  domain: z.string(),
  state: z.enum(VENUE_SALE_STATES),
  finalMinor: Minor,
  feesMinor: Minor,
  reason: Words,
  inquiries: z
    .array(
      z.object({
        inquiry: z.string().regex(/^[\w-]{1,64}$/),
        buyer: z.string().max(200),
        at: z.iso.datetime({ offset: true }).transform((text) => Date.parse(text)),
        words: z.string().max(2000),
        offerMinor: Minor,
        askedMinor: Minor,
        state: z.enum(INQUIRY_STATES),
        until: Moment,
      }),
    )
    .max(1000),
});
/** Where a venue says that a sale stands, and who asked for it. */
export type AccountSale = z.infer<typeof SaleAnswer>;

export interface AccountOffer {
  key: string;
  domain: string;
  askMinor: number;
  currency: string;
  text: string;
}

/** Offers a domain for sale under its key; sending it again changes nothing. */
export function sendSale(http: HttpClient, account: AccountAddress, { key, ...body }: AccountOffer) {
  return ask(http, account, `sales/${key}`, SaleAnswer, { method: 'PUT', body: JSON.stringify(body) }, body.domain);
}

/** Asks how a sale stands. */
export function askSale(http: HttpClient, account: AccountAddress, key: string, domain: string) {
  return ask(http, account, `sales/${key}`, SaleAnswer, {}, domain);
}

/** Takes a domain off sale, where nobody has bought it. */
export function withdrawSale(http: HttpClient, account: AccountAddress, key: string, domain: string) {
  return ask(http, account, `sales/${key}`, SaleAnswer, { method: 'DELETE' }, domain);
}

export interface AccountWord {
  key: string;
  inquiry: string;
  act: AnswerAct;
  amountMinor: number | null;
}

/** Answers somebody who asked for it, under a key of its own. */
export function answerInquiry(
  http: HttpClient,
  account: AccountAddress,
  sale: { key: string; domain: string },
  { key, ...body }: AccountWord,
) {
  const path = `sales/${sale.key}/answers/${key}`;
  return ask(http, account, path, SaleAnswer, { method: 'PUT', body: JSON.stringify(body) }, sale.domain);
}

/** Why nobody is asked: an account without its key, which was never entered, was forgotten with its address, or is sealed. */
export const NO_KEY =
  'the key of the account is not here: enter it where the account is set, or start with the passphrase that seals it';
/** Shorter ones would be found in any text. */
const LEAST_KEY = 6;

/** What somebody else says, without the key that they may say back: it is kept and shown. */
function withoutKey(text: string, key: string): string {
  return key.length < LEAST_KEY ? text : text.replaceAll(key, '…').replaceAll(encodeURIComponent(key), '…');
}

interface Asked {
  method?: 'PUT' | 'DELETE';
  body?: string;
  signal?: AbortSignal;
}

async function ask<T extends { domain: string }>(
  http: HttpClient,
  { address, key }: AccountAddress,
  path: string,
  schema: z.ZodType<T>,
  { method, body, signal }: Asked,
  domain: string,
): Promise<AccountReply<T>> {
  if (key === '') return { outcome: 'unknown', reason: NO_KEY };
  const url = `${address.replace(/\/$/, '')}/${path}`;
  const headers = { authorization: `Bearer ${key}`, ...(body ? { 'content-type': 'application/json' } : {}) };
  try {
    const answer = await http.get(url, { accept: 'application/json', headers, method, body, signal });
    if (answer.status === 404 && method !== 'PUT') return { outcome: 'none' };
    const text = withoutKey(answer.body.toString('utf8'), key);
    // a refusal for now is no answer to the order
    if (answer.status === 429 || answer.status >= 500) return { outcome: 'unknown', reason: `HTTP ${answer.status}` };
    if (answer.status !== 200) return { outcome: 'rejected', reason: reasonOf(text) ?? `HTTP ${answer.status}` };
    return readAccount(text, schema, domain);
  } catch (error) {
    if (!(error instanceof NetError)) throw error;
    return { outcome: 'unknown', reason: error.message };
  }
}

function readAccount<T extends { domain: string }>(
  text: string,
  schema: z.ZodType<T>,
  domain: string,
): AccountReply<T> {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return { outcome: 'unknown', reason: 'the answer is no JSON' };
  }
  const parsed = schema.safeParse(value);
  if (!parsed.success)
    return {
      outcome: 'unknown',
      reason: `the answer is none of a venue’s account: ${z.prettifyError(parsed.error)}`.slice(0, 300),
    };
  if (parsed.data.domain.toLowerCase() !== domain)
    return { outcome: 'unknown', reason: `the answer is about ${parsed.data.domain.slice(0, 80)}` };
  return { outcome: 'answered', value: parsed.data };
}

function reasonOf(text: string): string | null {
  try {
    const { error } = JSON.parse(text) as { error?: unknown };
    return typeof error === 'string' ? error.slice(0, 300) : null;
  } catch {
    return null;
  }
}
