import { type DecimalMark, markOf, type Price, parseCurrency, parseNumber, parsePrice } from './amounts';
import { CSV_DEFAULTS, type CsvProblem, CsvReader } from './csv';
import { type DateOrder, orderOf, parseDate } from './dates';
import { sniffDelimiter } from './list-columns';
import type { ListField } from './list-fields';
import { titleOf } from './list-titles';
import type { Sheet } from './sheets/sheet';
import { textKind, textSheets } from './sheets/text';

/** Reads the value of a column in a row, as a text, a date or a figure; empty and null where the table has no such column or value. */
export interface Value<C extends string> {
  (column: C): string;
  /** ms since 1970 UTC; the order of day and month is that of the whole column. */
  date(column: C): number | null;
  /** In the currency that it names itself, or else the title of its column does. */
  price(column: C): Price | null;
  currency(column: C): string | null;
  /** 1,200, 1.2k, 45 %; what parts fractions is that of the whole column. */
  number(column: C): number | null;
}

export interface TitledTable<T> {
  rows: (T & { line: number })[];
  aside: CsvProblem[];
  /** Columns that no line of titles names; with any, no row is read. */
  missing: string[];
}

/** A text of any kind (CSV, JSON, XML, a page, aligned columns), or the sheets of a workbook. */
export type TitledInput = string | readonly Sheet[];

/** How the title of a column is known: by a test for it in small letters without anything but letters, or as the column of a list. */
export type ColumnTest = RegExp | { title: RegExp; field: ListField };

/** Lines that are looked through for the titles: above them stand what the table is called, and of when it is. */
const MOST_ABOVE = 20;
const SAMPLE_CHARS = 256 * 1024;

interface Line {
  line: number;
  fields: string[];
}

/**
 * Reads a table whose columns are found by their titles, which may stand below other lines. Rows read = rows taken + rows set aside.
 *
 * @param needed columns that must be there.
 * @param read a row, or why it is none.
 */
export function readTitled<C extends string, T extends object>(
  given: TitledInput,
  columns: Record<C, ColumnTest>,
  needed: readonly NoInfer<C>[],
  read: (value: Value<C>) => T | string,
): TitledTable<T> {
  const { tables, problems } = tablesIn(given);
  const found = tables.map((lines) => headOf(lines, columns, needed));
  const best = found.toSorted((a, b) => a.missing.length - b.missing.length)[0];
  if (!best || best.missing.length > 0) return { rows: [], aside: problems, missing: best?.missing ?? [...needed] };
  const { body, titles, places } = best;
  const rows: (T & { line: number })[] = [];
  const aside = [...problems];
  const toldOf = remembered((column: C) => {
    const cells = body.map(({ fields }) => fields[places[column]] ?? '');
    const { currency } = titleOf(titles[places[column]] ?? '');
    return { order: orderOf(cells).order as DateOrder | null, mark: markOf(cells) as DecimalMark, currency };
  });
  for (const { fields, line } of body) {
    const cell = (column: C) => (places[column] < 0 ? '' : (fields[places[column]] ?? '').trim());
    const value: Value<C> = Object.assign(cell, {
      date: (column: C) => parseDate(cell(column), { order: toldOf(column).order, now: null }),
      price(column: C) {
        const price = parsePrice(cell(column), toldOf(column).mark);
        return price && { ...price, currency: price.currency ?? toldOf(column).currency };
      },
      currency: (column: C) => parseCurrency(cell(column)),
      number: (column: C) => (cell(column) === '' ? null : parseNumber(cell(column), toldOf(column).mark)),
    });
    const row = read(value);
    if (typeof row === 'string') aside.push({ line, reason: row, sample: fields.join(' · ').slice(0, 120) });
    else rows.push({ line, ...row });
  }
  return { rows, aside: aside.sort((a, b) => a.line - b.line), missing: [] };
}

function remembered<K, V>(make: (key: K) => V): (key: K) => V {
  const known = new Map<K, V>();
  return (key) => {
    const value = known.get(key) ?? make(key);
    known.set(key, value);
    return value;
  };
}

/** The tables of what is given, with the number of each row, and what could not be read. */
function tablesIn(given: TitledInput): { tables: Line[][]; problems: CsvProblem[] } {
  const numbered = (sheets: readonly Sheet[]) =>
    sheets.map(({ rows }) => rows.map((fields, n) => ({ line: n + 1, fields })));
  if (typeof given !== 'string') return { tables: numbered(given), problems: [] };
  const sample = given.slice(0, SAMPLE_CHARS);
  if (textKind(sample, sample.length === given.length) !== 'table') {
    const { sheets, problems } = textSheets(given);
    return { tables: numbered(sheets), problems };
  }
  const lines: Line[] = [];
  const problems: CsvProblem[] = [];
  const reader = new CsvReader(
    (row) => lines.push(row),
    (problem) => problems.push(problem),
    { ...CSV_DEFAULTS, delimiter: sniffDelimiter(sample) },
  );
  reader.write(given.replace(/^\ufeff/, ''));
  reader.end();
  return { tables: [lines], problems };
}

/** The line of titles among the first of a table: the one that names most of the columns that are needed. */
function headOf<C extends string>(lines: Line[], columns: Record<C, ColumnTest>, needed: readonly C[]) {
  let best: { places: Record<C, number>; missing: C[]; at: number } | null = null;
  for (const [at, { fields }] of lines.slice(0, MOST_ABOVE).entries()) {
    const places = placesOf(fields, columns);
    const missing = needed.filter((column) => places[column] < 0);
    if (!best || missing.length < best.missing.length) best = { places, missing, at };
    if (missing.length === 0) break;
  }
  const at = best?.at ?? 0;
  return {
    body: lines.slice(at + 1),
    titles: lines[at]?.fields ?? [],
    places: best?.places ?? ({} as Record<C, number>),
    missing: best?.missing ?? [...needed],
  };
}

/** Titles that say just what a column is called come before those that a list of many languages knows. */
function placesOf<C extends string>(header: readonly string[], columns: Record<C, ColumnTest>): Record<C, number> {
  const words = header.map((title) => title.toLowerCase().replace(/[^a-z]/g, ''));
  const taken = new Set<number>();
  const entries = Object.entries(columns) as [C, ColumnTest][];
  const places = Object.fromEntries(
    entries.map(([column, test]) => {
      const title = test instanceof RegExp ? test : test.title;
      const place = words.findIndex((word, n) => title.test(word) && !taken.has(n));
      taken.add(place);
      return [column, place];
    }),
  ) as Record<C, number>;
  for (const [column, test] of entries) {
    if (test instanceof RegExp || places[column] >= 0) continue;
    const place = header.findIndex((title, n) => !taken.has(n) && titleOf(title).field === test.field);
    places[column] = place;
    taken.add(place);
  }
  return places;
}
