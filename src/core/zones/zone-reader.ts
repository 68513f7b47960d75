/** What a zone file says of one owner's delegation. Names as bytes: lower case, absolute, without the last dot. */
export interface ZoneEvents {
  /** An NS record. The arrays are used again for the next record; owner and target begin at 0. */
  delegation(owner: Uint8Array, ownerLength: number, target: Uint8Array, targetLength: number): void;
  /** Any other record that could be read. */
  other(): void;
  /** An entry that could not. */
  problem(problem: { line: number; reason: string; sample: string }): void;
}

const LF = 10;
const TAB = 9;
const BLANK = 32;
const QUOTE = 34;
const DOLLAR = 36;
const OPEN = 40;
const CLOSE = 41;
const DOT = 46;
const SEMICOLON = 59;
const AT = 64;
const BACKSLASH = 92;
const MAX_TOKENS = 64;
const MAX_NAME = 253;
/** Longer entries hold nothing a list of names needs: keys and signatures end far below. */
const MAX_ENTRY_BYTES = 64 * 1024;

/**
 * Streaming reader of zone files in master format (RFC 1035 section 5): comments, quoted strings, entries over several lines
 * in parentheses, `@`, owners left out, TTL and class in either order, $ORIGIN, $TTL (RFC 2308) and names relative to the origin.
 * $INCLUDE and $GENERATE are told as problems: the first names a file that is not here, the second makes records no registry
 * writes. Bytes are looked at in place and no text is made of them: a zone has tens of millions of records.
 *
 * Chunks may end anywhere. records = delegations + others + problems; directives and empty lines are none.
 */
export class ZoneReader {
  private rest: Uint8Array = new Uint8Array(0);
  private line = 1;
  private skipping = false;
  private readonly tokens = new Int32Array(2 * MAX_TOKENS);
  private readonly owner = new Uint8Array(512);
  private ownerLength = -1;
  private readonly target = new Uint8Array(512);
  private origin: Uint8Array;

  /** @param origin what relative names belong to until the file says otherwise; '' is the root. */
  constructor(
    private readonly events: ZoneEvents,
    origin = '',
  ) {
    this.origin = bytesOf(origin.toLowerCase().replace(/\.$/, ''));
  }

  write(chunk: Uint8Array): void {
    let bytes = chunk;
    if (this.rest.length > 0) {
      bytes = new Uint8Array(this.rest.length + chunk.length);
      bytes.set(this.rest);
      bytes.set(chunk, this.rest.length);
    }
    this.rest = bytes.slice(this.consume(bytes, false));
  }

  end(): void {
    const bytes = new Uint8Array(this.rest.length + 1);
    bytes.set(this.rest);
    bytes[this.rest.length] = LF;
    this.rest = new Uint8Array(0);
    this.consume(bytes, true);
  }

  /** @returns how many bytes are done with. */
  private consume(bytes: Uint8Array, isEnd: boolean): number {
    let at = 0;
    for (;;) {
      if (this.skipping) {
        const end = bytes.indexOf(LF, at);
        if (end < 0) return bytes.length;
        this.skipping = false;
        this.line++;
        at = end + 1;
      }
      const next = this.entry(bytes, at, isEnd);
      if (next < 0) {
        if (bytes.length - at <= MAX_ENTRY_BYTES && !isEnd) return at;
        if (at >= bytes.length) return at;
        // a parenthesis or quote that never closes: its first line is the one that is wrong
        const end = bytes.indexOf(LF, at);
        this.tell('a parenthesis or quote is opened and never closed', bytes, at, end < 0 ? bytes.length : end);
        if (end < 0) {
          this.skipping = true;
          return bytes.length;
        }
        this.line++;
        at = end + 1;
        continue;
      }
      at = next;
    }
  }

  /** Reads one entry. @returns where the next begins, or -1 when more bytes are needed. */
  private entry(bytes: Uint8Array, start: number, isEnd: boolean): number {
    const { tokens } = this;
    const { length } = bytes;
    let at = start;
    let count = 0;
    let depth = 0;
    let lines = 0;
    for (;;) {
      if (at >= length) return -1;
      const code = bytes[at];
      if (code === LF) {
        at++;
        lines++;
        if (depth === 0) break;
      } else if (code <= BLANK) at++;
      else if (code === SEMICOLON) {
        while (at < length && bytes[at] !== LF) at++;
      } else if (code === OPEN) {
        depth++;
        at++;
      } else if (code === CLOSE) {
        if (depth > 0) depth--;
        at++;
      } else {
        const from = at;
        if (code === QUOTE) {
          at++;
          while (at < length && bytes[at] !== QUOTE) at += bytes[at] === BACKSLASH ? 2 : 1;
          if (at >= length) return -1;
          at++;
        } else while (at < length && !endsToken(bytes[at])) at += bytes[at] === BACKSLASH ? 2 : 1;
        if (at >= length && !isEnd) return -1;
        if (count < MAX_TOKENS) {
          tokens[2 * count] = from;
          tokens[2 * count + 1] = Math.min(at, length);
        }
        count++;
      }
    }
    if (count > 0) this.read(bytes, start, at, Math.min(count, MAX_TOKENS));
    this.line += lines;
    return at;
  }

