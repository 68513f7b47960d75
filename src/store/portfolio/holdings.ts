import type { ListedHolding } from '../../core/formats/holdings';
import { homeMinor } from '../../core/listings/rates';
import type { PLANS, STATUSES } from '../../core/money/holding-kinds';
import { type EntryKind, type MoneyEntry, signed } from '../../core/money/profit';
import { readRates, type Store, statement, write } from '../base/database';
import { putDomain } from '../domains/domains';
import { setWatched } from '../lifecycle/watching';

const YEAR = 365.25 * 86_400_000;

/** A domain that the person owns. Amounts in minor units of `currency`, but the renewal and fees, which are in the brief's. */
export interface Holding {
  domainId: number;
  name: string;
  briefId: number | null;
  briefName: string | null;
  briefCurrency: string | null;
  orderId: number | null;
  boughtAt: number;
  costMinor: number;
  feesMinor: number;
  currency: string;
  seller: string;
  /** When it is to be paid for again; null: not known. */
  renewsAt: number | null;
  renewalMinor: number | null;
  note: string;
  plan: HoldingPlan;
  status: HoldingStatus;
  /** Steps of its rebuild that are done. */
  stepsDone: number;
}

export type HoldingPlan = (typeof PLANS)[number];
export type HoldingStatus = (typeof STATUSES)[number];

interface Bought {
  id: number;
  briefId: number;
  domainId: number;
  kind: string;
  amountMinor: number;
  finalMinor: number | null;
  feesMinor: number;
  currency: string;
  venue: string;
}

/** Keeps what an order has won. Call inside a write transaction. */
export function putHolding(store: Store, order: Bought, at: number): void {
  const brief = statement(store.raw, 'SELECT renewal_minor AS briefRenewal FROM briefs WHERE id = ?')
    .pluck()
    .get(order.briefId) as number | undefined;
  const expires = statement(store.raw, 'SELECT expires_at AS nextExpiry FROM domains WHERE id = ?')
    .pluck()
    .get(order.domainId) as number | null;
  // a registration begins now; what is taken over lasts as its record says, or a year
  const renewsAt = order.kind !== 'register' && expires !== null && expires > at ? expires : at + YEAR;
  statement(
    store.raw,
    `INSERT INTO holdings (domain_id, brief_id, order_id, bought_at, cost_minor, fees_minor, currency, seller, renews_at, renewal_minor)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT DO NOTHING`,
  ).run(
    order.domainId,
    order.briefId,
    order.id,
    at,
    order.finalMinor ?? order.amountMinor,
    order.feesMinor,
    order.currency,
    order.venue,
    Math.round(renewsAt),
    brief ?? null,
  );
  // what becomes of it from now on is told
  setWatched(store, order.domainId, 'by hand', at);
}

const HOLDING = `SELECT h.domain_id AS domainId, d.name, h.brief_id AS briefId, b.name AS briefName, b.currency AS briefCurrency,
     h.order_id AS orderId, h.bought_at AS boughtAt, h.cost_minor AS costMinor, h.fees_minor AS feesMinor, h.currency, h.seller,
     h.renews_at AS renewsAt, h.renewal_minor AS renewalMinor, h.note, h.plan, h.status,
     (SELECT count(*) FROM rebuild_steps s WHERE s.domain_id = h.domain_id AND s.state = 'done') AS stepsDone
   FROM holdings h JOIN domains d ON d.id = h.domain_id LEFT JOIN briefs b ON b.id = h.brief_id`;

/** What is owned, the next to renew first. */
export function listHoldings(store: Store): Holding[] {
  return statement(store.raw, `${HOLDING} ORDER BY h.renews_at NULLS LAST, d.name`).all() as Holding[];
}

/** A domain as it is owned; null: it is not. */
export function holdingOf(store: Store, domainId: number): Holding | null {
  return (statement(store.raw, `${HOLDING} WHERE h.domain_id = ?`).get(domainId) as Holding | undefined) ?? null;
}

export type HoldingChange = Partial<Pick<Holding, 'renewsAt' | 'renewalMinor' | 'note' | 'plan' | 'status'>>;

