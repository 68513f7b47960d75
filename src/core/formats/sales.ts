import { registrableDomain } from '../names/domain';
import type { CsvProblem } from './csv';
import { type ColumnTest, readTitled, type TitledInput, type Value } from './titled-table';

/** A sale as a list says it. */
export interface ListedSale {
  line: number;
  /** Registrable domain, A-labels, and its ending. */
  name: string;
  ending: string;
  priceMinor: number;
  /** ISO 4217; null: not said. */
  currency: string | null;
  /** ms since 1970 UTC. */
  at: number;
  venue: string | null;
}

const COLUMNS = {
  name: { title: /^(domain|domainname|name|sold|soldname)$/, field: 'domain' },
  price: { title: /^(price|soldfor|amount|saleprice|value|preis|prix|precio|prezzo|prijs)$/, field: 'price' },
  currency: { title: /^(currency|cur|whrung|waehrung|devise|moneda|valuta)$/, field: 'currency' },
  at: /^(date|sold|soldat|soldon|saledate|datesold|on|at|datum|verkauftam|verkaufsdatum|vendule|datedevente|fecha|fechadeventa|data|verkochtop)$/,
  venue: { title: /^(venue|market|marketplace|platform|where|source)$/, field: 'venue' },
} as const satisfies Record<string, ColumnTest>;

const NEEDED = ['name', 'price', 'at'] as const;
const TITLES = { name: 'domain', price: 'price', at: 'date' } as const;

/**
 * Reads a list of names that were sold: a table of any kind with a header, whose columns are found by their titles (domain, price, date; currency
 * and venue where they are there). Rows read = rows taken + rows set aside.
 *
 * @returns problem where the table has no such columns.
 */
export function readSales(given: TitledInput): { sales: ListedSale[]; aside: CsvProblem[]; problem: string | null } {
  const { rows, aside, missing } = readTitled(given, COLUMNS, NEEDED, readSale);
  if (missing.length === 0) return { sales: rows, aside, problem: null };
  const titles = missing.map((column) => TITLES[column as (typeof NEEDED)[number]]);
  return { sales: [], aside, problem: `No line of titles names a column for ${titles.join(', ')}.` };
}

function readSale(value: Value<keyof typeof COLUMNS>): Omit<ListedSale, 'line'> | string {
  const domain = registrableDomain(value('name'));
  if (!domain) return `"${value('name').slice(0, 80)}" is no registrable domain`;
  const price = value.price('price');
  if (!price || price.minor <= 0) return `"${value('price').slice(0, 40)}" is no price`;
  const at = value.date('at');
  if (at === null) return `"${value('at').slice(0, 40)}" is no date`;
  return {
    ...domain,
    priceMinor: price.minor,
    currency: price.currency ?? value.currency('currency'),
    at,
    venue: value('venue').slice(0, 80) || null,
  };
}
