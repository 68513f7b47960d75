import { NameTable } from '../links/tables';
import { plainDomain } from '../names/domain';
import type { Price } from './amounts';
import type { CsvByteReader } from './csv-bytes';
import { LIST_PHASES, type ListBatchBuilder, listingOf } from './list-batch';
import { LIST_FIELDS, LISTING_KINDS, type ListField } from './list-fields';
import { CPC, FIGURE_FIELDS, LIST_FIGURES, SCORES } from './list-figures';
import { ListRowReader } from './list-row';
import { cellReader, saysNothing } from './list-values';
import type { Tally } from './tally';
import { type Told, UNTOLD } from './told';

/** Of a byte of a plain name: itself in lower case; 0 for what no plain name holds. */
const NAME_BYTES = new Uint8Array(256);
for (let code = 0; code < 26; code++) NAME_BYTES[97 + code] = NAME_BYTES[65 + code] = 97 + code;
for (let code = 48; code < 58; code++) NAME_BYTES[code] = code;
const HYPHEN = 45;
const DOT = 46;
NAME_BYTES[HYPHEN] = HYPHEN;
NAME_BYTES[DOT] = DOT;
const MOST_LABEL = 63;
/** Digits of a number that is read without making text of it. */
const MOST_DIGITS = 9;
/** A longer text is not remembered. */
const MOST_REMEMBERED_BYTES = 64;
const MOST_REMEMBERED = 20_000;
const DAY_MS = 86_400_000;

/** Fields that a batch does not hold: they are read to be counted, and kept in the rows as they stood. */
const TALLIED = [
  'expires', 'first-seen', 'registrar', 'reserve', 'listing-url', 'language', 'country',
] as const satisfies ListField[]; // biome-ignore format: a list of names

/** Fields of figures that are whole numbers. */
const COUNTS: ReadonlySet<ListField> = new Set(['referring-domains', 'backlinks', 'traffic', 'keywords']);

/** Why a row is left out whose ending the list does without. */
export const EXCLUDED = 'its TLD is excluded';

/**
 * Reads rows of a list from the bytes they stand in, straight into a batch. Each value is what ListRowReader makes of the same
 * text; only what is out of the ordinary becomes a text on the way.
 */
export class ListByteReader {
  private readonly place: Record<ListField, number>;
  private readonly rows: ListRowReader;
  private readonly endings = new Remembered((text) => plainDomain(`x.${text.toLowerCase()}`)?.ending ?? null);
  /** Of the value at hand, without space around it. */
  private start = 0;
  private end = 0;
  private isDoubled = false;
  /** Of the name at hand, if it is plain. */
  private ending: string | null = null;
  private dot = 0;
  private hyphens = 0;
  private digits = 0;

  /** Names of the row that was taken last whose endings are left out. */
  excluded = 0;
  /** What cells mean, by column. */
  private readonly cells: Remembered<unknown>[];
  /** Every field stands in one column at most, and names are whole in theirs. */
  private readonly isPlain: boolean;
  /** Columns of figures: which of LIST_FIGURES; -1: a score without a place, which is only counted. */
  private readonly stated: { column: number; figure: number; isCount: boolean }[];

  /**
   * @param isExcluded whether names with an ending are left out. @param told how the columns are written. @param now what times that
   * are left count from. @param scores at which place of SCORES a score stands, by its name.
   */
  constructor(
    private readonly columns: readonly ListField[],
    private readonly isExcluded: (ending: string) => boolean,
    private readonly told: readonly Told[] = [],
    now: number | null = null,
    scores: Readonly<Record<string, number>> = {},
  ) {
    this.stated = columns.flatMap((field, column) => {
      const figure = figureOf(field, told[column]?.title, scores);
      return figure === null ? [] : [{ column, figure, isCount: COUNTS.has(field) }];
    });
    this.place = Object.fromEntries(LIST_FIELDS.map((field) => [field, columns.indexOf(field)])) as Record<
      ListField,
      number
    >;
    this.rows = new ListRowReader(columns, told, now);
    this.cells = columns.map((field, n) => new Remembered(cellReader(field, told[n] ?? UNTOLD, now)));
    const meant = columns.filter((field) => field !== 'ignore' && field !== 'score');
    this.isPlain = new Set(meant).size === meant.length && !meant.includes('tld');
  }

