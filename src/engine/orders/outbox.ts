import type { Logger } from 'pino';
import { lacksSecret } from '../../core/connections/connection';
import type { DescribedOrder } from '../../core/connections/order-answer';
import type { Listing } from '../../core/listings/listing';
import { nextLookAt, retryAt } from '../../core/orders/pace';
import { isDryAt, type OrderTaker } from '../../core/orders/takers';
import { actor } from '../../core/work/actor';
import { type AccountAnswer, NO_KEY, type SentReply } from '../../net/venue-account';
import { type Store, write } from '../../store/base/database';
import { readRates, readSettings } from '../../store/base/settings';
import { updateBestListing } from '../../store/offers/best-listing';
import { listingsOf, putListing } from '../../store/offers/listings';
import { askAll, dueOrders, type Order, readOrder } from '../../store/orders/order-rows';
import { happen, type OrderNews } from '../../store/orders/orders';
import { AccountClient } from './account-client';

/** Orders under way at once. */
const MOST_AT_ONCE = 8;

/**
 * Sends orders that are on disk, and asks after those that were sent. An order is marked as sent before its first byte goes out; one
 * whose answer did not come, for whatever reason, is asked about before it is sent again, under the same key.
 */
export class Outbox {
  private readonly busy = new Set<number>();
  private readonly accounts: AccountClient;

  constructor(
    private readonly store: Store,
    private readonly changed: (ids: number[]) => void,
    private readonly log: Logger,
  ) {
    this.accounts = new AccountClient(store);
  }

  /** After a start: every order that a venue may have is asked about at once, whatever was last known. */
  reconcile(): void {
    askAll(this.store, this.store.now());
  }

  /** One turn of the clock. */
  turn(): void {
    for (const order of dueOrders(this.store, this.store.now(), MOST_AT_ONCE)) {
      if (this.busy.size >= MOST_AT_ONCE) return;
      if (!this.busy.has(order.id)) void this.attend(order.id);
    }
  }

  /** Does what is to be done about an order now. @returns the order afterwards. */
  async attend(id: number): Promise<Order | null> {
    if (this.busy.has(id)) return readOrder(this.store, id);
    this.busy.add(id);
    try {
      const order = readOrder(this.store, id);
      if (!order || order.endedAt !== null || order.state === 'by hand') return order;
      const taker = this.accounts.takerOf(order.venue, order.kind);
      if (!taker) return this.without(order);
      if (lacksKey(taker)) return this.later(order, NO_KEY);
      const after = order.state === 'queued' ? await this.send(order, taker) : await this.askAfter(order, taker);
      this.changed([order.domainId]);
      return after;
    } catch (error) {
      this.log.warn({ err: error, order: id }, 'an order could not be attended to');
      return readOrder(this.store, id);
    } finally {
      this.busy.delete(id);
    }
  }

  /** Takes an order back. @returns why it cannot be; null: it is. */
  async withdraw(id: number): Promise<string | null> {
    const order = readOrder(this.store, id);
    if (!order) return 'there is no such order';
    if (happen(this.store, id, { kind: 'withdraw' }, actor(), 'taken back before it was sent')) {
      this.changed([order.domainId]);
      return null;
    }
    const taker = this.accounts.takerOf(order.venue, order.kind);
    if (!taker || order.endedAt !== null) return `it is ${order.state}`;
    const reply = await this.accounts.withdraw(taker, order.key, order.name);
    if (reply.outcome === 'rejected') return `${order.venue}: ${reply.reason}`;
    if (reply.outcome !== 'answered') return 'the venue does not answer; it is not taken back';
    this.take(order, reply.value);
    return null;
  }

  close(): Promise<void> {
    return this.accounts.close();
  }

  /** Settings may have changed what may be reached. */
  forgetClient(): void {
    this.accounts.forget();
  }

