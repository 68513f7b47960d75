import type { Reserve } from '../listings/listing';
import { plainDomain, registrableDomain } from '../names/domain';
import { CsvReader, type CsvRow } from './csv';
import { JsonLinesReader, jsonKeys, looksLikeJsonLines } from './json-lines';
import { LIST_FIELDS, type ListField, type ListFormat, type ListingKind } from './list-fields';
import { parseDate, parseNumber, parsePrice } from './values';

export interface ListShape {
  format: ListFormat;
  /** Of JSON Lines: the key of each column. */
  keys: string[];
  delimiter: string;
  hasHeader: boolean;
  /** Meaning of each column, in order. Exactly one is `domain`. */
  columns: ListField[];
}

export interface ListPreview extends ListShape {
  header: string[] | null;
  /** The first rows as they stand, without the header. */
  rows: string[][];
  /** The same rows as they will be read, or why they will be set aside. */
  readings: (ListRow | string)[];
}

const DELIMITERS = [',', '\t', ';', '|'];
const PREVIEW_ROWS = 20;

/** Header words by field, most telling first. Compared without case and without anything but letters. */
const HEADER_WORDS: [field: ListField, words: RegExp][] = [
  ['domain', /^(domain|domainname|name|fqdn|host|hostname|site|url|website|asciiname)$/],
  ['drop-date', /^(drop|dropdate|dropday|deleted|deletedate|deletedon|deletiondate|dropson|droptime)$/],
  ['closing', /^(closing|closes|closingtime|end|ends|enddate|endtime|endsat|auctionend|auctionends|until|expiresat)$/],
  [
    'price',
    /^(price|ask|asking|askingprice|bid|currentbid|currentprice|highbid|buynow|buynowprice|minbid|startprice)$/,
  ],
  ['currency', /^(currency|cur)$/],
  ['bids', /^(bids|numberofbids|bidcount|nbids)$/],
  ['kind', /^(kind|type|format|saleformat|lottype|listingtype|saletype|auctiontype|offer)$/],
  ['venue', /^(venue|market|marketplace|platform|registrar|source)$/],
  ['reserve', /^(reserve|reservestatus|reservemet|hasreserve)$/],
  ['listing-url', /^(listingurl|listingpage|loturl|lotpage|auctionurl|auctionlink|itemurl)$/],
  ['phase', /^(phase|status|state)$/],
  ['registered', /^(registered|created|creationdate|registrationdate|createdon|firstregistered)$/],
  ['referring-domains', /^(referringdomains|refdomains|domains|linkingdomains|rd)$/],
  ['backlinks', /^(backlinks|links|inlinks|externalbacklinks|bl)$/],
];

/** The delimiter under which most of the lines have the same number of fields, more than one. */
export function sniffDelimiter(sample: string): string {
  let best = ',';
  let bestScore = 0;
  for (const delimiter of DELIMITERS) {
    const widths = new Map<number, number>();
    // a quote left inside a field says that the file was cut in the wrong places
    for (const { fields } of readRows(sample, delimiter, 50))
      if (fields.length > 1 && !fields.some((field) => field.includes('"')))
        widths.set(fields.length, (widths.get(fields.length) ?? 0) + 1);
    for (const [width, rows] of widths) {
      const score = rows * 10 + Math.min(width, 9);
      if (score > bestScore) [best, bestScore] = [delimiter, score];
    }
  }
  return best;
}

/**
 * Recognises delimiter, header and columns from the start of a file. `given` corrects any of it.
 *
 * @param sample decoded text, cut anywhere.
 */
export function previewList(sample: string, given: Partial<ListShape> = {}): ListPreview {
  const shape = looksLikeJsonLines(sample) ? previewJsonLines(sample, given) : previewTable(sample, given);
  const reader = new ListRowReader(shape.columns);
  return { ...shape, readings: shape.rows.map((row) => reader.read(row)) };
}