  /** Values that were read, and not, by column. */
  get tally(): Tally {
    return this.rows.tally;
  }

  /** Takes the row at hand into the batch. @returns null; EXCLUDED; or why it makes no sense. */
  take(table: CsvByteReader, builder: ListBatchBuilder): string | null {
    this.excluded = 0;
    const { place } = this;
    if (!this.isPlain || !this.find(table, place.domain) || this.isDoubled || !this.readName(table.bytes))
      return this.takeText(table, builder);
    const ending = this.ending as string;
    if (this.isExcluded(ending)) {
      this.excluded = 1;
      return EXCLUDED;
    }
    const { bytes } = table;
    const length = this.end - this.start;
    const batch = builder.open(table.line, length);
    const r = batch.count - 1;
    let at = r === 0 ? 0 : batch.nameEnd[r - 1];
    for (let i = this.start; i < this.end; i++) batch.nameBytes[at++] = NAME_BYTES[bytes[i]];
    batch.nameEnd[r] = at;
    batch.ending[r] = builder.codeOf(ending);
    batch.length[r] = this.dot;
    batch.hyphens[r] = this.hyphens;
    batch.digits[r] = this.digits;
    batch.phase[r] = codeIn(LIST_PHASES, this.said(table, place.phase));
    batch.dropAt[r] = this.date(table, place['drop-date']);
    batch.closingAt[r] = this.date(table, place.closing);
    batch.registeredAt[r] = this.date(table, place.registered);
    batch.bids[r] = this.count(table, place.bids);
    const price = this.price(table);
    batch.priceMinor[r] = price?.minor ?? Number.NaN;
    const currency = price ? (price.currency ?? this.said<string>(table, place.currency)) : null;
    batch.currency[r] = builder.codeOf(currency ?? (price ? (this.told[place.price]?.currency ?? null) : null));
    batch.venue[r] = builder.codeOf(this.said(table, place.venue));
    batch.listing[r] =
      codeIn(LISTING_KINDS, this.said(table, place.kind)) || plainListing(batch.closingAt[r], batch.priceMinor[r]);
    for (const n of TALLIED) if (place[n] >= 0) this.said(table, place[n]);
    for (const { figure } of this.stated) if (figure >= 0) batch.figures[figure][r] = Number.NaN;
    for (const { column, figure, isCount } of this.stated) {
      if (isCount) batch.figures[figure][r] = this.count(table, column);
      else if (figure !== CPC) {
        const value = this.said<number>(table, column);
        if (figure >= 0 && value !== null && Number.isNaN(batch.figures[figure][r])) batch.figures[figure][r] = value;
      } else {
        const click = this.said<Price>(table, column);
        batch.figures[CPC][r] = click?.minor ?? Number.NaN;
        batch.cpcCurrency[r] = builder.codeOf(click?.currency ?? null);
      }
    }
    return null;
  }

  /** A row that is out of the ordinary, as a text. */
  private takeText(table: CsvByteReader, builder: ListBatchBuilder): string | null {
    const rows = this.rows.readAll(fieldsOf(table, this.columns.length));
    if (typeof rows === 'string') return rows;
    const kept = rows.filter(({ ending }) => !this.isExcluded(ending));
    this.excluded = rows.length - kept.length;
    if (kept.length === 0) return EXCLUDED;
    for (const row of kept) builder.add(row, table.line);
    return null;
  }