  /** The account is gone from the settings: what was not sent is refused, what was is asked about when it is back. */
  private without(order: Order): Order | null {
    if (order.state === 'queued')
      return happen(this.store, order.id, { kind: 'refuse' }, 'Jam Ladle', 'no account at the venue is set', {
        reason: 'no account at the venue is set',
      });
    this.later(order, 'no account at the venue is set');
    return order;
  }

  private async send(order: Order, taker: OrderTaker): Promise<Order | null> {
    const { store } = this;
    const now = store.now();
    const stop = this.reasonNotToSend(order, taker, now);
    if (stop) return happen(store, order.id, { kind: 'refuse' }, 'Jam Ladle', stop, { reason: stop });
    const attempts = order.attempts + 1;
    const news: OrderNews = { attempts, sentAt: now, nextAt: retryAt(attempts, now) };
    const sent = happen(store, order.id, { kind: 'send' }, 'Jam Ladle', `sent to ${order.venue}`, news);
    if (!sent) return null;
    return this.followed(this.hear(sent, await this.accounts.send(taker, asSent(order))), taker);
  }

  /** What changed since it was given: a dry run was switched on, or it is too late. */
  private reasonNotToSend({ kind, closesAt }: Order, taker: OrderTaker, now: number): string | null {
    if (readSettings(this.store).isDryRun || isDryAt(taker)) return 'the dry run was switched on before it was sent';
    const isTimed = kind === 'bid' || kind === 'buy';
    if (isTimed && closesAt !== null && closesAt + 15 * 60_000 < now) return 'it closed before it could be sent';
    return null;
  }

  private async askAfter(order: Order, taker: OrderTaker): Promise<Order | null> {
    const reply = await this.accounts.state(taker, asSent(order), order.state === 'waiting');
    return this.followed(this.hear(order, reply), taker);
  }

  /** Where nobody can be asked how an order stands, whoever gave it follows it. */
  private followed(order: Order | null, taker: OrderTaker): Order | null {
    const isAsked = taker.by === 'account' || taker.state !== null;
    if (isAsked || order === null || order.endedAt !== null || order.state === 'queued') return order;
    const words =
      order.state === 'sent'
        ? `whether ${order.venue} has it is not known: look there, and say here what came of it`
        : `nobody can be asked how it stands at ${order.venue}: look there, and say here what came of it`;
    return happen(this.store, order.id, { kind: 'by hand' }, 'Jam Ladle', words, { nextAt: null });
  }

  private hear(order: Order, reply: SentReply): Order | null {
    const { store } = this;
    switch (reply.outcome) {
      case 'answered':
        return this.take(order, reply.value);
      case 'none':
        // what was taken once is not sent again
        if (order.state !== 'sent') return this.later(order, `${order.venue} does not know of it any more`);
        return happen(store, order.id, { kind: 'no trace' }, order.venue, 'it never arrived; it is sent again', {
          nextAt: store.now(),
        });
      case 'rejected':
        return happen(store, order.id, { kind: 'answer', state: 'refused' }, order.venue, reply.reason, {
          reason: reply.reason,
          refusedFor: 'other',
          answeredAt: store.now(),
        });
      case 'unsent':
        return happen(store, order.id, { kind: 'no trace' }, 'Jam Ladle', notTwice(order, reply.reason), {
          reason: reply.reason,
          nextAt: retryAt(order.attempts, store.now()),
        });
      case 'unknown':
        return this.later(order, reply.reason);
    }
  }

  private later(order: Order, reason: string): Order | null {
    const attempts = order.attempts + 1;
    const { store } = this;
    const what = order.state === 'queued' ? 'not sent yet' : 'no answer';
    const words = order.reason === reason ? null : `${what}: ${reason}`;
    return happen(store, order.id, { kind: 'later' }, 'Jam Ladle', words, {
      attempts,
      reason,
      nextAt: retryAt(attempts, store.now()),
    });
  }

