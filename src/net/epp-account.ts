import { randomInt } from 'node:crypto';
import { readContacts, readEppAddress } from '../core/epp/account';
import { type Availability, type DomainInfo, EppFault, readCheck, readCreation, readInfo } from '../core/epp/answers';
import { checkCommand, createCommand, type Fee, infoCommand } from '../core/epp/commands';
import type { VenueAccount } from '../core/settings/settings';
import { money } from '../core/wording/format';
import { EppClient, type EppOptions, EppRefusal } from './epp';
import { NetError } from './errors';
import type { RegistrarAnswer } from './registrar';
import { type AccountAnswer, type AccountOrder, type AccountReply, type AccountTerms, NO_KEY } from './venue-account';

const AUTH_LENGTH = 24;
/** Without those that look alike; of each kind one is in, as many registries want it. */
const AUTH_KINDS = ['ABCDEFGHJKLMNPQRSTUVWXYZ', 'abcdefghijkmnopqrstuvwxyz', '23456789', '-.!*+'];

/** RFC 5730, 3. */
const EXISTS = 2302;
const DOES_NOT_EXIST = 2303;
const NOT_FOR_US = 2201;
const NOT_ENOUGH_MONEY = 2104;
const OUT_OF_RANGE = 2004;

type Reach = Pick<EppOptions, 'allowedPrivate' | 'timeoutMs' | 'heard'>;

/** A registrar that is spoken to by EPP: check, create and info of names. */
export class EppAccount {
  readonly server: string;
  private readonly login: string;
  private readonly client: EppClient;

  /** @param account whose address is one of EPP. */
  constructor(
    private readonly account: VenueAccount,
    reach: Reach,
  ) {
    const { server, login } = readEppAddress(account.address) ?? { server: '', login: '' };
    this.server = server;
    this.login = login;
    const { key: password, certificate } = account;
    this.client = new EppClient({ ...reach, server, certificate, login: { login, password } });
  }

  close(): Promise<void> {
    return this.client.close();
  }

  /** Whether a name can be registered, as a registrar's word. Never throws but when the signal aborts. */
  async availability(name: string, signal?: AbortSignal): Promise<RegistrarAnswer> {
    const started = performance.now();
    const none = { priceMinor: null, currency: null, server: this.server, retryAfterMs: null };
    const elapsed = () => Math.round(performance.now() - started);
    try {
      const { outcome, fee, reason } = await this.check(name, signal);
      const price = fee ? { priceMinor: fee.minor, currency: fee.currency } : {};
      const said = [outcome, fee && money(fee.minor, fee.currency), reason].filter(Boolean).join(', ');
      return { ...none, ...price, outcome, detail: said, elapsedMs: elapsed() };
    } catch (error) {
      const { message } = knownFault(error, signal);
      const isRefusal = error instanceof EppRefusal;
      const fault = isRefusal ? 'refused' : error instanceof NetError ? 'silent' : 'nonsense';
      const outcome = isRefusal && error.isForNow ? 'refused' : 'failed';
      // nothing came back: the line is at fault
      return { ...none, outcome, detail: message, elapsedMs: fault === 'silent' ? 0 : elapsed(), fault };
    }
  }

  /** What is on record of a name; null: it is not registered, or not told of. Never throws but when the signal aborts. */
  async info(name: string, signal?: AbortSignal): Promise<DomainInfo | null> {
    try {
      const answer = await this.client.ask((_, id) => infoCommand(name, id), signal);
      return answer.code >= 2000 ? null : readInfo(answer, name);
    } catch (error) {
      knownFault(error, signal);
      return null;
    }
  }

  /** On what terms a name can be registered. */
  async terms(domain: string, signal?: AbortSignal): Promise<AccountReply<AccountTerms>> {
    return this.replied(signal, async () => {
      const { outcome, fee, reason } = await this.check(domain, signal);
      return {
        outcome: 'answered',
        value: {
          domain,
          kind: 'register',
          state: reason === '' || outcome === 'available' ? outcome : `${outcome}: ${reason}`.slice(0, 40),
          priceMinor: fee?.minor ?? null,
          leastMinor: null,
          currency: fee?.currency ?? this.account.currency,
          feesMinor: null,
          closesAt: null,
          bids: null,
          reserve: null,
        },
      };
    });
  }

  /**
   * Registers a name for a year, for at most the amount of the order. A second create of the same order finds the name registered and asks
   * whose it is: it is had once.
   */
  async send(
    { key, domain, kind, amountMinor, currency }: AccountOrder,
    signal?: AbortSignal,
  ): Promise<AccountReply<AccountAnswer>> {
    if (kind !== 'register') return { outcome: 'rejected', reason: 'EPP registers names, and does nothing else' };
    const contacts = readContacts(this.account.contacts ?? '');
    if (contacts === null) return { outcome: 'rejected', reason: 'the contacts of the account cannot be read' };
    return this.replied(signal, async () => {
      const { outcome, fee, reason } = await this.check(domain, signal);
      if (outcome === 'taken' || outcome === 'reserved') return this.standing(key, domain, amountMinor, signal, reason);
      const dear = tooDear(fee, amountMinor, currency);
      if (dear) return refused(key, domain, 'price', dear);
      const registrant = { contacts, nameServers: this.account.nameServers ?? [] };
      const answer = await this.client.ask(
        (hasFees, id) => createCommand(domain, registrant, newAuthInfo(), hasFees ? fee : null, id),
        signal,
      );
      const { code, words } = answer;
      if (code === EXISTS) return this.standing(key, domain, amountMinor, signal, words);
      if (code >= 2400) throw new EppRefusal(code, `${words} (${code})`);
      if (code >= 2000) return refused(key, domain, REFUSED_FOR[code] ?? 'other', `${words} (${code})`);
      const charged = readCreation(answer, domain).fee ?? fee;
      const finalMinor = charged?.currency === currency ? charged.minor : amountMinor;
      // pending: the registry looks at it first (RFC 5730, 3, 1001)
      return code === 1001 ? standing(key, domain, 'waiting', null) : standing(key, domain, 'won', finalMinor);
    });
  }

