import { type Store, statement, write } from './database';

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
}

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
}

/** What is owned, the next to renew first. */
export function listHoldings(store: Store): Holding[] {
  return statement(
    store.raw,
    `SELECT h.domain_id AS domainId, d.name, h.brief_id AS briefId, b.name AS briefName, b.currency AS briefCurrency,
       h.order_id AS orderId, h.bought_at AS boughtAt, h.cost_minor AS costMinor, h.fees_minor AS feesMinor, h.currency, h.seller,
       h.renews_at AS renewsAt, h.renewal_minor AS renewalMinor, h.note
     FROM holdings h JOIN domains d ON d.id = h.domain_id LEFT JOIN briefs b ON b.id = h.brief_id
     ORDER BY h.renews_at NULLS LAST, d.name`,
  ).all() as Holding[];
}

export type HoldingChange = Partial<Pick<Holding, 'renewsAt' | 'renewalMinor' | 'note'>>;

/** @returns the holding as it was, for undo; null: it is not owned. */
export function changeHolding(store: Store, domainId: number, change: HoldingChange): HoldingChange | null {
  return write(store, () => {
    const before = statement(
      store.raw,
      'SELECT renews_at AS renewsAt, renewal_minor AS renewalMinor, note FROM holdings WHERE domain_id = ?',
    ).get(domainId) as Required<HoldingChange> | undefined;
    if (!before) return null;
    const { renewsAt, renewalMinor, note } = { ...before, ...change };
    statement(store.raw, 'UPDATE holdings SET renews_at = ?, renewal_minor = ?, note = ? WHERE domain_id = ?').run(
      renewsAt,
      renewalMinor,
      note,
      domainId,
    );
    return before;
  });
}
