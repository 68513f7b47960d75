import { registrableDomain } from '../names/domain';
import { CSV_DEFAULTS, type CsvProblem, CsvReader } from './csv';
import { sniffDelimiter } from './list-columns';
import { parseDate, parsePrice } from './values';

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
  name: /^(domain|domainname|name|sold|soldname)$/,
  price: /^(price|soldfor|amount|saleprice|value)$/,
  currency: /^(currency|cur)$/,
  at: /^(date|sold|soldat|soldon|saledate|on|at)$/,
  venue: /^(venue|market|marketplace|platform|where|source)$/,
} as const;

/**
 * Reads a list of names that were sold: a table with a header, whose columns are found by their titles (domain, price, date; currency
 * and venue where they are there). Rows read = rows taken + rows set aside.
 *
 * @returns problem where the table has no such columns.
 */
export function readSales(text: string): { sales: ListedSale[]; aside: CsvProblem[]; problem: string | null } {
  const delimiter = sniffDelimiter(text.slice(0, 64 * 1024));
  const sales: ListedSale[] = [];
  const aside: CsvProblem[] = [];
  let places: Record<keyof typeof COLUMNS, number> | null = null;
  const reader = new CsvReader(
    ({ fields, line }) => {
      if (places === null) {
        places = placesOf(fields);
        return;
      }
      const sale = readSale(fields, places);
      if (typeof sale === 'string') aside.push({ line, reason: sale, sample: fields.join(' · ').slice(0, 120) });
      else sales.push({ line, ...sale });
    },
    (problem) => aside.push(problem),
    { ...CSV_DEFAULTS, delimiter },
  );
  reader.write(text);
  reader.end();
  const found = places as Record<keyof typeof COLUMNS, number> | null;
  const missing = (['name', 'price', 'at'] as const).filter((column) => !found || found[column] < 0);
  if (missing.length === 0) return { sales, aside, problem: null };
  const titles = { name: 'domain', price: 'price', at: 'date' };
  return {
    sales: [],
    aside,
    problem: `The first line names no column for ${missing.map((one) => titles[one]).join(', ')}.`,
  };
}

function placesOf(header: readonly string[]): Record<keyof typeof COLUMNS, number> {
  const words = header.map((title) => title.toLowerCase().replace(/[^a-z]/g, ''));
  const taken = new Set<number>();
  return Object.fromEntries(
    Object.entries(COLUMNS).map(([column, test]) => {
      const place = words.findIndex((word, n) => test.test(word) && !taken.has(n));
      taken.add(place);
      return [column, place];
    }),
  ) as Record<keyof typeof COLUMNS, number>;
}

function readSale(
  fields: readonly string[],
  places: Record<keyof typeof COLUMNS, number>,
): Omit<ListedSale, 'line'> | string {
  const value = (column: keyof typeof COLUMNS) => (places[column] < 0 ? '' : (fields[places[column]] ?? '').trim());
  const domain = registrableDomain(value('name'));
  if (!domain) return `"${value('name').slice(0, 80)}" is no registrable domain`;
  const price = parsePrice(value('price'));
  if (!price || price.minor <= 0) return `"${value('price').slice(0, 40)}" is no price`;
  const at = parseDate(value('at'));
  if (at === null) return `"${value('at').slice(0, 40)}" is no date`;
  const currency = value('currency');
  return {
    ...domain,
    priceMinor: price.minor,
    currency: price.currency ?? (/^[A-Z]{3}$/.test(currency) ? currency : null),
    at,
    venue: value('venue').slice(0, 80) || null,
  };
}