  /**
   * Where a registration stands, by who has the name now.
   *
   * @param isTaken whether the server has said before that it looks at it.
   */
  async state({ key, domain, amountMinor }: AccountOrder, isTaken: boolean): Promise<AccountReply<AccountAnswer>> {
    const reason = isTaken ? 'the registry did not let it be registered' : '';
    return this.replied(undefined, () => this.standing(key, domain, amountMinor, undefined, reason));
  }

  private async standing(
    key: string,
    domain: string,
    amountMinor: number,
    signal: AbortSignal | undefined,
    reason: string,
  ): Promise<AccountReply<AccountAnswer>> {
    const answer = await this.client.ask((_, id) => infoCommand(domain, id), signal);
    const { code, words } = answer;
    if (code === DOES_NOT_EXIST) return reason === '' ? { outcome: 'none' } : refused(key, domain, 'gone', reason);
    // others' names are often not told of
    if (code === NOT_FOR_US) return refused(key, domain, 'gone', reason || words);
    if (code >= 2000) throw new EppRefusal(code, `${words} (${code})`);
    const { sponsor, statuses } = readInfo(answer, domain);
    if (sponsor !== this.login) return refused(key, domain, 'gone', `it is registered by ${sponsor}`);
    return statuses.includes('pendingCreate')
      ? standing(key, domain, 'waiting', null)
      : standing(key, domain, 'won', amountMinor);
  }

  private async check(name: string, signal?: AbortSignal): Promise<Availability> {
    const answer = await this.client.ask((hasFees, id) => checkCommand(name, hasFees, id), signal);
    if (answer.code >= 2000)
      throw new EppRefusal(answer.code, `${this.server} refuses to say: ${answer.words} (${answer.code})`);
    return readCheck(answer, name);
  }

  private async replied<T>(
    signal: AbortSignal | undefined,
    act: () => Promise<AccountReply<T>>,
  ): Promise<AccountReply<T>> {
    if (this.account.key === '') return { outcome: 'unknown', reason: NO_KEY };
    try {
      return await act();
    } catch (error) {
      return { outcome: 'unknown', reason: knownFault(error, signal).message };
    }
  }
}

const REFUSED_FOR: Partial<Record<number, AccountAnswer['refusedFor']>> = {
  [NOT_ENOUGH_MONEY]: 'payment',
  // the fee is another than the one that was agreed to (RFC 8748, 5.2.1)
  [OUT_OF_RANGE]: 'price',
};

const NONE = {
  priceMinor: null,
  leastMinor: null,
  counterMinor: null,
  closesAt: null,
  bids: null,
  reserve: null,
  number: null,
};

function standing(
  key: string,
  domain: string,
  state: 'won' | 'waiting',
  finalMinor: number | null,
): AccountReply<AccountAnswer> {
  return { outcome: 'answered', value: { ...NONE, key, domain, state, finalMinor, reason: null, refusedFor: null } };
}

function refused(
  key: string,
  domain: string,
  refusedFor: AccountAnswer['refusedFor'],
  reason: string,
): AccountReply<AccountAnswer> {
  return {
    outcome: 'answered',
    value: { ...NONE, key, domain, state: 'refused', finalMinor: null, reason, refusedFor },
  };
}

/** Why a fee is more than an order allows; null: it is not, or none is told. */
function tooDear(fee: Fee | null, amountMinor: number, currency: string): string | null {
  if (fee === null) return null;
  const said = money(fee.minor, fee.currency);
  if (fee.currency !== currency) return `it costs ${said}, and the account is in ${currency}`;
  return fee.minor > amountMinor ? `it costs ${said}, more than was allowed` : null;
}

/** Faults of the other side; anything else is ours and goes on. */
function knownFault(error: unknown, signal?: AbortSignal): Error {
  signal?.throwIfAborted();
  if (error instanceof EppFault || error instanceof EppRefusal || error instanceof NetError) return error;
  throw error;
}

/** What would let somebody take a name away: nobody can guess it. */
function newAuthInfo(): string {
  const pick = (from: string) => from[randomInt(from.length)];
  const picked = [
    ...AUTH_KINDS.map(pick),
    ...Array.from({ length: AUTH_LENGTH - AUTH_KINDS.length }, () => pick(AUTH_KINDS.join(''))),
  ];
  for (let at = picked.length - 1; at > 0; at--) {
    const other = randomInt(at + 1);
    [picked[at], picked[other]] = [picked[other], picked[at]];
  }
  return picked.join('');
}