function previewJsonLines(sample: string, given: Partial<ListShape>): Omit<ListPreview, 'readings'> {
  const keys = jsonKeys(sample);
  const rows: string[][] = [];
  const reader = new JsonLinesReader(
    ({ fields }) => rows.length < PREVIEW_ROWS && rows.push(fields),
    () => undefined,
    keys,
  );
  // without its end: the sample may be cut within a line
  reader.write(`${sample.slice(0, sample.lastIndexOf('\n') + 1) || sample}\n`);
  const columns = given.columns ?? guessColumns(keys, rows);
  return { format: 'json-lines', keys, delimiter: ',', hasHeader: true, columns, header: keys, rows };
}

function previewTable(sample: string, given: Partial<ListShape>): Omit<ListPreview, 'readings'> {
  const delimiter = given.delimiter ?? sniffDelimiter(sample);
  const rows = readRows(sample, delimiter, PREVIEW_ROWS + 1).map((row) => row.fields);
  const hasHeader = given.hasHeader ?? looksLikeHeader(rows);
  const header = hasHeader ? (rows[0] ?? null) : null;
  const body = hasHeader ? rows.slice(1) : rows.slice(0, PREVIEW_ROWS);
  const columns = given.columns ?? guessColumns(header, body);
  return { format: 'table', keys: [], delimiter, hasHeader, columns, header, rows: body };
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

/** A header has words where the rows below have a domain. */
function looksLikeHeader(rows: string[][]): boolean {
  if (rows.length === 0) return false;
  if (rows[0].some((field) => registrableDomain(field))) return false;
  return rows[0].some((field) => headerField(field) !== 'ignore') || rows.length > 1;
}

function headerField(title: string): ListField {
  const word = title.toLowerCase().replace(/[^a-z]/g, '');
  return HEADER_WORDS.find(([, words]) => words.test(word))?.[0] ?? 'ignore';
}

function guessColumns(header: string[] | null, body: string[][]): ListField[] {
  const width = Math.max(header?.length ?? 0, ...body.map((row) => row.length));
  const columns: ListField[] = [];
  for (let index = 0; index < width; index++) {
    const field = header ? headerField(header[index] ?? '') : guessByValues(body, index);
    columns.push(field !== 'ignore' && columns.includes(field) ? 'ignore' : field);
  }
  if (!columns.includes('domain')) {
    const shares = columns.map((_, index) => shareOf(body, index, (value) => registrableDomain(value) !== null));
    const best = shares.indexOf(Math.max(...shares));
    if (best >= 0 && shares[best] > 0) columns[best] = 'domain';
  }
  return columns;
}

function guessByValues(body: string[][], index: number): ListField {
  if (shareOf(body, index, (value) => registrableDomain(value) !== null) > 0.5) return 'domain';
  if (shareOf(body, index, (value) => parseDate(value) !== null) > 0.8) return 'drop-date';
  return 'ignore';
}

function shareOf(body: string[][], index: number, test: (value: string) => boolean): number {
  return body.length === 0 ? 0 : body.filter((row) => test(row[index] ?? '')).length / body.length;
}

const KIND_WORDS: [kind: ListingKind, words: RegExp][] = [
  ['backorder', /back ?order|pre-?order/],
  ['falling', /falling|dutch|declining/],
  ['expired-auction', /expire/],
  ['buy-now', /buy|bin|fixed/],
  ['offer', /offer|negotiat/],
  ['auction', /auction|bid/],
];

/** What one row of a list says of a domain. Times in ms since 1970 UTC; null: not said or not readable. */
export interface ListRow {
  domain: string;
  ending: string;
  phase: 'free' | 'pending-delete' | 'redemption' | null;
  dropAt: number | null;
  closingAt: number | null;
  priceMinor: number | null;
  currency: string | null;
  bids: number | null;
  kind: ListingKind | null;
  venue: string | null;
  reserve: Reserve | null;
  /** Address of the listing's page. */
  url: string | null;
  registeredAt: number | null;
  backlinks: number | null;
  referringDomains: number | null;
}

/** Texts that come again and again in a column mean the same each time; forgotten when full. */
const MOST_REMEMBERED = 20_000;
function remembering<T>(read: (text: string) => T): (text: string) => T {
  const known = new Map<string, T>();
  return (text) => {
    let value = known.get(text);
    if (value === undefined) {
      value = read(text);
      if (known.size >= MOST_REMEMBERED) known.clear();
      known.set(text, value);
    }
    return value;
  };
}

/** Reads rows by the given columns. */
export class ListRowReader {
  private readonly place: Record<ListField, number>;
  private readonly date = remembering(parseDate);
  private readonly price = remembering(parsePrice);
  private readonly phase = remembering(readPhase);
  private readonly kind = remembering(readKind);
  private readonly count = countOf;

  constructor(columns: readonly ListField[]) {
    this.place = Object.fromEntries(LIST_FIELDS.map((field) => [field, columns.indexOf(field)])) as Record<
      ListField,
      number
    >;
  }

  /**
   * @returns the row, or the reason why it makes no sense. Values beside the domain that cannot be read are null: the
   * domain is worth keeping without them.
   */
  read(fields: string[]): ListRow | string {
    const { place } = this;
    const value = (field: ListField): string => {
      const index = place[field];
      return index < 0 || index >= fields.length ? '' : fields[index].trim();
    };
    const text = value('domain');
    if (text === '') return 'the domain column is empty';
    const domain = plainDomain(text) ?? registrableDomain(text);
    if (!domain)
      return text.includes('\ufffd')
        ? "the name holds bytes that are not in the file's character set"
        : `"${text.slice(0, 80)}" is no registrable domain`;
    const said = <T>(field: ListField, read: (text: string) => T): T | null => {
      const given = value(field);
      return given === '' ? null : read(given);
    };
    const price = said('price', this.price);
    const currency = value('currency');
    return {
      domain: domain.name,
      ending: domain.ending,
      phase: said('phase', this.phase),
      dropAt: said('drop-date', this.date),
      closingAt: said('closing', this.date),
      priceMinor: price?.minor ?? null,
      currency: price ? (price.currency ?? (/^[A-Z]{3}$/.test(currency) ? currency : null)) : null,
      bids: said('bids', this.count),
      kind: said('kind', this.kind),
      venue: value('venue').slice(0, 80) || null,
      reserve: said('reserve', readReserve),
      url: said('listing-url', readUrl),
      registeredAt: said('registered', this.date),
      backlinks: said('backlinks', this.count),
      referringDomains: said('referring-domains', this.count),
    };
  }
}

/** Reads one row by the given columns, as ListRowReader does. */
export function readListRow(fields: string[], columns: readonly ListField[]): ListRow | string {
  return new ListRowReader(columns).read(fields);
}

export function countOf(text: string): number | null {
  if (text.length < 10) {
    let plain = 0;
    let i = 0;
    for (; i < text.length; i++) {
      const digit = text.charCodeAt(i) - 48;
      if (digit < 0 || digit > 9) break;
      plain = plain * 10 + digit;
    }
    if (i === text.length && i > 0) return plain;
  }
  const value = text === '' ? null : parseNumber(text);
  return value === null || value < 0 ? null : Math.round(value);
}

export function readPhase(text: string): ListRow['phase'] {
  const words = text.toLowerCase();
  if (/pending/.test(words)) return 'pending-delete';
  if (/redemption/.test(words)) return 'redemption';
  return /dropped|deleted|available|^free$/.test(words) ? 'free' : null;
}

export function readKind(text: string): ListingKind | null {
  const words = text.toLowerCase().replaceAll('-', ' ');
  return KIND_WORDS.find(([, test]) => test.test(words))?.[0] ?? null;
}

function readReserve(text: string): Reserve | null {
  const words = text.toLowerCase();
  if (/not (met|reached)|unmet|below/.test(words)) return 'unmet';
  if (/\b(met|reached|passed)\b/.test(words)) return 'met';
  if (/^(no|none|no reserve|false|0|without( reserve)?)$/.test(words)) return 'none';
  return /^(yes|true|1|reserve)$/.test(words) ? 'unmet' : null;
}

function readUrl(text: string): string | null {
  return /^https?:\/\/[^\s]{3,1990}$/i.test(text) ? text : null;
}
