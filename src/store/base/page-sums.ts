import {
  closeSync,
  existsSync,
  fstatSync,
  fsyncSync,
  openSync,
  readFileSync,
  readSync,
  renameSync,
  rmSync,
  statSync,
  writeSync,
} from 'node:fs';
import { crc32 } from 'node:zlib';
import Database from 'better-sqlite3';

/** CRC-32 of each page of a database file while nobody writes to it, the first page first. */
export interface PageSums {
  pageBytes: number;
  sums: Uint32Array;
}

const MAGIC = 'JLSUMS01';
/** Magic, bytes of a page, number of pages, sum over the sums. */
const HEAD_BYTES = 20;
const READ_BYTES = 4 << 20;
/** Where the header of a database has the size of its pages (SQLite's file format, section 1.3.2); 1 stands for 65,536. */
const PAGE_SIZE_AT = 16;

/** Where it says how it is written (the same, section 1.3.3). */
const WRITE_VERSION_AT = 18;
const LOGGED = 2;

const sumsPath = (database: string) => database.replace(/\.sqlite$/, '.sums');

/**
 * Writes down the sums of a database that all have closed, beside it: what is read at the next start can be held against them. What its
 * log holds is moved into it first.
 */
export function keepSums(database: string): void {
  const raw = new Database(database, { fileMustExist: true });
  try {
    // as it is opened: whoever looks its pages through holds it still, and then it cannot become so
    raw.pragma('journal_mode = WAL');
    raw.pragma('wal_checkpoint(TRUNCATE)');
  } finally {
    raw.close();
  }
  const { pageBytes, sums } = sumsOf(database);
  const body = Buffer.from(sums.buffer, sums.byteOffset, sums.byteLength);
  const head = Buffer.alloc(HEAD_BYTES);
  head.write(MAGIC, 'latin1');
  head.writeUInt32LE(pageBytes, 8);
  head.writeUInt32LE(sums.length, 12);
  head.writeUInt32LE(crc32(body), 16);
  const path = sumsPath(database);
  const file = openSync(`${path}.new`, 'w', 0o600);
  try {
    writeSync(file, head);
    writeSync(file, body);
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
  renameSync(`${path}.new`, path);
}

/** The sums beside a database; null: none are there, they are themselves damaged, or somebody has written to it since. */
export function readSums(database: string): PageSums | null {
  const path = sumsPath(database);
  if (!existsSync(path) || (statSync(`${database}-wal`, { throwIfNoEntry: false })?.size ?? 0) > 0) return null;
  const bytes = readFileSync(path);
  const body = bytes.subarray(HEAD_BYTES);
  const isWhole =
    bytes.length >= HEAD_BYTES &&
    bytes.toString('latin1', 0, 8) === MAGIC &&
    body.length === 4 * bytes.readUInt32LE(12) &&
    crc32(body) === bytes.readUInt32LE(16);
  if (!isWhole) return null;
  return { pageBytes: bytes.readUInt32LE(8), sums: new Uint32Array(new Uint8Array(body).buffer) };
}

/** Whether a database writes into a log beside it: one that does not changes its header when the product opens it. */
export function isLogged(database: string): boolean {
  const file = openSync(database, 'r');
  try {
    const head = Buffer.alloc(100);
    readSync(file, head, 0, head.length, 0);
    return head[WRITE_VERSION_AT] === LOGGED;
  } finally {
    closeSync(file);
  }
}

/** They hold only until the first who writes: whoever opens the database for that takes them away. */
export function forgetSums(database: string): void {
  rmSync(sumsPath(database), { force: true });
}

/**
 * Pages that are not what they were, by number from 1, at most `most` of them; a file of another length differs in those that it lacks or
 * has too many.
 *
 * @param pages how many are looked at, from the first.
 */
export function changedPages(
  database: string,
  expected: PageSums,
  { pages = Number.POSITIVE_INFINITY, most = 1000 } = {},
): number[] {
  const changed: number[] = [];
  const found = sumsOf(database, expected.pageBytes, pages);
  const length = Math.min(pages, Math.max(found.sums.length, expected.sums.length));
  for (let n = 0; n < length && changed.length < most; n++) if (found.sums[n] !== expected.sums[n]) changed.push(n + 1);
  return changed;
}

function sumsOf(path: string, pageBytes: number | null = null, most = Number.POSITIVE_INFINITY): PageSums {
  const file = openSync(path, 'r');
  try {
    const size = fstatSync(file).size;
    const bytes = pageBytes ?? pageSizeOf(file);
    const sums = new Uint32Array(Math.min(most, Math.ceil(size / bytes)));
    const buffer = Buffer.alloc(Math.max(bytes, READ_BYTES - (READ_BYTES % bytes)));
    for (let n = 0; n < sums.length; ) {
      const read = readSync(file, buffer, 0, buffer.length, n * bytes);
      if (read === 0) break;
      for (let at = 0; at < read && n < sums.length; at += bytes)
        sums[n++] = crc32(buffer.subarray(at, Math.min(read, at + bytes)));
    }
    return { pageBytes: bytes, sums };
  } finally {
    closeSync(file);
  }
}

function pageSizeOf(file: number): number {
  const head = Buffer.alloc(100);
  readSync(file, head, 0, head.length, 0);
  const size = head.readUInt16BE(PAGE_SIZE_AT);
  return size === 1 ? 65_536 : size;
}