  private take(order: Order, answer: AccountAnswer): Order | null {
    const { store } = this;
    const now = store.now();
    const { state, reason, priceMinor, leastMinor, counterMinor, finalMinor, bids, reserve, closesAt, number } = answer;
    const after = happen(store, order.id, { kind: 'answer', state }, order.venue, withNumber(order, answer), {
      reason,
      refusedFor: state === 'refused' ? (answer.refusedFor ?? 'other') : null,
      priceMinor,
      leastMinor,
      counterMinor,
      finalMinor,
      bids,
      reserve,
      closesAt: closesAt ?? order.closesAt,
      venueNumber: number ?? order.venueNumber,
      attempts: 0,
      answeredAt: now,
      nextAt: nextLookAt(state, closesAt, now),
    });
    if (after && (after.kind === 'bid' || after.endedAt !== null)) this.showListing(after, now);
    this.changed([order.domainId]);
    return after;
  }

  /** What the account says of an auction is newer than what the feed said of the listing. */
  private showListing(order: Order, now: number): void {
    const { store } = this;
    write(store, () => {
      const known = listingsOf(store, order.domainId).find(
        ({ venue, kind }) => venue === order.venue && (order.kind !== 'bid' || kind.endsWith('auction')),
      );
      if (!known) return;
      const isOver = order.state === 'won' || order.state === 'lost';
      const next: Listing = {
        ...known,
        priceMinor: order.finalMinor ?? order.priceMinor ?? known.priceMinor,
        bids: order.bids ?? known.bids,
        closingAt: order.closesAt ?? known.closingAt,
        state: isOver ? (order.finalMinor === null ? 'closed' : 'sold') : known.state,
      };
      putListing(store, order.domainId, known.sourceId, next, now);
      updateBestListing(store, order.domainId, now, readRates(store));
    });
  }
}

/** What was never entered, was forgotten with its address, or is sealed: without it a service would refuse what it might take. */
const lacksKey = (taker: OrderTaker): boolean =>
  taker.by === 'account' ? taker.account.key === '' : lacksSecret(taker.service);

/** An order as an account is told of it. */
const asSent = ({ key, name, kind, amountMinor, currency, venueNumber }: Order): DescribedOrder => ({
  key,
  domain: name,
  kind,
  amountMinor,
  currency,
  number: venueNumber,
});

const notTwice = (order: Order, reason: string) => (order.reason === reason ? null : `it did not leave: ${reason}`);

/** A line for the log, with the number that a venue gave the order once. */
function withNumber(order: Order, answer: AccountAnswer): string | null {
  const words = wordsOf(order, answer);
  if (answer.number === null || answer.number === order.venueNumber) return words;
  return `${words ?? answer.state}, number ${answer.number} there`;
}

/** A line for the log; null: nothing has changed that is worth one. */
function wordsOf(
  order: Order,
  { state, priceMinor, counterMinor, finalMinor, reason, closesAt }: AccountAnswer,
): string | null {
  const money = (minor: number | null) => (minor === null ? '' : ` ${(minor / 100).toFixed(2)} ${order.currency}`);
  const isMoved = closesAt !== null && order.closesAt !== null && closesAt > order.closesAt;
  if (state === order.state && priceMinor === order.priceMinor)
    return isMoved ? 'the end was moved by a late bid' : null;
  const moved = isMoved ? ', the end was moved' : '';
  switch (state) {
    case 'leading':
      return `leading at${money(priceMinor)}${moved}`;
    case 'outbid':
      return `outbid at${money(priceMinor)}${moved}`;
    case 'countered':
      return `the seller wants${money(counterMinor)}`;
    case 'won':
      return `won for${money(finalMinor)}`;
    case 'lost':
      return `lost${finalMinor === null ? '' : `; it went for${money(finalMinor)}`}${reason ? `: ${reason}` : ''}`;
    default:
      return reason ? `${state}: ${reason}` : state;
  }
}