  /** Finds the value in a column of the row at hand; -1 is no column. @returns false when it has none. */
  private find({ bytes, fields, starts, ends, doubled }: CsvByteReader, place: number): boolean {
    if (place < 0 || place >= fields) return false;
    let start = starts[place];
    let end = ends[place];
    while (start < end && isSpace(bytes[start])) start++;
    while (end > start && isSpace(bytes[end - 1])) end--;
    this.start = start;
    this.end = end;
    this.isDoubled = doubled[place] === 1;
    return end > start;
  }

  private said<T>(table: CsvByteReader, place: number): T | null {
    if (place < 0) return null;
    if (!this.find(table, place)) {
      this.tally.note(place, '', 'empty');
      return null;
    }
    const cells = this.cells[place] as Remembered<T | null>;
    const value = this.isDoubled ? cells.read(this.text(table.bytes)) : cells.of(table.bytes, this.start, this.end);
    if (value === null) {
      const text = this.text(table.bytes);
      this.tally.note(place, text, saysNothing(this.columns[place], text) ? 'empty' : 'notUnderstood');
      return null;
    }
    this.tally.note(place, '', 'read');
    return value;
  }

  private text(bytes: Uint8Array): string {
    const text = decoded(bytes, this.start, this.end);
    return (this.isDoubled ? text.replaceAll('""', '"') : text).trim();
  }

  /** A name as plainDomain takes it, in lower or upper case. An A-label is not plain: its length is that of what it stands for. */
  private readName(bytes: Uint8Array): boolean {
    const { start, end } = this;
    let dot = -1;
    let hyphens = 0;
    let digits = 0;
    for (let i = start; i < end; i++) {
      const code = NAME_BYTES[bytes[i]];
      if (code === 0) return false;
      if (code === DOT) {
        if (dot >= 0) return false;
        dot = i;
      } else if (dot < 0) {
        if (code < HYPHEN + 1) hyphens++;
        else if (code < 58) digits++;
      }
    }
    const length = dot - start;
    if (length < 1 || length > MOST_LABEL || end - dot > MOST_LABEL + 1 || end - dot < 2) return false;
    if (bytes[start] === HYPHEN || bytes[dot - 1] === HYPHEN || (hyphens > 1 && hasTwoHyphens(bytes, start, dot)))
      return false;
    this.ending = this.endings.of(bytes, dot + 1, end);
    this.dot = length;
    this.hyphens = hyphens;
    this.digits = digits;
    return this.ending !== null;
  }

  /** ms since 1970 UTC; NaN: none. */
  private date(table: CsvByteReader, place: number): number {
    if (place < 0) return Number.NaN;
    const { bytes } = table;
    if (this.find(table, place)) {
      const { start, end } = this;
      if (end - start === 10 && bytes[start + 4] === HYPHEN && bytes[start + 7] === HYPHEN) {
        const at = dayOf(
          digitsOf(bytes, start, start + 4),
          digitsOf(bytes, start + 5, start + 7),
          digitsOf(bytes, start + 8, end),
        );
        if (!Number.isNaN(at)) {
          this.tally.note(place, '', 'read');
          return at;
        }
      }
    }
    return this.said<number>(table, place) ?? Number.NaN;
  }

  private count(table: CsvByteReader, place: number): number {
    if (place < 0) return Number.NaN;
    const plain = this.find(table, place) ? digitsOf(table.bytes, this.start, this.end) : Number.NaN;
    if (Number.isNaN(plain)) return this.said<number>(table, place) ?? Number.NaN;
    this.tally.note(place, '', 'read');
    return plain;
  }

  private price(table: CsvByteReader): Price | null {
    const place = this.place.price;
    if (place < 0) return null;
    const plain = this.find(table, place) ? digitsOf(table.bytes, this.start, this.end) : Number.NaN;
    if (Number.isNaN(plain)) return this.said<Price>(table, place);
    this.tally.note(place, '', 'read');
    return { minor: plain * 100, currency: null };
  }
}