  private read(bytes: Uint8Array, start: number, end: number, count: number): void {
    const { tokens } = this;
    let token = 0;
    if (bytes[tokens[0]] === DOLLAR) {
      this.directive(bytes, start, end, count);
      return;
    }
    const first = bytes[start];
    if (first !== BLANK && first !== TAB) {
      this.ownerLength = this.nameInto(this.owner, bytes, tokens[0], tokens[1]);
      token = 1;
    }
    // TTL and class come in either order, and may be left out
    while (
      token < count &&
      (isTtl(bytes, tokens[2 * token]) || isClass(bytes, tokens[2 * token], tokens[2 * token + 1]))
    )
      token++;
    if (token + 1 >= count) {
      this.tell('the record has no type or no data', bytes, start, end);
      return;
    }
    if (this.ownerLength < 0) {
      this.tell('the record belongs to no name that can be read', bytes, start, end);
      return;
    }
    if (!isNs(bytes, tokens[2 * token], tokens[2 * token + 1])) {
      this.events.other();
      return;
    }
    const length = this.nameInto(this.target, bytes, tokens[2 * token + 2], tokens[2 * token + 3]);
    if (length < 0) this.tell('the name server is no name', bytes, start, end);
    else this.events.delegation(this.owner, this.ownerLength, this.target, length);
  }

  private directive(bytes: Uint8Array, start: number, end: number, count: number): void {
    const { tokens } = this;
    const name = textOf(bytes, tokens[0], tokens[1]).toUpperCase();
    if (name === '$TTL') return;
    if (name === '$ORIGIN' && count > 1) {
      const scratch = new Uint8Array(512);
      const length = this.nameInto(scratch, bytes, tokens[2], tokens[3]);
      if (length >= 0) {
        this.origin = scratch.slice(0, length);
        return;
      }
    }
    this.tell(`${name.slice(0, 20)} is not read`, bytes, start, end);
  }

  /** Writes a name, absolute and in lower case. @returns its length, or -1 when it cannot be read. */
  private nameInto(into: Uint8Array, bytes: Uint8Array, from: number, to: number): number {
    const { origin } = this;
    if (to - from === 1 && bytes[from] === AT) {
      into.set(origin);
      return origin.length;
    }
    if (to - from > MAX_NAME + 1) return -1;
    let length = 0;
    for (let at = from; at < to; at++) {
      const code = bytes[at];
      // escaped characters stand in no name that can be registered
      if (code === BACKSLASH || code === QUOTE) return -1;
      into[length++] = code >= 65 && code <= 90 ? code + 32 : code;
    }
    if (into[length - 1] === DOT) return length - 1;
    if (origin.length === 0) return length;
    if (length + 1 + origin.length > MAX_NAME) return -1;
    into[length++] = DOT;
    into.set(origin, length);
    return length + origin.length;
  }

  private tell(reason: string, bytes: Uint8Array, start: number, end: number): void {
    const sample = textOf(bytes, start, Math.min(end, start + 120)).trim();
    this.events.problem({ line: this.line, reason, sample });
  }
}

function endsToken(code: number): boolean {
  if (code > SEMICOLON) return false;
  return code <= BLANK || code === SEMICOLON || code === OPEN || code === CLOSE;
}

function isTtl(bytes: Uint8Array, from: number): boolean {
  return bytes[from] >= 48 && bytes[from] <= 57;
}

/** IN, CH, HS or CS. */
function isClass(bytes: Uint8Array, from: number, to: number): boolean {
  if (to - from !== 2) return false;
  const pair = (bytes[from] & 0xdf) * 256 + (bytes[from + 1] & 0xdf);
  return pair === 0x494e || pair === 0x4348 || pair === 0x4853 || pair === 0x4353;
}

function isNs(bytes: Uint8Array, from: number, to: number): boolean {
  return to - from === 2 && (bytes[from] & 0xdf) === 78 && (bytes[from + 1] & 0xdf) === 83;
}

function bytesOf(text: string): Uint8Array {
  return Uint8Array.from(text, (character) => character.charCodeAt(0));
}

function textOf(bytes: Uint8Array, from: number, to: number): string {
  return String.fromCharCode(...bytes.subarray(from, to));
}
