import { z } from 'zod';

/** One capture as an index of captures names it. */
export interface CdxCapture {
  /** ms since 1970, UTC. */
  at: number;
  /** The same as the index writes it, 14 digits. */
  timestamp: string;
  /** The address that was captured. */
  url: string;
  /** null: the index does not say. */
  status: number | null;
  mime: string | null;
}

export interface CdxAnswer {
  /** In order of time. */
  captures: CdxCapture[];
  /** Lines that are none. */
  skipped: number;
  /** Whether it is an answer of an index at all, also where it names no capture. */
  isCdx: boolean;
}

type Field = 'timestamp' | 'url' | 'status' | 'mime';

/** Letters of the head of a CDX file. */
const LETTERS: Record<string, Field> = { b: 'timestamp', a: 'url', s: 'status', m: 'mime' };
/** Names of columns and members, as indexes write them. */
const NAMES: Record<string, Field> = {
  timestamp: 'timestamp',
  original: 'url',
  url: 'url',
  statuscode: 'status',
  status: 'status',
  mimetype: 'mime',
  mime: 'mime',
};
/** The first five of a line without a head are the same whether it has 7, 9 or 11: key, time, address, type, status. */
const PLAIN: readonly (Field | null)[] = [null, 'timestamp', 'url', 'mime', 'status'];
const LEAST_PLAIN = 5;

const Rows = z.array(z.array(z.coerce.string()));
const Member = z.looseObject({});

/**
 * Reads what an index of captures answers: lines of fields with or without the head of a CDX file (` CDX N b a m s …`), a JSON array of rows
 * whose first names the columns, JSON objects one a line, and CDXJ (key, time, object).
 */
export function readCdx(text: string): CdxAnswer {
  const trimmed = text.trim();
  if (trimmed.startsWith('[')) return ofRows(trimmed);
  let skipped = 0;
  let isHeaded = false;
  let order = PLAIN;
  const captures: CdxCapture[] = [];
  for (const line of trimmed.split(/\r?\n/)) {
    const head = /^CDX((?: \S)+)\s*$/.exec(line.trim());
    if (head) {
      order = head[1]
        .trim()
        .split(' ')
        .map((letter) => LETTERS[letter] ?? null);
      isHeaded = true;
      continue;
    }
    if (line.trim() === '') continue;
    const capture = ofLine(line.trim(), order, isHeaded);
    if (capture) captures.push(capture);
    else skipped++;
  }
  return { captures: inOrder(captures), skipped, isCdx: captures.length > 0 || isHeaded };
}

const inOrder = (captures: CdxCapture[]): CdxCapture[] => captures.sort((a, b) => a.at - b.at);

function ofRows(text: string): CdxAnswer {
  const none = { captures: [], skipped: 0, isCdx: false };
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return none;
  }
  const { data: rows } = Rows.safeParse(value);
  if (!rows) return none;
  // nothing was captured
  if (rows.length === 0) return { ...none, isCdx: true };
  const order = rows[0].map((name) => NAMES[name.toLowerCase()] ?? null);
  if (!order.includes('timestamp') || !order.includes('url')) return none;
  const read = rows.slice(1).map((row) => ofFields(row, order));
  const captures = read.filter((capture) => capture !== null);
  return { captures: inOrder(captures), skipped: read.length - captures.length, isCdx: true };
}

function ofLine(line: string, order: readonly (Field | null)[], isHeaded: boolean): CdxCapture | null {
  const object = /^(?:(\S+) (\d{4,14}) )?(\{.*\})$/.exec(line);
  if (object) return ofObject(object[3], object[2]);
  const fields = line.split(/\s+/);
  return isHeaded || fields.length >= LEAST_PLAIN ? ofFields(fields, order) : null;
}

function ofObject(text: string, timestamp: string | undefined): CdxCapture | null {
  try {
    const member = Member.parse(JSON.parse(text));
    const told: Partial<Record<Field, string>> = timestamp === undefined ? {} : { timestamp };
    for (const [name, value] of Object.entries(member)) {
      const field = NAMES[name.toLowerCase()];
      if (field && (typeof value === 'string' || typeof value === 'number')) told[field] ??= String(value);
    }
    return ofTold(told);
  } catch {
    return null;
  }
}

function ofFields(fields: readonly string[], order: readonly (Field | null)[]): CdxCapture | null {
  const told: Partial<Record<Field, string>> = {};
  for (const [place, field] of order.entries()) if (field && fields[place] !== undefined) told[field] = fields[place];
  return ofTold(told);
}

function ofTold({ timestamp = '', url = '', status, mime }: Partial<Record<Field, string>>): CdxCapture | null {
  const at = timeOf(timestamp);
  if (at === null || !/^https?:\/\/\S+$/i.test(url)) return null;
  return {
    at,
    timestamp: whole(timestamp),
    url,
    status: /^\d{3}$/.test(status ?? '') ? Number(status) : null,
    mime: mime === undefined || mime === '-' || mime === '' ? null : mime,
  };
}

const FIRST = '00000101000000';
/** Times may be cut from behind: 2014 is its first moment. */
const whole = (timestamp: string): string => timestamp + FIRST.slice(timestamp.length);

function timeOf(timestamp: string): number | null {
  if (!/^\d{4}(\d\d){0,5}$/.test(timestamp)) return null;
  const [, year, month, day, hour, minute, second] =
    /^(\d{4})(\d\d)(\d\d)(\d\d)(\d\d)(\d\d)$/.exec(whole(timestamp)) ?? [];
  const at = Date.UTC(+year, +month - 1, +day, +hour, +minute, +second);
  // the 31st of a month without one is no day
  return new Date(at).toISOString().replace(/\D/g, '').slice(0, 14) === whole(timestamp) ? at : null;
}
