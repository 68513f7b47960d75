import type { ListedSale } from '../../core/formats/sales';
import { type Store, statement, write } from '../base/database';

export interface StoredSale {
  name: string;
  priceMinor: number;
  currency: string | null;
  at: number;
  venue: string | null;
}

/** Keeps sales; one that is known already stands once. @returns how many are new. */
export function putSales(store: Store, sales: readonly Omit<ListedSale, 'line' | 'ending'>[], source: string): number {
  return write(store, () => {
    const insert = statement(
      store.raw,
      'INSERT OR IGNORE INTO sales (name, price_minor, currency, at, venue, source) VALUES (?, ?, ?, ?, ?, ?)',
    );
    let fresh = 0;
    for (const { name, priceMinor, currency, at, venue } of sales)
      fresh += insert.run(name, priceMinor, currency, at, venue, source).changes;
    return fresh;
  });
}

export function readAllSales(store: Store): StoredSale[] {
  return statement(
    store.raw,
    'SELECT name, price_minor AS priceMinor, currency, at, venue FROM sales ORDER BY id',
  ).all() as StoredSale[];
}

export interface SalesKnown {
  count: number;
  /** When the first and the last was; null: none is known. */
  from: number | null;
  to: number | null;
}

export function salesKnown(store: Store): SalesKnown {
  return statement(
    store.raw,
    'SELECT count(*) AS count, min(at) AS "from", max(at) AS "to" FROM sales',
  ).get() as SalesKnown;
}
