import type { Logger } from 'pino';
import { retryAt } from '../../core/orders/pace';
import type { VenueAccount } from '../../core/settings/settings';
import { actor } from '../../core/work/actor';
import {
  type AccountReply,
  type AccountSale,
  answerInquiry,
  askSale,
  NO_KEY,
  sendSale,
  withdrawSale,
} from '../../net/venue-account';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { answersOf, endAnswer } from '../../store/portfolio/inquiries';
import { type Resale, readResale } from '../../store/portfolio/resale-rows';
import { dueResales, markSent, SOLD_ELSEWHERE, setNextLook, takeNews } from '../../store/portfolio/resales';
import { AccountClient } from '../orders/account-client';

const MOST_AT_ONCE = 4;
const NO_ACCOUNT = 'no account at the venue is set';
const DRY_RUN = 'the dry run was switched on before it was sent';
const NOTHING = { finalMinor: null, feesMinor: null, reason: null, inquiries: [] };

/**
 * Offers what is sold on, carries answers to who asked, and hears how sales stand. Everything goes out under a key that is on disk before,
 * and is sent again under it until the venue has answered: it takes each once.
 */
export class ResaleSync {
  private readonly busy = new Set<number>();
  private readonly accounts: AccountClient;

  constructor(
    private readonly store: Store,
    private readonly changed: (domainIds: number[]) => void,
    private readonly log: Logger,
  ) {
    this.accounts = new AccountClient(store);
  }

  /** One turn of the clock. */
  turn(): void {
    for (const { id } of dueResales(this.store, this.store.now(), MOST_AT_ONCE))
      if (this.busy.size < MOST_AT_ONCE && !this.busy.has(id)) void this.attend(id);
  }

  /** Does what is to be done about a sale now. @returns the sale afterwards. */
  async attend(id: number): Promise<Resale | null> {
    const { store } = this;
    if (this.busy.has(id)) return readResale(store, id);
    this.busy.add(id);
    try {
      const sale = readResale(store, id);
      if (!sale || sale.endedAt !== null || sale.state === 'by hand') return sale;
      const account = this.accounts.accountOf(sale.venue);
      if (!account) this.later(sale, NO_ACCOUNT);
      else if (account.key === '') this.later(sale, NO_KEY);
      else await this.deal(sale, account);
      this.changed([sale.domainId]);
      return readResale(store, id);
    } catch (error) {
      this.log.warn({ err: error, sale: id }, 'a sale could not be attended to');
      return readResale(store, id);
    } finally {
      this.busy.delete(id);
    }
  }

  /** Takes a domain off sale. @returns why it cannot be; null: it is. */
  async withdraw(id: number): Promise<string | null> {
    const sale = readResale(this.store, id);
    if (!sale || sale.endedAt !== null) return 'it is over';
    const account = this.accounts.accountOf(sale.venue);
    if (sale.state === 'by hand' || sale.state === 'queued') {
      takeNews(this.store, id, { ...NOTHING, state: 'withdrawn' }, actor());
      this.changed([sale.domainId]);
      return null;
    }
    if (!account) return NO_ACCOUNT;
    const reply = await withdrawSale(this.accounts.http, account, sale.key, sale.name);
    if (reply.outcome === 'answered') this.hear(sale, reply);
    else if (reply.outcome === 'none' && sale.state === 'sent') return 'it is on its way: try again in a moment';
    else if (reply.outcome === 'none') takeNews(this.store, id, { ...NOTHING, state: 'withdrawn' }, actor());
    else if (reply.outcome === 'rejected') return `${sale.venue}: ${reply.reason}`;
    else return 'the venue does not answer; it is not taken back';
    this.changed([sale.domainId]);
    return null;
  }

  close(): Promise<void> {
    return this.accounts.close();
  }

  /** Settings may have changed what may be reached. */
  forgetClient(): void {
    this.accounts.forget();
  }

  private async deal(sale: Resale, account: VenueAccount): Promise<void> {
    const { store } = this;
    const { id, key, name: domain, askMinor, currency, text, venue } = sale;
    if (sale.reason === SOLD_ELSEWHERE) {
      const reply = await withdrawSale(this.accounts.http, account, key, domain);
      if (reply.outcome === 'none')
        takeNews(store, id, { ...NOTHING, state: 'withdrawn', reason: SOLD_ELSEWHERE }, venue);
      // what cannot be taken back was sold: the venue says so
      else
        this.hear(sale, reply.outcome === 'rejected' ? await askSale(this.accounts.http, account, key, domain) : reply);
      return;
    }
    const { isDryRun } = readSettings(store);
    if (sale.state === 'queued' && isDryRun) {
      takeNews(store, id, { ...NOTHING, state: 'refused', reason: DRY_RUN }, 'Jam Ladle');
      return;
    }
    if (sale.state === 'queued' || sale.state === 'sent') {
      markSent(store, id);
      this.hear(sale, await sendSale(this.accounts.http, account, { key, domain, askMinor, currency, text }));
      return;
    }
    for (const answer of answersOf(store, id)) {
      if (answer.state !== 'to send') continue;
      if (isDryRun) {
        endAnswer(store, id, answer.key, DRY_RUN);
        continue;
      }
      const { key: answerKey, inquiry, act, amountMinor } = answer;
      const reply = await answerInquiry(
        this.accounts.http,
        account,
        { key, domain },
        { key: answerKey, inquiry, act, amountMinor },
      );
      if (reply.outcome === 'unknown') {
        this.later(sale, reply.reason);
        return;
      }
      const reason =
        reply.outcome === 'rejected' ? reply.reason : reply.outcome === 'none' ? 'the venue knows no such sale' : null;
      endAnswer(store, id, answerKey, reason);
    }
    const reply = await askSale(this.accounts.http, account, key, domain);
    if (reply.outcome === 'none') this.later(sale, `${venue} knows no such sale`);
    else this.hear(sale, reply);
  }

  private hear(sale: Resale, reply: AccountReply<AccountSale>): void {
    const { id, venue } = sale;
    switch (reply.outcome) {
      case 'answered': {
        const { state, finalMinor, feesMinor, reason, inquiries } = reply.value;
        takeNews(this.store, id, { state, finalMinor, feesMinor, reason, inquiries }, venue);
        return;
      }
      case 'rejected':
        takeNews(this.store, id, { ...NOTHING, state: 'refused', reason: reply.reason }, venue);
        return;
      case 'none':
        this.later(sale, `${venue} knows no such sale`);
        return;
      case 'unknown':
        this.later(sale, reply.reason);
    }
  }

  private later(sale: Resale, reason: string): void {
    const attempts = sale.attempts + 1;
    const kept = sale.reason === SOLD_ELSEWHERE ? SOLD_ELSEWHERE : `no answer: ${reason}`;
    setNextLook(this.store, sale.id, retryAt(attempts, this.store.now()), kept, attempts);
  }
}