/** @returns the holding as it was, for undo; null: it is not owned. */
export function changeHolding(store: Store, domainId: number, change: HoldingChange): HoldingChange | null {
  return write(store, () => {
    const before = statement(
      store.raw,
      'SELECT renews_at AS renewsAt, renewal_minor AS renewalMinor, note, plan, status FROM holdings WHERE domain_id = ?',
    ).get(domainId) as Required<HoldingChange> | undefined;
    if (!before) return null;
    statement(
      store.raw,
      `UPDATE holdings SET renews_at = @renewsAt, renewal_minor = @renewalMinor, note = @note, plan = @plan, status = @status
       WHERE domain_id = @domainId`,
    ).run({ ...before, ...change, domainId });
    return before;
  });
}

/** Takes what is owned already, from a list; what is known as owned stays as it is. @returns ids of those that came new. */
export function addHoldings(store: Store, listed: readonly ListedHolding[]): number[] {
  const { home } = readRates(store);
  return write(store, () =>
    listed.flatMap(({ name, ending, boughtAt, costMinor, currency, renewsAt, renewalMinor, seller }) => {
      const { id } = putDomain(store, { name, ending }, true, store.now());
      const { changes } = statement(
        store.raw,
        `INSERT INTO holdings (domain_id, bought_at, cost_minor, fees_minor, currency, seller, renews_at, renewal_minor)
         VALUES (?, ?, ?, 0, ?, ?, ?, ?) ON CONFLICT DO NOTHING`,
      ).run(id, boughtAt ?? store.now(), costMinor, currency ?? home, seller, renewsAt, renewalMinor);
      return changes > 0 ? [id] : [];
    }),
  );
}

/** A sum that was entered for a domain: in minor units of its currency, what came in positive. */
export interface HoldingEntry {
  id: number;
  at: number;
  kind: EntryKind;
  amountMinor: number;
  currency: string;
  words: string;
}

export function addEntry(store: Store, domainId: number, entry: Omit<HoldingEntry, 'id'>): number {
  return write(store, () =>
    Number(
      statement(
        store.raw,
        'INSERT INTO holding_entries (domain_id, at, kind, amount_minor, currency, words) VALUES (?, ?, ?, ?, ?, ?)',
      ).run(domainId, entry.at, entry.kind, signed(entry.kind, entry.amountMinor), entry.currency, entry.words)
        .lastInsertRowid,
    ),
  );
}

/** Takes an entry back, or lets it stand again. @returns whether there is one. */
export function setEntryRemoved(store: Store, domainId: number, id: number, isRemoved: boolean): boolean {
  return write(
    store,
    () =>
      statement(store.raw, 'UPDATE holding_entries SET removed_at = ? WHERE id = ? AND domain_id = ?').run(
        isRemoved ? store.now() : null,
        id,
        domainId,
      ).changes > 0,
  );
}

/** All sums of what is owned, in the user's currency by the rates of now; each traceable to its order, or entered. */
export function moneyEntries(store: Store): MoneyEntry[] {
  const rates = readRates(store);
  const home = (minor: number, currency: string | null) => homeMinor(minor, currency, rates) ?? minor;
  const bought = listHoldings(store).flatMap((holding) => {
    const { name, briefName, briefCurrency, seller, boughtAt, orderId, costMinor, feesMinor, currency } = holding;
    const common = { id: null, domain: name, brief: briefName, venue: seller, at: boughtAt, orderId };
    const entry = (kind: EntryKind, minor: number, of: string | null, words: string) =>
      minor === 0 ? [] : [{ ...common, kind, amountMinor: signed(kind, home(minor, of)), words }];
    return [
      ...entry('purchase', costMinor, currency, `bought from ${seller}`),
      ...entry('fees', feesMinor, briefCurrency, 'fees of the purchase'),
    ];
  });
  const entered = statement(
    store.raw,
    `SELECT e.id, d.name AS domain, b.name AS brief, h.seller AS venue, e.at, e.kind, e.amount_minor AS amountMinor, e.currency, e.words
     FROM holding_entries e JOIN domains d ON d.id = e.domain_id JOIN holdings h ON h.domain_id = e.domain_id
     LEFT JOIN briefs b ON b.id = h.brief_id WHERE e.removed_at IS NULL ORDER BY e.at, e.id`,
  ).all() as (Omit<MoneyEntry, 'orderId'> & { id: number; currency: string })[];
  return [
    ...bought,
    ...entered.map(({ currency, ...entry }) => ({
      ...entry,
      amountMinor: home(entry.amountMinor, currency),
      orderId: null,
    })),
  ].sort((a, b) => a.at - b.at);
}
