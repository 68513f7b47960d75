import { readEppAddress } from '../../core/epp/account';
import type { VenueAccount } from '../../core/settings/settings';
import { EppAccount } from '../../net/epp-account';
import { HttpClient } from '../../net/http';
import {
  type AccountAnswer,
  type AccountOrder,
  type AccountReply,
  type AccountTerms,
  askOrder,
  askTerms,
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

  /** On what terms a domain is to be had. */
  terms(account: VenueAccount, domain: string): Promise<AccountReply<AccountTerms>> {
    return this.eppOf(account)?.terms(domain) ?? askTerms(this.http, account, domain);
  }

  send(account: VenueAccount, order: AccountOrder): Promise<AccountReply<AccountAnswer>> {
    return this.eppOf(account)?.send(order) ?? sendOrder(this.http, account, order);
  }

  /**
   * Where an order stands.
   *
   * @param isTaken whether the account has said before that it has it.
   */
  state(account: VenueAccount, order: AccountOrder, isTaken: boolean): Promise<AccountReply<AccountAnswer>> {
    return this.eppOf(account)?.state(order, isTaken) ?? askOrder(this.http, account, order.key, order.domain);
  }

  async withdraw(account: VenueAccount, key: string, domain: string): Promise<AccountReply<AccountAnswer>> {
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
    await Promise.all(before.map((one) => one?.close()));
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
