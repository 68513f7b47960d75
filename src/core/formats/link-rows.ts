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

/** Meaning of each column by its title; only the first of a kind counts. */
export function guessLinkColumns(header: readonly string[]): LinkField[] {
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

const QUOTE = 34;
const LF = 10;
const CR = 13;
const MAX_ROW_BYTES = 64 * 1024;
const SAMPLE_BYTES = 120;
const TOO_LONG = `the row is longer than ${MAX_ROW_BYTES.toLocaleString('en')} bytes`;
/** 1 for what counts inside quotes. */
const QUOTE_STOPS = new Uint8Array(256);
for (const code of [QUOTE, LF, CR]) QUOTE_STOPS[code] = 1;
const MORE = -1;
const BROKEN = -2;

/**
 * Reads a link export as bytes, without making text of it: CSV as CsvReader takes it (RFC 4180, any one-byte delimiter, LF, CRLF
 * or CR, broken rows set aside one by one), in UTF-8 or any charset that keeps ASCII. Chunks may end anywhere.
 */
export class LinkRowReader {
  /** Rows, without the header, broken ones included; empty lines are none. */
  rows = 0;
  /** Bytes that are read: what the last chunk left, then the next. One buffer for all, since a new one for each costs a quarter of the time. */
  private work = new Uint8Array(1 << 16);
  private held = 0;
  private line = 1;
  private isFirst = true;
  private headerPending: boolean;
  private skipping = false;
  private reason = '';
  private readonly delimiter: number;
  /** 1 for what ends a plain field. */
  private readonly stops = new Uint8Array(256);
  private lastFrom = new Uint8Array(0);
  private lastView = new DataView(this.lastFrom.buffer);
  /** The bytes at hand as words. */
  private view = this.lastView;
  private isSameFrom = false;
  private readonly starts: Int32Array;
  private readonly ends: Int32Array;
  private readonly place: Record<'from' | 'to' | 'rel', number>;
  private lines = 0;
  private fields = 0;
  private readonly from: Span = { start: 0, end: 0 };
  private readonly to: Span = { start: 0, end: 0 };
  private readonly rel: Span = { start: 0, end: 0 };

  constructor(
    private readonly taker: LinkRowTaker,
    { delimiter, hasHeader, columns }: LinkRowOptions,
  ) {
    this.delimiter = delimiter.charCodeAt(0);
    for (const code of [this.delimiter, LF, CR]) this.stops[code] = 1;
    this.headerPending = hasHeader;
    this.starts = new Int32Array(columns.length);
    this.ends = new Int32Array(columns.length);
    this.place = { from: columns.indexOf('from'), to: columns.indexOf('to'), rel: columns.indexOf('rel') };
    if (this.place.from < 0 || this.place.to < 0) throw new RangeError('no column is marked as from, or as to');
  }

  write(chunk: Uint8Array): void {
    const length = this.held + chunk.length;
    if (length > this.work.length) {
      const wider = new Uint8Array(2 * length);
      wider.set(this.work.subarray(0, this.held));
      this.work = wider;
    }
    this.work.set(chunk, this.held);
    const done = this.consume(this.work.subarray(0, length), false);
    this.work.copyWithin(0, done, length);
    this.held = length - done;
  }

  end(): void {
    this.consume(this.work.subarray(0, this.held), true);
    this.held = 0;
  }

  /** @returns how many bytes are done with. */
  private consume(bytes: Uint8Array, isEnd: boolean): number {
    this.view = new DataView(bytes.buffer as ArrayBuffer, bytes.byteOffset, bytes.length);
    let at = 0;
    if (this.isFirst && (bytes.length >= 3 || isEnd)) {
      if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) at = 3;
      this.isFirst = false;
    }
    if (this.isFirst) return 0;
    while (at < bytes.length) {
      if (this.skipping) {
        const next = lineEnd(bytes, at);
        if (next === bytes.length) return next;
        if (!isEnd && next === bytes.length - 1 && bytes[next] === CR) return next;
        at = afterLineEnd(bytes, next);
        this.skipping = false;
        this.line++;
        continue;
      }
      const end = this.scanRow(bytes, at, isEnd);
      if (end === MORE) {
        if (bytes.length - at <= MAX_ROW_BYTES) return at;
        at = this.giveUp(bytes, at, TOO_LONG);
      } else if (end === BROKEN) at = this.giveUp(bytes, at, this.reason);
      else {
        this.emit(bytes);
        this.line += 1 + this.lines;
        at = end;
      }
    }
    return at;
  }

  /** Finds the fields of the row at `start`. @returns where the next row begins, MORE or BROKEN. */
  private scanRow(bytes: Uint8Array, start: number, isEnd: boolean): number {
    const { delimiter, starts, ends, stops } = this;
    const fromPlace = this.place.from;
    const length = bytes.length;
    let at = start;
    let field = 0;
    this.lines = 0;
    this.isSameFrom = false;
    for (;;) {
      let from = at;
      let to: number;
      if (at < length && bytes[at] === QUOTE) {
        from = at + 1;
        to = this.closingQuote(bytes, at, isEnd);
        if (to < 0) return to;
        at = to + 1;
      } else {
        if (field === fromPlace && this.isLastFrom(bytes, at)) {
          at += this.lastFrom.length - 1;
          this.isSameFrom = true;
        } else while (at < length && stops[bytes[at]] === 0) at++;
        to = at;
      }
      if (field < starts.length) {
        starts[field] = from;
        ends[field] = to;
      }
      field++;
      if (at - start > MAX_ROW_BYTES) return this.broken(TOO_LONG);
      if (at >= length) {
        if (!isEnd) return MORE;
        break;
      }
      if (bytes[at] === delimiter) {
        if (++at >= length && !isEnd) return MORE;
        continue;
      }
      if (bytes[at] === CR && at === length - 1 && !isEnd) return MORE;
      at = afterLineEnd(bytes, at);
      break;
    }
    this.fields = field;
    return at;
  }

  /** Whether the field at a place is the linking page of the row before, which most rows share. Four bytes at a time. */
  private isLastFrom(bytes: Uint8Array, at: number): boolean {
    const { lastFrom, lastView, view } = this;
    const { length } = lastFrom;
    if (length < 4 || at + length > bytes.length) return false;
    // the last four first, where pages of one site differ; they also cover what a count by four leaves over
    if (view.getUint32(at + length - 4) !== lastView.getUint32(length - 4)) return false;
    for (let i = 0; i + 4 <= length; i += 4) if (view.getUint32(at + i) !== lastView.getUint32(i)) return false;
    return true;
  }

  /** @returns where the quote opened at `start` closes, MORE or BROKEN. */
  private closingQuote(bytes: Uint8Array, start: number, isEnd: boolean): number {
    const { length } = bytes;
    let at = start + 1;
    let lines = 0;
    for (;;) {
      for (; at < length; at++) {
        if (QUOTE_STOPS[bytes[at]] === 0) continue;
        if (bytes[at] === QUOTE) break;
        if (bytes[at] === LF || bytes[at + 1] !== LF) lines++;
      }
      if (at >= bytes.length)
        return isEnd || at - start > MAX_ROW_BYTES ? this.broken('a quote is opened and never closed') : MORE;
      if (at - start > MAX_ROW_BYTES) return this.broken('a quote is opened and never closed');
      if (at === bytes.length - 1 && !isEnd) return MORE;
      const after = at + 1 < bytes.length ? bytes[at + 1] : LF;
      if (after === QUOTE) {
        at += 2;
        continue;
      }
      if (after !== this.delimiter && after !== LF && after !== CR)
        return this.broken(lines > 0 ? 'a quote is opened and never closed' : 'text follows a closing quote');
      this.lines += lines;
      return at;
    }
  }

  private broken(reason: string): number {
    this.reason = reason;
    return BROKEN;
  }

  private emit(bytes: Uint8Array): void {
    if (this.fields === 1 && isBlank(bytes, this.starts[0], this.ends[0])) return;
    if (this.headerPending) {
      this.headerPending = false;
      return;
    }
    this.rows++;
    this.field(bytes, this.place.from, this.from);
    this.field(bytes, this.place.to, this.to);
    this.field(bytes, this.place.rel, this.rel);
    if (!this.isSameFrom) this.keepFrom(bytes);
    this.taker.row(bytes, this.from, this.to, this.rel, this.isSameFrom);
  }

  /** Keeps the field with the delimiter behind it; not when it is quoted or the last. */
  private keepFrom(bytes: Uint8Array): void {
    const start = this.starts[this.place.from];
    const end = this.ends[this.place.from];
    const isPlain = bytes[end] === this.delimiter && (start === 0 || bytes[start - 1] !== QUOTE);
    this.lastFrom = isPlain ? bytes.slice(start, end + 1) : new Uint8Array(0);
    this.lastView = new DataView(this.lastFrom.buffer);
  }

  private field(bytes: Uint8Array, place: number, span: Span): void {
    if (place < 0 || place >= this.fields) {
      span.start = span.end = 0;
      return;
    }
    let start = this.starts[place];
    let end = this.ends[place];
    while (start < end && bytes[start] <= 32) start++;
    while (end > start && bytes[end - 1] <= 32) end--;
    span.start = start;
    span.end = end;
  }

  /** The line a row began on. */
  get currentLine(): number {
    return this.line;
  }

  /** Sets the line at `start` aside. @returns where to go on. */
  private giveUp(bytes: Uint8Array, start: number, reason: string): number {
    const end = lineEnd(bytes, start);
    if (this.headerPending) this.headerPending = false;
    else {
      this.rows++;
      this.taker.problem(this.line, reason, sampleOf(bytes, start, end));
    }
    if (end === bytes.length) {
      this.skipping = true;
      return end;
    }
    this.line++;
    return afterLineEnd(bytes, end);
  }
}

export function sampleOf(bytes: Uint8Array, start: number, end: number): string {
  return new TextDecoder().decode(bytes.subarray(start, Math.min(end, start + SAMPLE_BYTES)));
}

function lineEnd(bytes: Uint8Array, from: number): number {
  let at = from;
  while (at < bytes.length && bytes[at] !== LF && bytes[at] !== CR) at++;
  return at;
}

function afterLineEnd(bytes: Uint8Array, at: number): number {
  return bytes[at] === CR && bytes[at + 1] === LF ? at + 2 : at + 1;
}

function isBlank(bytes: Uint8Array, start: number, end: number): boolean {
  for (let at = start; at < end; at++) if (bytes[at] !== 32 && (bytes[at] < 9 || bytes[at] > 13)) return false;
  return true;
}