/** Which of LIST_FIGURES a column holds; -1: a score without a place; null: no figure. */
function figureOf(field: ListField, title: string | undefined, scores: Readonly<Record<string, number>>) {
  if (field === 'score') {
    const place = scores[title ?? ''];
    return place === undefined ? -1 : LIST_FIGURES.indexOf(SCORES[place]);
  }
  const figure = FIGURE_FIELDS[field];
  return figure === undefined ? null : LIST_FIGURES.indexOf(figure);
}

/** The fields of the row at hand as texts. @param most of them. */
export function fieldsOf({ bytes, fields, starts, ends, doubled }: CsvByteReader, most: number): string[] {
  return Array.from({ length: Math.min(fields, most) }, (_, place) => {
    const text = decoded(bytes, starts[place], ends[place]);
    return doubled[place] === 1 ? text.replaceAll('""', '"') : text;
  });
}

const decoder = new TextDecoder('utf-8', { ignoreBOM: true });
function decoded(bytes: Uint8Array, start: number, end: number): string {
  return decoder.decode(bytes.subarray(start, end));
}

/** What String.trim takes away, of ASCII. */
function isSpace(code: number): boolean {
  return code === 32 || (code >= 9 && code <= 13);
}

/** A whole number of few digits; NaN for everything else. */
function digitsOf(bytes: Uint8Array, start: number, end: number): number {
  if (end === start || end - start > MOST_DIGITS) return Number.NaN;
  let value = 0;
  for (let at = start; at < end; at++) {
    const digit = bytes[at] - 48;
    if (digit < 0 || digit > 9) return Number.NaN;
    value = value * 10 + digit;
  }
  return value;
}

/** Days before each month of a year that is no leap year. */
const BEFORE_MONTH = [0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334, 365];

/** The start of a day that parseDate takes, 28 days a month; NaN for everything else. */
function dayOf(year: number, month: number, day: number): number {
  if (!(year >= 1970 && year <= 2099 && month >= 1 && month <= 12 && day >= 1 && day <= 28)) return Number.NaN;
  const isLate = month > 2 && year % 4 === 0 ? 1 : 0;
  const leaps = Math.floor((year - 1969) / 4);
  return ((year - 1970) * 365 + leaps + BEFORE_MONTH[month - 1] + isLate + day - 1) * DAY_MS;
}

/** Two hyphens where those of an A-label stand. */
function hasTwoHyphens(bytes: Uint8Array, start: number, end: number): boolean {
  for (let at = start + 1; at < end; at++) if (bytes[at] === HYPHEN && bytes[at - 1] === HYPHEN) return true;
  return false;
}

/** Place of a value in a list plus one; 0 for none. */
function codeIn<T>(list: readonly T[], value: T | null): number {
  return value === null ? 0 : list.indexOf(value) + 1;
}

/** How a row without a kind offers its domain. */
function plainListing(closingAt: number, priceMinor: number): number {
  return codeIn(LISTING_KINDS, listingOf({ kind: null, closingAt: known(closingAt), priceMinor: known(priceMinor) }));
}

const known = (value: number): number | null => (Number.isNaN(value) ? null : value);

/** What texts mean that come again and again in a column, found by their bytes; forgotten when there are many. */
class Remembered<T> {
  private table = new NameTable();
  private values: T[] = [];

  constructor(readonly read: (text: string) => T) {}

  of(bytes: Uint8Array, start: number, end: number): T {
    if (end - start > MOST_REMEMBERED_BYTES) return this.read(decoded(bytes, start, end).trim());
    if (this.values.length >= MOST_REMEMBERED) {
      this.table = new NameTable();
      this.values = [];
    }
    const number = this.table.add(bytes, start, end);
    if (number === this.values.length) this.values.push(this.read(decoded(bytes, start, end).trim()));
    return this.values[number];
  }
}
