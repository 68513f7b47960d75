import type { DescribedOrder } from '../../core/connections/order-answer';
import { readEppAddress } from '../../core/epp/account';
import type { OrderKind } from '../../core/orders/order';
import { type OrderTaker, takerOf } from '../../core/orders/takers';
import type { VenueAccount } from '../../core/settings/settings';
import { DescribedOrders } from '../../net/described-orders';
import { EppAccount } from '../../net/epp-account';
import { HttpClient } from '../../net/http';
import {
  type AccountAnswer,
  type AccountReply,
  type AccountTerms,
  askOrder,
  askTerms,
  type SentReply,
  sendOrder,
  withdrawOrder,
} from '../../net/venue-account';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';

const TIMEOUT_MS = 15_000;

/** The accounts of the settings and the ways to reach them, kept until the settings change. */
export class AccountClient {
  private kept: HttpClient | null = null;
  /** Sessions of EPP, by what they go by. */
  private readonly sessions = new Map<string, EppAccount>();
  /** Services, each with its pace, by what they go by. */
  private readonly described = new Map<string, DescribedOrders>();

  constructor(
    private readonly store: Store,
    private readonly timeoutMs = TIMEOUT_MS,
  ) {}

  get http(): HttpClient {
    const { userAgent, allowedPrivate } = readSettings(this.store);
    const { connector } = this.store.config;
    this.kept ??= new HttpClient({ userAgent, connector, allowedPrivate, timeoutMs: this.timeoutMs });
    return this.kept;
  }

  /** The account of a venue; null: none is set. */
  accountOf(venue: string): VenueAccount | null {
    return readSettings(this.store).accounts.find((account) => account.venue === venue) ?? null;
  }

  /** Who takes an order at a venue; null: nobody does. */
  takerOf(venue: string, kind: OrderKind): OrderTaker | null {
    return takerOf(readSettings(this.store), venue, kind);
  }

  /** On what terms a domain is to be had. */
  terms(account: VenueAccount, domain: string): Promise<AccountReply<AccountTerms>> {
    return this.eppOf(account)?.terms(domain) ?? askTerms(this.http, account, domain);
  }

  send(taker: OrderTaker, order: DescribedOrder): Promise<SentReply> {
    if (taker.by === 'service') return this.describedOf(taker).send(order);
    const { account } = taker;
    const { number: _, ...sent } = order;
    return this.eppOf(account)?.send(order) ?? sendOrder(this.http, account, sent);
  }

  /**
   * Where an order stands.
   *
   * @param isTaken whether the account has said before that it has it.
   */
  state(taker: OrderTaker, order: DescribedOrder, isTaken: boolean): Promise<AccountReply<AccountAnswer>> {
    if (taker.by === 'service') return this.describedOf(taker).standing(order);
    const { account } = taker;
    return this.eppOf(account)?.state(order, isTaken) ?? askOrder(this.http, account, order.key, order.domain);
  }

  async withdraw(taker: OrderTaker, key: string, domain: string): Promise<AccountReply<AccountAnswer>> {
    if (taker.by === 'service') return { outcome: 'rejected', reason: 'take it back there' };
    const { account } = taker;
    if (this.eppOf(account)) return { outcome: 'rejected', reason: 'a registration is not taken back' };
    return withdrawOrder(this.http, account, key, domain);
  }

  /** Settings may have changed what may be reached. */
  forget(): void {
    void this.close();
  }

  async close(): Promise<void> {
    const before = [this.kept, ...this.sessions.values()];
    this.kept = null;
    this.sessions.clear();
    this.described.clear();
    await Promise.all(before.map((one) => one?.close()));
  }

  private describedOf({ service, state }: Extract<OrderTaker, { by: 'service' }>): DescribedOrders {
    const goesBy = JSON.stringify([service, state]);
    const known = this.described.get(goesBy);
    if (known) return known;
    const orders = new DescribedOrders(this.http, service, state, () => this.store.now());
    this.described.set(goesBy, orders);
    return orders;
  }

  /** The session of an account that speaks EPP; undefined: it does not. */
  private eppOf(account: VenueAccount): EppAccount | undefined {
    if (readEppAddress(account.address) === null) return undefined;
    const goesBy = JSON.stringify(account);
    const known = this.sessions.get(goesBy);
    if (known) return known;
    const { allowedPrivate } = readSettings(this.store);
    const session = new EppAccount(account, { allowedPrivate, timeoutMs: this.timeoutMs });
    this.sessions.set(goesBy, session);
    return session;
  }
}
