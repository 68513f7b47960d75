/** The head of a WARC record (ISO 28500:2017, 4). */
export interface WarcHead {
  /** `response`, `request`, `warcinfo`, `revisit` and so on. */
  type: string;
  /** What it is a record of; '' where it does not say. */
  uri: string;
  /** When it was captured, ms since 1970 UTC; null: it does not say. */
  at: number | null;
  /** Bytes of its block. */
  length: number;
  /** Sum of what was answered, like `sha1:3I42H3S6…`; '' where none is stated. */
  digest: string;
  /** Of a `revisit` (ISO 28500:2017, 6.7): the capture that holds what was answered, where it is named. */
  refersTo: { uri: string; at: number } | null;
}

const VERSION = /^WARC\/\d\.\d+$/;

/**
 * Reads the head of a record, without its empty line.
 *
 * @returns null when it is none.
 */
export function readWarcHead(text: string): WarcHead | null {
  const [version = '', ...lines] = text.split(/\r?\n/);
  if (!VERSION.test(version.trim())) return null;
  const fields = fieldsOf(lines);
  const length = Number(fields['content-length'] ?? Number.NaN);
  if (!Number.isSafeInteger(length) || length < 0) return null;
  const at = dateOf(fields['warc-date']);
  const refersTo = dateOf(fields['warc-refers-to-date']);
  return {
    type: (fields['warc-type'] ?? '').toLowerCase(),
    uri: uriOf(fields['warc-target-uri']),
    at,
    length,
    digest: (fields['warc-payload-digest'] ?? '').toLowerCase(),
    refersTo: refersTo === null ? null : { uri: uriOf(fields['warc-refers-to-target-uri']), at: refersTo },
  };
}

/** Some writers put it between angle brackets, as the first version of the format was read. */
const uriOf = (text = '') => text.replace(/^<(.*)>$/, '$1');

function dateOf(text = ''): number | null {
  const at = Date.parse(text);
  return Number.isNaN(at) ? null : at;
}

/** Fields of a head by their names in small letters; a line that begins with white space goes on with the one before. */
function fieldsOf(lines: readonly string[]): Record<string, string> {
  const fields: Record<string, string> = {};
  let last = '';
  for (const line of lines) {
    if (/^[ \t]/.test(line) && last !== '') {
      fields[last] += ` ${line.trim()}`;
      continue;
    }
    const colon = line.indexOf(':');
    if (colon < 1) continue;
    last = line.slice(0, colon).trim().toLowerCase();
    fields[last] ??= line.slice(colon + 1).trim();
  }
  return fields;
}

/** An answer of HTTP as it was stored, in bytes. */
export interface StoredAnswer {
  status: number;
  /** By names in small letters, of repeated ones the first. */
  headers: Record<string, string>;
  /** Without chunks; still encoded as `content-encoding` says. */
  body: Uint8Array;
}

/** Reads the block of a `response` record: a message of HTTP/1.1 (RFC 9112), its chunks put together. @returns null when it is none. */
export function readStoredAnswer(block: Uint8Array): StoredAnswer | null {
  const end = headEnd(block);
  if (end === null) return null;
  const [start = '', ...lines] = latin1(block.subarray(0, end.at)).split(/\r?\n/);
  const status = Number(/^HTTP\/\d(?:\.\d)?\s+(\d{3})/.exec(start)?.[1] ?? Number.NaN);
  if (Number.isNaN(status)) return null;
  const headers = fieldsOf(lines);
  const rest = block.subarray(end.after);
  const isChunked = /\bchunked\b/i.test(headers['transfer-encoding'] ?? '');
  return { status, headers, body: isChunked ? withoutChunks(rest) : rest };
}

/** Where the empty line behind a head is. */
function headEnd(block: Uint8Array): { at: number; after: number } | null {
  for (let at = 0; at + 1 < block.length; at++) {
    if (block[at] !== 10) continue;
    if (block[at + 1] === 10) return { at, after: at + 2 };
    if (block[at + 1] === 13 && block[at + 2] === 10) return { at, after: at + 3 };
  }
  return null;
}

/** Chunks put together (RFC 9112, 7.1). Writers that stored the body without them left the header: then it stays as it is. */
function withoutChunks(body: Uint8Array): Uint8Array {
  const parts: Uint8Array[] = [];
  let at = 0;
  while (at < body.length) {
    let lineEnd = at;
    while (lineEnd < body.length && body[lineEnd] !== 10) lineEnd++;
    const size = /^\s*([0-9a-f]{1,8})\s*(?:;.*)?\r?$/i.exec(
      latin1(body.subarray(at, Math.min(lineEnd, at + 200))),
    )?.[1];
    if (size === undefined) return at === 0 ? body : joined(parts);
    const length = Number.parseInt(size, 16);
    if (length === 0) return joined(parts);
    // a capture that was cut short has as much as it has
    parts.push(body.subarray(lineEnd + 1, lineEnd + 1 + length));
    at = lineEnd + 1 + length;
    if (body[at] === 13) at++;
    if (body[at] === 10) at++;
  }
  return joined(parts);
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

function latin1(bytes: Uint8Array): string {
  let text = '';
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return text;
}
