import { readAnswer } from '../core/connections/answer';
import type { Connection } from '../core/connections/connection';
import { errorIn } from '../core/connections/meanings';
import {
  type DescribedOrder,
  type OrderReply,
  orderFilling,
  readOrderReply,
  reasonIn,
} from '../core/connections/order-answer';
import { placeholdersIn } from '../core/connections/template';
import { AnswerFault } from '../core/connections/tree';
import { ConnectionClient, type RawPart } from './connection';
import { NetError, type NetErrorCode } from './errors';
import type { HttpClient } from './http';
import type { AccountAnswer, AccountReply, SentReply } from './venue-account';

/** Nothing of an order has left: it may go out again. */
const NEVER_LEFT: ReadonlySet<NetErrorCode> = new Set([
  'name-not-found',
  'name-unsure',
  'private-address',
  'wrong-port',
  'refused',
]);
/** Statuses of 400 to 499 that do not say whether an order was taken (RFC 9110, 15.5; RFC 6585, 4; RFC 8470, 5.2). */
const SAYS_NOTHING: ReadonlySet<number> = new Set([408, 409, 425, 429]);

/**
 * Sends orders to a service as a person described it, and asks after them. What cannot be told of an answer is unknown, never a refusal: an
 * order is sent again only where it is sure that it did not arrive.
 */
export class DescribedOrders {
  private readonly client: ConnectionClient;
  private readonly stateClient: ConnectionClient | null;

  /** @param state the service that says where an order stands; null: none does. */
  constructor(
    http: HttpClient,
    private readonly service: Connection,
    private readonly state: Connection | null,
    private readonly now: () => number,
  ) {
    this.client = new ConnectionClient(http, service);
    this.stateClient = state && new ConnectionClient(http, state);
  }

  async send(order: DescribedOrder): Promise<SentReply> {
    let raw: RawPart;
    try {
      raw = await this.client.raw(orderFilling(order));
    } catch (error) {
      if (!(error instanceof NetError)) throw error;
      const outcome = NEVER_LEFT.has(error.code) ? 'unsent' : 'unknown';
      return { outcome, reason: this.client.masked(error.message) };
    }
    const { status } = raw;
    if (status >= 200 && status < 300) return this.read(this.client, this.service, raw, order);
    const words = this.whyNot(raw) ?? this.client.declined(raw).message;
    if (status >= 400 && status < 500 && !SAYS_NOTHING.has(status)) return { outcome: 'rejected', reason: words };
    return { outcome: 'unknown', reason: words };
  }

  /** Where an order stands; `none`: the service says that nothing came under our key. */
  async standing(order: DescribedOrder): Promise<AccountReply<AccountAnswer>> {
    const { state, stateClient: client } = this;
    if (state === null || client === null) return { outcome: 'unknown', reason: 'nobody can be asked how it stands' };
    try {
      const raw = await client.raw(orderFilling(order));
      if (raw.status >= 200 && raw.status < 300) return this.read(client, state, raw, order);
      const isNothing = raw.status === 404 || state.nothing.includes(raw.status);
      if (isNothing && isAskedByOurKey(state)) return { outcome: 'none' };
      return { outcome: 'unknown', reason: client.declined(raw).message };
    } catch (error) {
      if (!(error instanceof NetError)) throw error;
      return { outcome: 'unknown', reason: client.masked(error.message) };
    }
  }

  private read(
    client: ConnectionClient,
    description: Connection,
    raw: RawPart,
    order: DescribedOrder,
  ): AccountReply<AccountAnswer> {
    try {
      const answer = readAnswer(raw.text, description.format, description.entries, raw.address);
      const error = errorIn(description, answer);
      // what is described as an error says that the order was not taken; asked after one, that the question went wrong
      if (error !== null)
        return { outcome: client === this.client ? 'rejected' : 'unknown', reason: client.masked(error) };
      return { outcome: 'answered', value: asAnswer(readOrderReply(description, answer, order, this.now()), order) };
    } catch (error) {
      if (!(error instanceof AnswerFault)) throw error;
      return { outcome: 'unknown', reason: client.masked(error.message) };
    }
  }

  /** What a refusal says where the description points to; null: nothing is read of it. */
  private whyNot({ text, address }: RawPart): string | null {
    const { service, client } = this;
    try {
      const answer = readAnswer(text, service.format, service.entries, address);
      const said = reasonIn(service, answer) ?? errorIn(service, answer);
      return said === null ? null : client.masked(said);
    } catch (error) {
      if (error instanceof AnswerFault) return null;
      throw error;
    }
  }
}

function isAskedByOurKey({ address, body, method, headers }: Connection): boolean {
  const asked = [address, method === 'GET' ? '' : body, ...headers.map(({ value }) => value)].join(' ');
  return placeholdersIn(asked).has('order');
}

function asAnswer(
  { result, reason, number, priceMinor, closesAt, bids }: OrderReply,
  { key, domain, kind, amountMinor }: DescribedOrder,
): AccountAnswer {
  const isFixed = kind === 'register' || kind === 'buy';
  return {
    key,
    domain,
    state: result,
    priceMinor: result === 'won' ? null : priceMinor,
    leastMinor: null,
    counterMinor: null,
    // a price that was agreed to is the one that is paid
    finalMinor: result === 'won' ? (priceMinor ?? (isFixed ? amountMinor : null)) : null,
    closesAt,
    bids,
    reserve: null,
    reason,
    refusedFor: result === 'refused' ? 'other' : null,
    number,
  };
}
