import { isEmptyValue, markOf, parsePrice } from './amounts';
import { CsvReader, type CsvRow } from './csv';
import { type DateOrder, orderOf, parseDate } from './dates';
import { JsonLinesReader, jsonKeys, looksLikeJsonLines } from './json-lines';
import type { ListField, ListFormat } from './list-fields';
import { bareCell, joinedName, nameOf, namesIn } from './list-names';
import { type ListRow, ListRowReader } from './list-row';
import { type Title, titleOf } from './list-titles';
import { cellReader, DATES, readPhase } from './list-values';
import type { ColumnTally } from './tally';
import { type Told, UNTOLD } from './told';

export interface ListShape {
  format: ListFormat;
  /** Of JSON Lines: the key of each column. */
  keys: string[];
  delimiter: string;
  hasHeader: boolean;
  /** Rows before the first that counts: titles of the file, and those of the columns as the last of them. */
  headRows: number;
  /** Meaning of each column, in order; `domain` is among them, more than once where several columns hold names. */
  columns: ListField[];
  told: Told[];
}

export interface ListPreview extends ListShape {
  /** What became of the cells of the rows that were looked at. */
  tally: ColumnTally[];
  /** Columns whose dates are not read, because nothing tells whether the day or the month comes first. */
  untold: number[];
  header: string[] | null;
  /** The first rows as they stand, without the header. */
  rows: string[][];
  /** The same rows as they will be read, or why they will be set aside. */
  readings: (ListRow | string)[];
}

const DELIMITERS = [',', '\t', ';', '|'];
/** Taken only where nearly all lines agree. */
const RARE_DELIMITERS = ['^', '~', '\u00a6', '\u001f', '\u0001', '\u00a7', ':', ' '];
const PREVIEW_ROWS = 20;
/** Rows that columns are told by. */
const TOLD_ROWS = 2000;
/** The header stands among the first. */
const MOST_HEAD_ROWS = 40;

/** The delimiter under which most of the lines have the same number of fields, more than one. */
export function sniffDelimiter(sample: string): string {
  const stated = /^\ufeff?sep=(.)\r?\n/i.exec(sample)?.[1];
  if (stated !== undefined) return stated;
  let best = '';
  let bestScore = 0;
  for (const delimiter of DELIMITERS) {
    const { rows, width, all } = widest(sample, delimiter);
    const score = rows * 10 + Math.min(width, 9);
    // a comma in a note here and there parts no columns
    if (rows > 0 && rows * 2 >= all && score > bestScore) [best, bestScore] = [delimiter, score];
  }
  if (best !== '' && bestScore >= 30) return best;
  for (const delimiter of RARE_DELIMITERS) {
    const { rows, width, all, isNamed } = widest(sample, delimiter);
    if (rows >= 2 && rows >= 0.9 * all && width > 1 && isNamed) return delimiter;
  }
  return best === '' ? ',' : best;
}

