import { CSV_DEFAULTS, CsvReader } from './csv';

/**
 * Rows of a file as they stood, put together for keeping; what a list said of a domain is read from here when somebody asks, by
 * the columns of its source. A table's rows are kept as the piece of text they stood in, behind a U+001D. Of other formats the
 * fields are kept, parted by U+001F, rows by U+001E, each row with its line in front.
 */
const UNIT = '\u001f';
const RECORD = '\u001e';
const TABLE = '\u001d';
const SEPARATORS = /[\u001e\u001f]/g;

/** @param rows whole rows of a table, the first of them not empty. @returns the same behind the mark of a table. */
export function packTable(rows: Uint8Array): Uint8Array {
  const packed = new Uint8Array(rows.length + 1);
  packed[0] = TABLE.charCodeAt(0);
  packed.set(rows, 1);
  return packed;
}

/** Rows packed one by one go behind each other. */
export function packRow(line: number, fields: readonly string[]): string {
  return `${line}${UNIT}${fields.map((field) => field.replace(SEPARATORS, ' ')).join(UNIT)}${RECORD}`;
}

/** Rows by their line. @param firstLine of the first row. @param delimiter of the table. */
export function unpackRows(packed: string, firstLine: number, delimiter: string): Map<number, string[]> {
  const rows = new Map<number, string[]>();
  if (packed.startsWith(TABLE)) {
    const reader = new CsvReader(
      ({ line, fields }) => rows.set(line + firstLine - 1, fields),
      () => undefined,
      // as the list was read: else a quote that never closes would take other rows in
      { ...CSV_DEFAULTS, delimiter },
    );
    reader.write(packed.slice(1));
    reader.end();
    return rows;
  }
  for (const record of packed.split(RECORD)) {
    const [line, ...fields] = record.split(UNIT);
    if (line !== '') rows.set(Number(line), fields);
  }
  return rows;
}
