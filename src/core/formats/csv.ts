/** A row as it stood in the file. */
export interface CsvRow {
  fields: string[];
  /** 1-based number of the line the row starts on. */
  line: number;
}

/** A row that could not be read. */
export interface CsvProblem {
  line: number;
  reason: string;
  /** The first characters of it, for the person who looks. */
  sample: string;
}

export interface CsvOptions {
  delimiter: string;
  /** A row longer than this is set aside: what follows a lost quote, or a file that is no list. */
  maxRowChars: number;
}

export const CSV_DEFAULTS: CsvOptions = { delimiter: ',', maxRowChars: 64 * 1024 };

const QUOTE = 34;
const LF = 10;
const CR = 13;
const SAMPLE_CHARS = 120;

/**
 * Streaming CSV (RFC 4180) for files as they are: any one-character delimiter, LF, CRLF or CR, quotes doubled inside
 * quotes, byte order mark dropped. Two things differ from the RFC, both so that nothing is lost silently:
 * a quoted field that never closes gives up at the end of its first line, which is set aside, and reading goes on with
 * the next line; text after a closing quote, and NUL characters, set the row aside with a reason.
 *
 * Chunks may end anywhere. Memory is bounded by the longest row kept, `maxRowChars`, plus one chunk.
 */
export class CsvReader {
  private readonly delimiter: number;
  private mayHoldNul = false;
  /** Where the next LF, CR and delimiter stand in the text at hand, its length when there is none; looked for when passed. */
  private lfAt = -1;
  private crAt = -1;
  private delimiterAt = -1;
  private rest = '';
  private line = 1;
  private first = true;
  /** Inside a row over maxRowChars: drop characters up to the next line end. */
  private skipping = false;

  constructor(
    private readonly onRow: (row: CsvRow) => void,
    private readonly onProblem: (problem: CsvProblem) => void,
    private readonly options: CsvOptions = CSV_DEFAULTS,
  ) {
    this.delimiter = options.delimiter.charCodeAt(0);
  }

  write(chunk: string): void {
    let text = this.rest + chunk;
    if (this.first && text.length > 0) {
      if (text.charCodeAt(0) === 0xfeff) text = text.slice(1);
      this.first = false;
    }
    this.begin(text);
    this.rest = text.slice(this.consume(text, false));
    if (this.skipping) this.rest = this.rest.slice(-1) === '\r' ? '\r' : '';
  }

  end(): void {
    if (this.rest === '') return;
    const text = this.rest;
    this.rest = '';
    this.begin(text);
    this.consume(text, true);
  }

  private begin(text: string): void {
    this.lfAt = this.crAt = this.delimiterAt = -1;
    this.mayHoldNul = text.includes('\u0000');
  }

  /** The next LF or CR from `at` on, the text's length when there is none. */
  private rowEnd(text: string, at: number): number {
    if (this.lfAt < at) this.lfAt = found(text.indexOf('\n', at), text.length);
    if (this.crAt < at) this.crAt = found(text.indexOf('\r', at), text.length);
    return Math.min(this.lfAt, this.crAt);
  }

  /** Reads whole rows from `text`; returns how many characters are done with. */
  private consume(text: string, isEnd: boolean): number {
    let at = 0;
    while (at < text.length) {
      if (this.skipping) {
        const next = lineEnd(text, at);
        if (next < 0) return text.length;
        if (!isEnd && next === text.length - 1 && text.charCodeAt(next) === CR) return next;
        at = afterLineEnd(text, next);
        this.skipping = false;
        this.line++;
        continue;
      }
      let end = this.readRow(text, at, isEnd);
      if (end < 0 && text.length - at > this.options.maxRowChars) end = this.giveUp(text, at, this.tooLong, isEnd);
      if (end < 0) return at;
      at = end;
    }
    return at;
  }

  /** Reads one row from `start`. Returns where the next begins, or -1 when more text is needed. */
  private readRow(text: string, start: number, isEnd: boolean): number {
    const fields: string[] = [];
    const { delimiter } = this;
    const length = text.length;
    let at = start;
    let end = this.rowEnd(text, start);
    let lines = 0;
    for (;;) {
      if (at < length && text.charCodeAt(at) === QUOTE) {
        const field = this.readQuoted(text, at, isEnd);
        if (field === null) return -1;
        if (typeof field === 'string') return this.giveUp(text, start, field, isEnd);
        fields.push(field.value);
        lines += field.lines;
        at = field.end;
        if (at > end) end = this.rowEnd(text, at);
      } else {
        if (this.delimiterAt < at) this.delimiterAt = found(text.indexOf(this.options.delimiter, at), length);
        const to = Math.min(this.delimiterAt, end);
        fields.push(text.slice(at, to));
        at = to;
      }
      if (at - start > this.options.maxRowChars) return this.giveUp(text, start, this.tooLong, isEnd);
      if (at >= length) {
        if (!isEnd) return -1;
        break;
      }
      if (text.charCodeAt(at) === delimiter) {
        at++;
        if (at >= length && !isEnd) return -1;
        continue;
      }
      if (text.charCodeAt(at) === CR && at === length - 1 && !isEnd) return -1;
      at = afterLineEnd(text, at);
      break;
    }
    this.emit(fields, text, start, at);
    this.line += 1 + lines;
    return at;
  }

