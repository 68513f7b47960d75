import { csvLine, tsvLine } from './csv';

export const EXPORT_FORMATS = ['csv', 'tsv', 'jsonl', 'xlsx', 'ods', 'parquet'] as const;
export type ExportFormat = (typeof EXPORT_FORMATS)[number];
export type TextFormat = Exclude<ExportFormat, 'xlsx' | 'ods' | 'parquet'>;

export const EXPORT_TYPES: Record<ExportFormat, string> = {
  csv: 'text/csv; charset=utf-8',
  tsv: 'text/tab-separated-values; charset=utf-8',
  jsonl: 'application/jsonl; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  ods: 'application/vnd.oasis.opendocument.spreadsheet',
  parquet: 'application/vnd.apache.parquet',
};

/** Rows that a sheet of a workbook has at most, its titles beside them (ECMA-376, ODF: 1,048,576). */
export const MOST_SHEET_ROWS = 1_048_575;

/** What stands in a cell: a text, a number, a moment (ms since 1970 UTC), an amount in minor units, several texts. */
export type Cell = string | number | null | readonly string[];
export type ColumnKind = 'text' | 'number' | 'date' | 'money' | 'list';

/** A column of an export. */
export interface ExportColumn<Row> {
  title: string;
  kind: ColumnKind;
  of(row: Row): Cell;
  /** What it says, in half a sentence. */
  about: string;
}

/** Columns of one kind of row, by what each is. */
export function columnsFor<Row>() {
  const column =
    (kind: ColumnKind) =>
    (title: string, of: (row: Row) => Cell, about: string): ExportColumn<Row> => ({ title, kind, of, about });
  return {
    text: column('text'),
    number: column('number'),
    date: column('date'),
    money: column('money'),
    list: column('list'),
  };
}

/** A cell where several texts are one, with semicolons between them. */
export const flat = (cell: Cell): string | number | null => (typeof cell === 'object' && cell ? cell.join('; ') : cell);

const written = (cell: Cell, kind: ColumnKind): Cell => {
  if (typeof cell !== 'number') return cell;
  if (kind === 'date') return new Date(cell).toISOString();
  return kind === 'money' ? (cell / 100).toFixed(2) : cell;
};

/** Rows as text, one after another: dates in ISO 8601, money with its cents. */
export async function* exportedText<Row>(
  rows: AsyncIterable<Row> | Iterable<Row>,
  columns: readonly ExportColumn<Row>[],
  format: TextFormat,
): AsyncGenerator<string> {
  const titles = columns.map(({ title }) => title);
  const line = format === 'tsv' ? tsvLine : csvLine;
  if (format !== 'jsonl') yield line(titles);
  for await (const row of rows) {
    const values = columns.map(({ of, kind }) => written(of(row), kind));
    yield format === 'jsonl'
      ? `${JSON.stringify(Object.fromEntries(titles.map((title, n) => [title, values[n]])))}\n`
      : line(values.map(flat));
  }
}
