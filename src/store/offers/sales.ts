import type { ListedSale } from '../../core/formats/sales';
import { type Store, write } from '../base/database';
import { all, camel, columns, knex, pick, prepared, sql, the } from '../base/query';

const SALES = columns('sales');

export interface StoredSale {
  name: string;
  priceMinor: number;
  currency: string | null;
  at: number;
  venue: string | null;
}

const PUT = prepared((sale: StoredSale & { source: string }) =>
  knex('sales')
    .insert({
      name: sale.name,
      price_minor: sale.priceMinor,
      currency: sale.currency,
      at: sale.at,
      venue: sale.venue,
      source: sale.source,
    })
    .onConflict()
    .ignore(),
);

/** Keeps sales; one that is known already stands once. @returns how many are new. */
export function putSales(store: Store, sales: readonly Omit<ListedSale, 'line' | 'ending'>[], source: string): number {
  return write(store, () => {
    let fresh = 0;
    for (const { name, priceMinor, currency, at, venue } of sales)
      fresh += PUT.run(store, { name, priceMinor, currency, at, venue, source }).changes;
    return fresh;
  });
}

export function readAllSales(store: Store): StoredSale[] {
  return all(store, pick(knex('sales'), camel(SALES, 'name', 'price_minor', 'currency', 'at', 'venue')).orderBy('id'));
}

export interface SalesKnown {
  count: number;
  /** When the first and the last was; null: none is known. */
  from: number | null;
  to: number | null;
}

export function salesKnown(store: Store): SalesKnown {
  return the(
    store,
    pick(knex('sales'), {
      count: sql<number>('count(*)'),
      from: sql<number | null>('min(at)'),
      to: sql<number | null>('max(at)'),
    }),
  );
}