  private emit(fields: string[], text: string, start: number, end: number): void {
    if (fields.length === 1 && fields[0].trim() === '') return;
    if (this.mayHoldNul && fields.some((field) => field.includes('\u0000'))) {
      const sample = text.slice(start, Math.min(end, start + SAMPLE_CHARS));
      this.onProblem({ line: this.line, reason: 'the row holds NUL characters', sample });
      return;
    }
    this.onRow({ fields, line: this.line });
  }

  /** A quoted field; null when more text is needed; a reason when it is broken. */
  private readQuoted(
    text: string,
    start: number,
    isEnd: boolean,
  ): { value: string; end: number; lines: number } | string | null {
    let at = start + 1;
    let value = '';
    let from = at;
    for (;;) {
      const quote = text.indexOf('"', at);
      if (quote < 0) {
        if (isEnd || text.length - start > this.options.maxRowChars) return 'a quote is opened and never closed';
        return null;
      }
      if (quote - start > this.options.maxRowChars) return 'a quote is opened and never closed';
      if (quote === text.length - 1 && !isEnd) return null;
      const after = text.charCodeAt(quote + 1);
      if (after === QUOTE) {
        value += text.slice(from, quote + 1);
        at = from = quote + 2;
        continue;
      }
      if (quote + 1 < text.length && after !== this.delimiter && after !== LF && after !== CR)
        // a "closing" quote lines further down is more likely the opening one of another row
        return /[\r\n]/.test(text.slice(start, quote))
          ? 'a quote is opened and never closed'
          : 'text follows a closing quote';
      value += text.slice(from, quote);
      return { value, end: quote + 1, lines: countLineEnds(value) };
    }
  }

  private get tooLong(): string {
    return `the row is longer than ${this.options.maxRowChars.toLocaleString('en')} characters`;
  }

  /** Sets the line at `start` aside. Returns where to go on, or -1 when more text is needed. */
  private giveUp(text: string, start: number, reason: string, isEnd: boolean): number {
    // a quote was followed over later lines, which are read anew
    this.lfAt = this.crAt = this.delimiterAt = -1;
    const end = lineEnd(text, start);
    if (!isEnd && end === text.length - 1 && text.charCodeAt(end) === CR) return -1;
    const sampleEnd = Math.min(end < 0 ? text.length : end, start + SAMPLE_CHARS);
    this.onProblem({ line: this.line, reason, sample: text.slice(start, sampleEnd) });
    if (end < 0) {
      this.skipping = true;
      return text.length;
    }
    this.line++;
    return afterLineEnd(text, end);
  }
}

function found(at: number, otherwise: number): number {
  return at < 0 ? otherwise : at;
}

function lineEnd(text: string, from: number): number {
  for (let at = from; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === LF || code === CR) return at;
  }
  return -1;
}

function afterLineEnd(text: string, at: number): number {
  return text.charCodeAt(at) === CR && text.charCodeAt(at + 1) === LF ? at + 2 : at + 1;
}

function countLineEnds(text: string): number {
  let count = 0;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (code === LF || (code === CR && text.charCodeAt(at + 1) !== LF)) count++;
  }
  return count;
}

/** Writes one field so that CsvReader gives it back, and so that a spreadsheet takes it as text, not as a formula. */
export function csvField(value: string | number | null): string {
  if (value === null) return '';
  if (typeof value === 'number') return String(value);
  const safe = defused(value);
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

/** Text that a spreadsheet would take as a formula gets an apostrophe; a number is none, whatever its sign. */
function defused(value: string): string {
  return /^[=+\-@\t\r]/.test(value) && !/^-?\d+(?:\.\d+)?$/.test(value) ? `'${value}` : value;
}

/** A line of tab-separated values, as safe as one of CSV; what would break its columns becomes a space. */
export function tsvLine(values: (string | number | null)[]): string {
  const field = (value: string | number | null) =>
    typeof value === 'string' ? defused(value).replace(/[\t\r\n]+/g, ' ') : String(value ?? '');
  return `${values.map(field).join('\t')}\n`;
}

export function csvLine(values: (string | number | null)[]): string {
  return `${values.map(csvField).join(',')}\r\n`;
}
