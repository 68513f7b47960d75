import type { ListedHolding } from '../../core/formats/holdings';
import { homeMinor } from '../../core/listings/rates';
import type { PLANS, STATUSES } from '../../core/money/holding-kinds';
import { type EntryKind, type MoneyEntry, signed } from '../../core/money/profit';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, knex, orNull, pick, run, sql, the } from '../base/query';
import { readRates } from '../base/settings';
import { putDomain } from '../domains/domains';
import { setWatched } from '../lifecycle/watching';

const HOLDINGS = columns('holdings', 'h');
const DOMAINS = columns('domains', 'd');
const BRIEFS = columns('briefs', 'b');
const ENTRIES = columns('holding_entries', 'e');

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
  const renewalMinor = the(store, knex('briefs').where('id', order.briefId).pluck('renewal_minor'));
  const expires = the(store, knex('domains').where('id', order.domainId).pluck('expires_at'));
  // a registration begins now; what is taken over lasts as its record says, or a year
  const renewsAt = order.kind !== 'register' && expires !== null && expires > at ? expires : at + YEAR;
  run(
    store,
    knex('holdings')
      .insert({
        domain_id: order.domainId,
        brief_id: order.briefId,
        order_id: order.id,
        bought_at: at,
        cost_minor: order.finalMinor ?? order.amountMinor,
        fees_minor: order.feesMinor,
        currency: order.currency,
        seller: order.venue,
        renews_at: Math.round(renewsAt),
        renewal_minor: renewalMinor,
      })
      .onConflict()
      .ignore(),
  );
  // what becomes of it from now on is told
  setWatched(store, order.domainId, 'by hand', at);
}

const owned = () =>
  pick(
    // a cross join keeps its order: of millions of domains only those that are owned are looked at
    knex('holdings as h')
      .crossJoin('domains as d', 'd.id', 'h.domain_id')
      .leftJoin('briefs as b', 'b.id', 'h.brief_id'),
    {
      ...camel(
        HOLDINGS,
        'domain_id',
        'brief_id',
        'order_id',
        'bought_at',
        'cost_minor',
        'fees_minor',
        'currency',
        'seller',
        'renews_at',
        'renewal_minor',
        'note',
        'plan',
        'status',
      ),
      name: DOMAINS.name,
      briefName: orNull(BRIEFS.name),
      briefCurrency: orNull(BRIEFS.currency),
      stepsDone: sql<number>(
        "(SELECT count(*) FROM rebuild_steps s WHERE s.domain_id = h.domain_id AND s.state = 'done')",
      ),
    },
  );

/** What is owned, the next to renew first. */
export function listHoldings(store: Store): Holding[] {
  return all(store, owned().orderByRaw('h.renews_at NULLS LAST, d.name'));
}

/** A domain as it is owned; null: it is not. */
export function holdingOf(store: Store, domainId: number): Holding | null {
  return first(store, owned().where('h.domain_id', domainId)) ?? null;
}

export type HoldingChange = Partial<Pick<Holding, 'renewsAt' | 'renewalMinor' | 'note' | 'plan' | 'status'>>;

/** @returns the holding as it was, for undo; null: it is not owned. */
export function changeHolding(store: Store, domainId: number, change: HoldingChange): HoldingChange | null {
  return write(store, () => {
    const before = first(
      store,
      pick(knex('holdings as h'), camel(HOLDINGS, 'renews_at', 'renewal_minor', 'note', 'plan', 'status')).where(
        'h.domain_id',
        domainId,
      ),
    );
    if (!before) return null;
    const after = { ...before, ...change };
    run(
      store,
      knex('holdings').where('domain_id', domainId).update({
        renews_at: after.renewsAt,
        renewal_minor: after.renewalMinor,
        note: after.note,
        plan: after.plan,
        status: after.status,
      }),
    );
    return before;
  });
}

/** Takes what is owned already, from a list; what is known as owned stays as it is. @returns ids of those that came new. */
export function addHoldings(store: Store, listed: readonly ListedHolding[]): number[] {
  const { home } = readRates(store);
  return write(store, () =>
    listed.flatMap(({ name, ending, boughtAt, costMinor, currency, renewsAt, renewalMinor, seller }) => {
      const { id } = putDomain(store, { name, ending }, true, store.now());
      const { changes } = run(
        store,
        knex('holdings')
          .insert({
            domain_id: id,
            bought_at: boughtAt ?? store.now(),
            cost_minor: costMinor,
            fees_minor: 0,
            currency: currency ?? home,
            seller,
            renews_at: renewsAt,
            renewal_minor: renewalMinor,
          })
          .onConflict()
          .ignore(),
      );
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
      run(
        store,
        knex('holding_entries').insert({
          domain_id: domainId,
          at: entry.at,
          kind: entry.kind,
          amount_minor: signed(entry.kind, entry.amountMinor),
          currency: entry.currency,
          words: entry.words,
        }),
      ).lastInsertRowid,
    ),
  );
}

/** Takes an entry back, or lets it stand again. @returns whether there is one. */
export function setEntryRemoved(store: Store, domainId: number, id: number, isRemoved: boolean): boolean {
  return write(
    store,
    () =>
      run(
        store,
        knex('holding_entries')
          .where({ id, domain_id: domainId })
          .update({ removed_at: isRemoved ? store.now() : null }),
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
  const entered = all(
    store,
    pick(
      knex('holding_entries as e')
        .join('domains as d', 'd.id', 'e.domain_id')
        .join('holdings as h', 'h.domain_id', 'e.domain_id')
        .leftJoin('briefs as b', 'b.id', 'h.brief_id'),
      {
        ...camel(ENTRIES, 'id', 'at', 'kind', 'amount_minor', 'currency', 'words'),
        domain: DOMAINS.name,
        brief: orNull(BRIEFS.name),
        venue: HOLDINGS.seller,
      },
    )
      .whereNull('e.removed_at')
      .orderBy([{ column: 'e.at' }, { column: 'e.id' }]),
  );
  return [
    ...bought,
    ...entered.map(({ currency, ...entry }) => ({
      ...entry,
      amountMinor: home(entry.amountMinor, currency),
      orderId: null,
    })),
  ].sort((a, b) => a.at - b.at);
}
