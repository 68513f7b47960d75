/** Takes rows of a table as they are found. */
export interface ByteRowTaker {
  /** The row at hand; its fields lie in the reader's `bytes`, good until this returns. */
  row(): void;
  /** A row that is broken; reading goes on with the next line. */
  problem(line: number, reason: string, sample: string): void;
}

export interface ByteTableShape {
  /** One byte. */
  delimiter: string;
  /** Rows before the first that counts. */
  headRows: number;
  /** Fields of a row that are wanted, from the first on. */
  width: number;
  /** A field that most rows share with the row before, compared at once; -1: none. */
  repeated?: number;
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
 * Reads a table as bytes, without making text of it: CSV as CsvReader takes it (RFC 4180, any one-byte delimiter, LF, CRLF or CR,
 * broken rows set aside one by one), in UTF-8 or any charset that keeps ASCII. Chunks may end anywhere.
 */
export class CsvByteReader {
  /** Rows, without the header, broken ones included; empty lines are none. */
  rows = 0;
  /** The bytes that the row at hand lies in, and from where to where, its line end included. */
  bytes: Uint8Array = new Uint8Array(0);
  rowStart = 0;
  rowStop = 0;
  /** Fields of the row at hand, more than `width` counted as well; where each of the first begins and ends, without its quotes. */
  fields = 0;
  readonly starts: Int32Array;
  readonly ends: Int32Array;
  /** 1 where quotes stand doubled in a field. */
  readonly doubled: Uint8Array;
  /** The repeated field is known to be that of the row before; false: it may be. */
  isRepeated = false;
  /** Bytes that are read: what the last chunk left, then the next. One buffer for all, since a new one for each costs a quarter of the time. */
  private work = new Uint8Array(1 << 16);
  private held = 0;
  /** How much of what is held is done with, and goes away before the next bytes come: until then rows may be looked at again. */
  private gone = 0;
  /** The line that the row at hand began on, from 1. */
  line = 1;
  private isFirst = true;
  private headPending: number;
  private skipping = false;
  private mayHoldNul = false;
  private reason = '';
  private readonly delimiter: number;
  private readonly repeated: number;
  /** 1 for what ends a plain field. */
  private readonly stops = new Uint8Array(256);
  private last = new Uint8Array(0);
  private lastView = new DataView(this.last.buffer);
  /** The bytes at hand as words. */
  private view = this.lastView;
  private lines = 0;
  private hasDoubled: 0 | 1 = 0;

  constructor(
    private readonly taker: ByteRowTaker,
    { delimiter, headRows, width, repeated = -1 }: ByteTableShape,
  ) {
    this.delimiter = delimiter.charCodeAt(0);
    if (delimiter.length !== 1 || this.delimiter > 127) throw new RangeError('the delimiter is one byte');
    for (const code of [this.delimiter, LF, CR]) this.stops[code] = 1;
    this.headPending = headRows;
    this.repeated = repeated;
    this.starts = new Int32Array(width);
    this.ends = new Int32Array(width);
    this.doubled = new Uint8Array(width);
  }

  write(chunk: Uint8Array): void {
    this.letGo();
    const length = this.held + chunk.length;
    if (length > this.work.length) {
      const wider = new Uint8Array(2 * length);
      wider.set(this.work.subarray(0, this.held));
      this.work = wider;
    }
    this.work.set(chunk, this.held);
    this.held = length;
    this.gone = this.consume(this.work.subarray(0, length), false);
  }

  private letGo(): void {
    this.work.copyWithin(0, this.gone, this.held);
    this.held -= this.gone;
    this.gone = 0;
  }

  end(): void {
    this.letGo();
    this.consume(this.work.subarray(0, this.held), true);
    this.held = 0;
  }

  /** @returns how many bytes are done with. */
  private consume(bytes: Uint8Array, isEnd: boolean): number {
    this.bytes = bytes;
    this.mayHoldNul = bytes.includes(0);
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
      let end = this.scanRow(bytes, at, isEnd);
      if (end >= 0) {
        this.emit(bytes, at, end);
        this.line += 1 + this.lines;
      } else {
        if (end === MORE && bytes.length - at <= MAX_ROW_BYTES) return at;
        end = this.giveUp(bytes, at, end === MORE ? TOO_LONG : this.reason, isEnd);
        if (end === MORE) return at;
      }
      at = end;
    }
    return at;
  }

  /** Finds the fields of the row at `start`. @returns where the next row begins, MORE or BROKEN. */
  private scanRow(bytes: Uint8Array, start: number, isEnd: boolean): number {
    const { delimiter, repeated, starts, ends, doubled, stops } = this;
    const length = bytes.length;
    let at = start;
    let field = 0;
    this.lines = 0;
    this.isRepeated = false;
    for (;;) {
      let from = at;
      let to: number;
      this.hasDoubled = 0;
      if (at < length && bytes[at] === QUOTE) {
        from = at + 1;
        to = this.closingQuote(bytes, at, isEnd);
        if (to < 0) return to;
        at = to + 1;
      } else {
        if (field === repeated && this.isLast(bytes, at)) {
          at += this.last.length - 1;
          this.isRepeated = true;
        } else while (at < length && stops[bytes[at]] === 0) at++;
        to = at;
      }
      if (field < starts.length) {
        starts[field] = from;
        ends[field] = to;
        doubled[field] = this.hasDoubled;
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

  /** Whether the repeated field at a place is that of the row before. Four bytes at a time. */
  private isLast(bytes: Uint8Array, at: number): boolean {
    const { last, lastView, view } = this;
    const { length } = last;
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
        this.hasDoubled = 1;
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

  private emit(bytes: Uint8Array, start: number, end: number): void {
    if (this.fields === 1 && isBlank(bytes, this.starts[0], this.ends[0])) return;
    if (this.headPending > 0) {
      this.headPending--;
      return;
    }
    this.rows++;
    if (this.mayHoldNul && bytes.subarray(start, end).includes(0)) {
      this.taker.problem(this.line, 'the row holds NUL characters', sampleOf(bytes, start, end));
      return;
    }
    if (this.repeated >= 0 && !this.isRepeated) this.keep(bytes);
    this.rowStart = start;
    this.rowStop = end;
    this.taker.row();
  }

  /** Keeps the repeated field with the delimiter behind it; not when it is quoted or the last. */
  private keep(bytes: Uint8Array): void {
    const start = this.starts[this.repeated];
    const end = this.ends[this.repeated];
    const isPlain = bytes[end] === this.delimiter && (start === 0 || bytes[start - 1] !== QUOTE);
    this.last = isPlain ? bytes.slice(start, end + 1) : new Uint8Array(0);
    this.lastView = new DataView(this.last.buffer);
  }

  /** Sets the line at `start` aside. @returns where to go on, or MORE. */
  private giveUp(bytes: Uint8Array, start: number, reason: string, isEnd: boolean): number {
    const end = lineEnd(bytes, start);
    if (!isEnd && end === bytes.length - 1 && bytes[end] === CR) return MORE;
    if (this.headPending > 0) this.headPending--;
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
