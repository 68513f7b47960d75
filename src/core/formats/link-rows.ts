import { type ByteRowTaker, CsvByteReader } from './csv-bytes';

/** What a column of a link export means. */
export const LINK_FIELDS = ['from', 'to', 'anchor', 'rel', 'first-seen', 'last-seen', 'ignore'] as const;
export type LinkField = (typeof LINK_FIELDS)[number];

const HEADER_WORDS: [LinkField, RegExp][] = [
  ['from', /^(from|source|sourceurl|fromurl|linkingpage|referringpage|referringpageurl|page|pageurl|origin|inurl)$/],
  ['to', /^(to|target|targeturl|tourl|linkedpage|destination|destinationurl|href|link|linkurl|outlink|url)$/],
  ['anchor', /^(anchor|anchortext|text|linktext|alttext)$/],
  ['rel', /^(rel|attributes|nofollow|follow|linktype)$/],
  ['first-seen', /^(firstseen|found|firstfound|discovered|first|firstindexed)$/],
  ['last-seen', /^(lastseen|last|lastcrawled|lastfound|lastchecked|checked)$/],
];

/**
 * Meaning of each column by its title, only the first of a kind; where the linking or the linked page has no title of its own, the first
 * columns of web addresses that mean nothing else are they.
 *
 * @param rows the first rows below the header.
 */
export function guessLinkColumns(header: readonly string[], rows: readonly (readonly string[])[] = []): LinkField[] {
  const columns = linkColumnsByTitle(header);
  const isAddresses = (index: number) => {
    const hits = rows.filter((row) => /^(https?:)?\/\//i.test((row[index] ?? '').trim())).length;
    return rows.length > 0 && hits * 2 > rows.length;
  };
  const free = columns.flatMap((field, index) => (field === 'ignore' && isAddresses(index) ? [index] : []));
  for (const field of ['from', 'to'] as const) {
    const at = columns.indexOf(field);
    if (at >= 0 && (rows.length === 0 || isAddresses(at) || free.length === 0)) continue;
    const next = free.shift();
    if (next === undefined) continue;
    if (at >= 0) columns[at] = 'ignore';
    columns[next] = field;
  }
  return columns;
}

function linkColumnsByTitle(header: readonly string[]): LinkField[] {
  const taken = new Set<LinkField>();
  return header.map((title) => {
    const word = title.toLowerCase().replace(/[^a-z]/g, '');
    const field = HEADER_WORDS.find(([one, words]) => !taken.has(one) && words.test(word))?.[0] ?? 'ignore';
    taken.add(field);
    return field;
  });
}

/** Takes rows as they are found. Fields lie in `bytes`, from `start` up to but not including `end`, good until it returns. */
export interface LinkRowTaker {
  /** @param isSameFrom whether `from` is known to be that of the row before; false: it may be. */
  row(bytes: Uint8Array, from: Span, to: Span, rel: Span, isSameFrom: boolean): void;
  /** A row that is broken; reading goes on with the next line. */
  problem(line: number, reason: string, sample: string): void;
}

export interface Span {
  start: number;
  end: number;
}

export interface LinkRowOptions {
  delimiter: string;
  hasHeader: boolean;
  /** Holds `from` and `to`. */
  columns: readonly LinkField[];
}

/** Reads a link export as bytes, without making text of it. Chunks may end anywhere. */
export class LinkRowReader implements ByteRowTaker {
  private readonly table: CsvByteReader;
  private readonly place: Record<'from' | 'to' | 'rel', number>;
  private readonly from: Span = { start: 0, end: 0 };
  private readonly to: Span = { start: 0, end: 0 };
  private readonly rel: Span = { start: 0, end: 0 };

  constructor(
    private readonly taker: LinkRowTaker,
    { delimiter, hasHeader, columns }: LinkRowOptions,
  ) {
    this.place = { from: columns.indexOf('from'), to: columns.indexOf('to'), rel: columns.indexOf('rel') };
    if (this.place.from < 0 || this.place.to < 0) throw new RangeError('no column is marked as from, or as to');
    // most rows have the linking page of the row before
    this.table = new CsvByteReader(this, {
      delimiter,
      headRows: hasHeader ? 1 : 0,
      width: columns.length,
      repeated: this.place.from,
    });
  }

  write(chunk: Uint8Array): void {
    this.table.write(chunk);
  }

  end(): void {
    this.table.end();
  }

  /** Rows, without the header, broken ones included; empty lines are none. */
  get rows(): number {
    return this.table.rows;
  }

  /** The line a row began on. */
  get currentLine(): number {
    return this.table.line;
  }

  row(): void {
    const { table, place } = this;
    this.field(place.from, this.from);
    this.field(place.to, this.to);
    this.field(place.rel, this.rel);
    this.taker.row(table.bytes, this.from, this.to, this.rel, table.isRepeated);
  }

  problem(line: number, reason: string, sample: string): void {
    this.taker.problem(line, reason, sample);
  }

  private field(place: number, span: Span): void {
    const { bytes, fields, starts, ends } = this.table;
    if (place < 0 || place >= fields) {
      span.start = span.end = 0;
      return;
    }
    let start = starts[place];
    let end = ends[place];
    while (start < end && bytes[start] <= 32) start++;
    while (end > start && bytes[end - 1] <= 32) end--;
    span.start = start;
    span.end = end;
  }
}
