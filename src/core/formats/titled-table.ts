import { CSV_DEFAULTS, type CsvProblem, CsvReader } from './csv';
import { sniffDelimiter } from './list-columns';

/** Reads the value of a column in a row; empty where the table has no such column. */
export type Value<C extends string> = (column: C) => string;

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
  const found: { places: Record<C, number> | null } = { places: null };
  const reader = new CsvReader(
    ({ fields, line }) => {
      if (found.places === null) {
        found.places = placesOf(fields, columns);
        return;
      }
      const { places } = found;
      const row = read((column) => (places[column] < 0 ? '' : (fields[places[column]] ?? '').trim()));
      if (typeof row === 'string') aside.push({ line, reason: row, sample: fields.join(' · ').slice(0, 120) });
      else rows.push({ line, ...row });
    },
    (problem) => aside.push(problem),
    { ...CSV_DEFAULTS, delimiter },
  );
  reader.write(text);
  reader.end();
  const missing = needed.filter((column) => !found.places || found.places[column] < 0);
  return { rows: missing.length > 0 ? [] : rows, aside, missing };
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