/** In how many rows there are as many fields as in most, and how many these are. */
function widest(sample: string, delimiter: string): { rows: number; width: number; all: number; isNamed: boolean } {
  const widths = new Map<number, number>();
  let all = 0;
  let named = 0;
  let fieldsNamed = 0;
  // a quote left inside a field says that the file was cut in the wrong places
  for (const { fields } of readRows(sample, delimiter, 50)) {
    all++;
    if (fields.length < 2 || fields.some((field) => field.includes('"') && !/^="[^"]*"$/.test(field))) continue;
    widths.set(fields.length, (widths.get(fields.length) ?? 0) + 1);
    const names = fields.filter((field) => nameOf(field.trim()) !== null).length;
    if (names > 0) named++;
    fieldsNamed += names;
  }
  let rows = 0;
  let width = 0;
  for (const [wide, times] of widths)
    if (times * 10 + Math.min(wide, 9) > rows * 10 + Math.min(width, 9)) [width, rows] = [wide, times];
  // where every field is a name, a line is a row of names and no row of a table
  return { rows, width, all, isNamed: named >= 0.5 * all && fieldsNamed < 0.9 * named * Math.max(2, width) };
}

/** Corrects what was recognised. */
export type Given = Partial<Omit<ListShape, 'told'>> & { order?: DateOrder | null; told?: Told[] };

/**
 * Recognises delimiter, header and columns from the start of a file. `given` corrects any of it.
 *
 * @param sample decoded text, cut anywhere. @param now what times that are left count from.
 */
export function previewList(sample: string, given: Given = {}, now: number | null = null): ListPreview {
  const shape = looksLikeJsonLines(sample) ? previewJsonLines(sample, given) : previewTable(sample, given);
  const reader = new ListRowReader(shape.columns, shape.told, now);
  const { looked, ...rest } = shape;
  const readings = looked.map((row) => reader.read(row));
  const untold = shape.columns.flatMap((field, n) =>
    DATES.has(field) && shape.told[n].order === null && orderOf(cellsOf(looked, n)).ambiguous > 0 ? [n] : [],
  );
  return { ...rest, tally: reader.tally.take(), untold, readings: readings.slice(0, PREVIEW_ROWS) };
}

type Looked = Omit<ListPreview, 'readings' | 'tally' | 'untold'> & { looked: string[][] };

function previewJsonLines(sample: string, given: Given): Looked {
  const keys = jsonKeys(sample);
  const rows: string[][] = [];
  const reader = new JsonLinesReader(
    ({ fields }) => rows.length < TOLD_ROWS && rows.push(fields),
    () => undefined,
    keys,
  );
  // without its end: the sample may be cut within a line
  reader.write(`${sample.slice(0, sample.lastIndexOf('\n') + 1) || sample}\n`);
  const { columns, told } = columnsOf(keys, rows, given);
  return {
    format: 'json-lines',
    keys,
    delimiter: ',',
    hasHeader: true,
    headRows: 0,
    columns,
    told,
    header: keys,
    rows: rows.slice(0, PREVIEW_ROWS),
    looked: rows,
  };
}

function previewTable(sample: string, given: Given): Looked {
  const delimiter = given.delimiter ?? sniffDelimiter(sample);
  const rows = readRows(sample, delimiter, TOLD_ROWS).map((row) => row.fields);
  const { body, ...shape } = tableShape(rows, given);
  return { format: 'table', keys: [], delimiter, ...shape, rows: body.slice(0, PREVIEW_ROWS), looked: body };
}

function readRows(sample: string, delimiter: string, most: number): CsvRow[] {
  const rows: CsvRow[] = [];
  const reader = new CsvReader(
    (row) => rows.length < most && rows.push(row),
    () => undefined,
    { delimiter, maxRowChars: 64 * 1024 },
  );
  reader.write(sample);
  reader.end();
  return rows;
}

export interface TableShape extends Pick<ListShape, 'hasHeader' | 'headRows' | 'columns' | 'told'> {
  header: string[] | null;
  /** The rows that count. */
  body: string[][];
}

/** Finds the header among titles that stand above it, and what the columns mean and how they are written. @param rows with their head. */
export function tableShape(rows: string[][], given: Given = {}): TableShape {
  const found = given.headRows ?? (given.hasHeader === false ? 0 : Math.max(given.hasHeader ? 1 : 0, headRowsOf(rows)));
  const hasHeader = given.hasHeader ?? (found > 0 && isHeader(rows[found - 1] ?? []));
  const header = hasHeader && found > 0 ? titlesOf(rows, found) : null;
  const body = rows.slice(found);
  return { hasHeader: header !== null, headRows: found, header, body, ...columnsOf(header, body, given) };
}

const filled = (row: readonly string[]) => row.filter((cell) => cell.trim() !== '').length;
const isName = (cell: string) => nameOf(cell.trim()) !== null;
const knownTitles = (row: readonly string[]) =>
  row.filter((cell) => cell.length < 60 && titleOf(cell).field !== 'ignore').length;

/** A header has no name in it, and words. */
const isHeader = (row: readonly string[]) =>
  !/^sep=/i.test(row[0] ?? '') && !row.some(isName) && row.some((cell) => /\p{L}/u.test(cell));

/** How many rows stand before the first that counts. */
function headRowsOf(rows: readonly string[][]): number {
  const usual = usualWidth(rows);
  const isNamed = (row: readonly string[]) => row.some(isName) || (usual <= 2 && namesIn(row[0] ?? '').length > 0);
  const start = rows.slice(0, MOST_HEAD_ROWS).findIndex((row) => isNamed(row) && filled(row) * 2 >= usual);
  if (start < 0) {
    // names in two columns, or none at all: the row that has the most titles
    const known = rows.slice(0, MOST_HEAD_ROWS).map(knownTitles);
    const most = Math.max(0, ...known);
    if (most > 0) return known.indexOf(most) + 1;
    return rows.length > 1 && isHeader(rows[0]) && !namesIn(rows[0].join(' ')).length ? 1 : 0;
  }
  // a line above a plain list of names may be about anything
  const isPlainList = usual <= 1;
  const known = rows
    .slice(0, start)
    .map((row) => (isPlainList && titleOf(row[0] ?? '').field !== 'domain' ? 0 : knownTitles(row)));
  const most = Math.max(0, ...known);
  if (most === 0) return start;
  let end = known.lastIndexOf(most) + 1;
  while (end < start && isContinued(rows[end])) end++;
  return end;
}

/** A line of the head below its titles: more titles, or units in brackets. What is neither counts as a row, and is rejected with its reason. */
function isContinued(row: readonly string[]): boolean {
  return knownTitles(row) > 0 || row.every((cell) => cell.trim() === '' || /^[([].*[)\]]$/.test(cell.trim()));
}

/** Cells that most rows have filled, counted by the widest half. */
function usualWidth(rows: readonly string[][]): number {
  const widths = rows
    .slice(0, 400)
    .map(filled)
    .sort((a, b) => a - b);
  return widths[Math.floor(widths.length * 0.75)] ?? 0;
}

/** Titles of the columns: the row of those above the first that counts with the most known words; what it leaves open is told by the one above it. */
function titlesOf(rows: readonly string[][], headRows: number): string[] {
  const first = Math.max(0, headRows - 4);
  const known = rows.slice(first, headRows).map(knownTitles);
  const most = Math.max(...known);
  const at = most === 0 ? headRows - 1 : first + known.lastIndexOf(most);
  const header = rows[at];
  const above = at > 0 ? rows[at - 1] : [];
  const below = at < headRows - 1 ? rows[headRows - 1] : [];
  const width = Math.max(header.length, filled(above) > 1 ? above.length : 0);
  let spanned = '';
  return Array.from({ length: width }, (_, n) => {
    const own = (header[n] ?? '').trim();
    if (filled(above) < 2) return below[n] && titleOf(own).field === 'ignore' ? `${own} ${below[n]}`.trim() : own;
    // a head over several columns stands in the first of them
    spanned = (above[n] ?? '').trim() || (own === '' ? '' : spanned);
    if (own !== '' && titleOf(own).field !== 'ignore') return own;
    return `${spanned} ${own}`.trim();
  });
}

/** Meanings of columns and how their values are written. */
function columnsOf(header: string[] | null, body: string[][], given: Given): Pick<ListShape, 'columns' | 'told'> {
  const width = body.reduce((most, row) => Math.max(most, row.length), header?.length ?? 0);
  const titles = Array.from({ length: width }, (_, n) => titleOf(header?.[n] ?? ''));
  const columns = given.columns ?? guessColumns(titles, body, header !== null);
  const orders = columns.map((field, n) => (DATES.has(field) ? orderOf(cellsOf(body, n)) : null));
  // who writes one column by one order writes the others so, too
  const told = orders.map((order) => order?.order).filter((order) => order !== null && order !== undefined);
  const common = told.every((order) => order === told[0]) ? (told[0] ?? null) : null;
  return {
    columns,
    told:
      given.told ??
      columns.map((field, n) => {
        const { currency, zone, isLeft, unitMs, scale } = titles[n] ?? NO_TITLE;
        return {
          title: header?.[n] ?? '',
          order: given.order ?? orders[n]?.order ?? common,
          mark: FIGURES.has(field) ? markOf(cellsOf(body, n)) : null,
          currency,
          zone,
          isLeft: isLeft && DATES.has(field),
          unitMs: isLeft && DATES.has(field) ? unitMs : null,
          scale,
        };
      }),
  };
}

const NO_TITLE = titleOf('');
const FIGURES: ReadonlySet<ListField> = new Set([
  'price',
  'bids',
  'backlinks',
  'referring-domains',
  'traffic',
  'keywords',
  'position',
  'cpc',
  'score',
]);
/** Several columns may mean these. */
const REPEATABLE: ReadonlySet<ListField> = new Set(['score', 'price']);
const CLOCK = /^\d{1,2}:\d{2}(:\d{2})?( ?[ap]m)?( [a-z]{1,4})?$/i;

function* cellsOf(body: readonly string[][], column: number): Generator<string> {
  for (const row of body) if (column < row.length) yield row[column];
}

function guessColumns(titles: readonly Title[], body: string[][], hasHeader: boolean): ListField[] {
  const sample = body.slice(0, 200);
  const columns: ListField[] = [];
  for (const [n, { field }] of titles.entries()) {
    const guessed = hasHeader ? field : guessByValues(sample, n);
    const isRepeated = columns.includes(guessed);
    const isClock = isRepeated && DATES.has(guessed) && shareOf(sample, n, (value) => CLOCK.test(value.trim())) > 0.5;
    columns.push(guessed !== 'ignore' && isRepeated && !REPEATABLE.has(guessed) && !isClock ? 'ignore' : guessed);
  }
  for (const [n, field] of columns.entries())
    if (DOUBTFUL.has(field) && isNonsense(sample, n, field)) columns[n] = 'ignore';
  // a title that says no more than a name names a domain, or its label beside a TLD
  const label = titles.findIndex(({ isLabel }, n) => isLabel && columns[n] === 'ignore');
  if (columns.includes('tld') && !columns.includes('domain') && label >= 0) columns[label] = 'domain';
  const domain = columns.indexOf('domain');
  const shares = columns.map((_, n) => nameShare(sample, n));
  const best = bestNamed(sample, shares, columns);
  const isTold = domain >= 0 && (shares[domain] * 2 >= (shares[best] ?? 0) || columns.includes('tld'));
  if (!isTold && best >= 0 && shares[best] > 0) {
    if (domain >= 0) columns[domain] = 'ignore';
    columns[best] = 'domain';
  }
  if (!columns.includes('domain') && columns.length > 0) {
    const noted = columns.findIndex((_, n) => shareOf(sample, n, (value) => namesIn(value).length > 0) > 0);
    if (noted >= 0) columns[noted] = 'domain';
  }
  if (!hasHeader && isRowsOfNames(sample)) return columns.map(() => 'domain');
  return columns;
}

/** Titles that lists use for other things, too ("type", "status", "rank"). */
const DOUBTFUL: ReadonlySet<ListField> = new Set([
  'kind',
  'phase',
  'position',
  'reserve',
  'listing-url',
  'tld',
  'bids',
  'currency',
]);

/** Nothing in a column is what its title seems to say. */
function isNonsense(body: readonly string[][], column: number, field: ListField): boolean {
  const cells = body.map((row) => bareCell(row[column] ?? '')).filter((cell) => cell !== '' && !isEmptyValue(cell));
  if (cells.length === 0) return false;
  if (field === 'tld') return !cells.some((cell) => joinedName('x', cell));
  const read = cellReader(field, UNTOLD, null);
  return !cells.some((cell) => read(cell) !== null);
}

/** Of lines with more than one cell nearly all have nothing but names: several stand on a line. */
function isRowsOfNames(body: readonly string[][]): boolean {
  const several = body.filter((row) => filled(row) > 1);
  const named = several.filter((row) => row.every((cell) => cell.trim() === '' || isName(cell)));
  return named.length > 0 && named.length >= 0.9 * several.length;
}

const nameShare = (body: readonly string[][], column: number) => shareOf(body, column, isName);

/** The column with the most names: bare ones before addresses, different ones before the same again and again. */
function bestNamed(body: readonly string[][], shares: readonly number[], columns: readonly ListField[]): number {
  let best = -1;
  let bestScore = 0;
  for (const [n, share] of shares.entries()) {
    if (share === 0) continue;
    const cells = body.map((row) => (row[n] ?? '').trim()).filter(isName);
    const different = new Set(cells.map((cell) => nameOf(cell)?.name)).size / cells.length;
    const bare = cells.filter((cell) => !cell.includes('/')).length / cells.length;
    const score =
      share *
      (0.4 + 0.6 * different) *
      (0.6 + 0.4 * bare) *
      (columns[n] === 'ignore' || columns[n] === 'domain' ? 1 : 0.8);
    if (score > bestScore) [best, bestScore] = [n, score];
  }
  return best;
}

function guessByValues(body: string[][], column: number): ListField {
  if (nameShare(body, column) > 0.5) return 'domain';
  const share = (test: (value: string) => boolean) =>
    shareOf(body, column, (value) => value.trim() !== '' && test(value.trim()));
  if (
    share(
      (value) =>
        !/^\d{1,10}$/.test(value) &&
        (parseDate(value, { order: 'day-first', now: 0 }) ?? parseDate(value, { order: 'month-first', now: 0 })) !==
          null,
    ) > 0.8
  )
    return 'drop-date';
  if (share((value) => parsePrice(value)?.currency != null) > 0.5) return 'price';
  if (share((value) => readPhase(value) !== null) > 0.5) return 'phase';
  if (share((value) => /^https?:\/\//.test(value)) > 0.8) return 'listing-url';
  return 'ignore';
}

function shareOf(body: readonly string[][], column: number, test: (value: string) => boolean): number {
  return body.length === 0 ? 0 : body.filter((row) => test(row[column] ?? '')).length / body.length;
}
