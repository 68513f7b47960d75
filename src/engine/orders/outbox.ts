import type { Logger } from 'pino';
import type { Listing } from '../../core/listings/listing';
import { nextLookAt, retryAt } from '../../core/orders/pace';
import type { VenueAccount } from '../../core/settings/settings';
import { actor } from '../../core/work/actor';
import { type AccountAnswer, type AccountOrder, type AccountReply, NO_KEY } from '../../net/venue-account';
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
      if (!order || order.endedAt !== null) return order;
      const account = this.accounts.accountOf(order.venue);
      if (!account) return this.without(order);
      if (account.key === '') return this.later(order, NO_KEY);
      const after = order.state === 'queued' ? await this.send(order, account) : await this.askAfter(order, account);
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
    const account = this.accounts.accountOf(order.venue);
    if (!account || order.endedAt !== null) return `it is ${order.state}`;
    const reply = await this.accounts.withdraw(account, order.key, order.name);
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

  private async send(order: Order, account: VenueAccount): Promise<Order | null> {
    const { store } = this;
    const now = store.now();
    const stop = this.reasonNotToSend(order, now);
    if (stop) return happen(store, order.id, { kind: 'refuse' }, 'Jam Ladle', stop, { reason: stop });
    const attempts = order.attempts + 1;
    const news: OrderNews = { attempts, sentAt: now, nextAt: retryAt(attempts, now) };
    const sent = happen(store, order.id, { kind: 'send' }, 'Jam Ladle', `sent to ${order.venue}`, news);
    if (!sent) return null;
    return this.hear(sent, await this.accounts.send(account, asSent(order)));
  }

  /** What changed since it was given: a dry run was switched on, or it is too late. */
  private reasonNotToSend({ kind, closesAt }: Order, now: number): string | null {
    if (readSettings(this.store).isDryRun) return 'the dry run was switched on before it was sent';
    const isTimed = kind === 'bid' || kind === 'buy';
    if (isTimed && closesAt !== null && closesAt + 15 * 60_000 < now) return 'it closed before it could be sent';
    return null;
  }

  private async askAfter(order: Order, account: VenueAccount): Promise<Order | null> {
    return this.hear(order, await this.accounts.state(account, asSent(order), order.state === 'waiting'));
  }

  private hear(order: Order, reply: AccountReply<AccountAnswer>): Order | null {
    const { store } = this;
    switch (reply.outcome) {
      case 'answered':
        return this.take(order, reply.value);
      case 'none':
        return happen(store, order.id, { kind: 'no trace' }, order.venue, 'it never arrived; it is sent again', {
          nextAt: store.now(),
        });
      case 'rejected':
        return happen(store, order.id, { kind: 'answer', state: 'refused' }, order.venue, reply.reason, {
          reason: reply.reason,
          refusedFor: 'other',
          answeredAt: store.now(),
        });
      case 'unknown':
        return this.later(order, reply.reason);
    }
  }

  private later(order: Order, reason: string): Order | null {
    const attempts = order.attempts + 1;
    const { store } = this;
    const words = order.reason === reason ? null : `no answer: ${reason}`;
    // the state stays what it was, by the same event that brought it there
    const event =
      order.state === 'sent' ? { kind: 'send' as const } : { kind: 'answer' as const, state: order.state as 'leading' };
    return happen(store, order.id, event, 'Jam Ladle', words, {
      attempts,
      reason,
      nextAt: retryAt(attempts, store.now()),
    });
  }

  private take(order: Order, answer: AccountAnswer): Order | null {
    const { store } = this;
    const now = store.now();
    const { state, reason, priceMinor, leastMinor, counterMinor, finalMinor, bids, reserve, closesAt } = answer;
    const after = happen(store, order.id, { kind: 'answer', state }, order.venue, wordsOf(order, answer), {
      reason,
      refusedFor: state === 'refused' ? (answer.refusedFor ?? 'other') : null,
      priceMinor,
      leastMinor,
      counterMinor,
      finalMinor,
      bids,
      reserve,
      closesAt: closesAt ?? order.closesAt,
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

/** An order as an account is told of it. */
const asSent = ({ key, name, kind, amountMinor, currency }: Order): AccountOrder => ({
  key,
  domain: name,
  kind,
  amountMinor,
  currency,
});

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
