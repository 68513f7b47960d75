import { type DecimalMark, markOf, type Price, parseCurrency, parsePrice } from './amounts';
import { CSV_DEFAULTS, type CsvProblem, CsvReader, type CsvRow } from './csv';
import { type DateOrder, orderOf, parseDate } from './dates';
import { sniffDelimiter } from './list-columns';

/** Reads the value of a column in a row, as a text, a date or a price; empty and null where the table has no such column or value. */
export interface Value<C extends string> {
  (column: C): string;
  /** ms since 1970 UTC; the order of day and month is that of the whole column. */
  date(column: C): number | null;
  price(column: C): Price | null;
  currency(column: C): string | null;
}

export interface TitledTable<T> {
  rows: (T & { line: number })[];
  aside: CsvProblem[];
  /** Columns that the first line does not name; with any, no row is read. */
  missing: string[];
}

/**
 * Reads a table whose columns are found by their titles. Rows read = rows taken + rows set aside.
 *
 * @param columns a test for the title of each column, in small letters without anything but letters.
 * @param needed columns that must be there.
 * @param read a row, or why it is none.
 */
export function readTitled<C extends string, T extends object>(
  text: string,
  columns: Record<C, RegExp>,
  needed: readonly NoInfer<C>[],
  read: (value: Value<C>) => T | string,
): TitledTable<T> {
  const delimiter = sniffDelimiter(text.slice(0, 64 * 1024));
  const rows: (T & { line: number })[] = [];
  const aside: CsvProblem[] = [];
  const body: CsvRow[] = [];
  let header: string[] | null = null;
  const reader = new CsvReader(
    (row) => {
      if (header === null) header = row.fields;
      else body.push(row);
    },
    (problem) => aside.push(problem),
    { ...CSV_DEFAULTS, delimiter },
  );
  reader.write(text);
  reader.end();
  const places = placesOf(header ?? [], columns);
  const missing = needed.filter((column) => places[column] < 0);
  if (missing.length > 0) return { rows: [], aside, missing };
  const told = new Map<C, { order: DateOrder | null; mark: DecimalMark }>();
  const toldOf = (column: C) => {
    let found = told.get(column);
    if (!found) {
      const cells = body.map(({ fields }) => fields[places[column]] ?? '');
      found = { order: orderOf(cells).order, mark: markOf(cells) };
      told.set(column, found);
    }
    return found;
  };
  for (const { fields, line } of body) {
    const cell = (column: C) => (places[column] < 0 ? '' : (fields[places[column]] ?? '').trim());
    const value: Value<C> = Object.assign(cell, {
      date: (column: C) => parseDate(cell(column), { order: toldOf(column).order, now: null }),
      price: (column: C) => parsePrice(cell(column), toldOf(column).mark),
      currency: (column: C) => parseCurrency(cell(column)),
    });
    const row = read(value);
    if (typeof row === 'string') aside.push({ line, reason: row, sample: fields.join(' · ').slice(0, 120) });
    else rows.push({ line, ...row });
  }
  return { rows, aside: aside.sort((a, b) => a.line - b.line), missing };
}

function placesOf<C extends string>(header: readonly string[], columns: Record<C, RegExp>): Record<C, number> {
  const words = header.map((title) => title.toLowerCase().replace(/[^a-z]/g, ''));
  const taken = new Set<number>();
  return Object.fromEntries(
    Object.entries<RegExp>(columns).map(([column, test]) => {
      const place = words.findIndex((word, n) => test.test(word) && !taken.has(n));
      taken.add(place);
      return [column, place];
    }),
  ) as Record<C, number>;
}
