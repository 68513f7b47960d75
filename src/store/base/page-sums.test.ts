import {
  closeSync,
  mkdtempSync,
  openSync,
  readFileSync,
  readSync,
  statSync,
  truncateSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { faultsOf, wordsOfPages } from './damage';
import { changedPages, forgetSums, keepSums, readSums } from './page-sums';

let path: string;
beforeEach(() => {
  path = join(mkdtempSync(join(tmpdir(), 'sums-')), 'jam-ladle.sqlite');
  const raw = new Database(path);
  raw.pragma('journal_mode = WAL');
  raw.exec('CREATE TABLE orders (id INTEGER PRIMARY KEY, venue TEXT); CREATE INDEX orders_venue ON orders (venue)');
  const add = raw.prepare('INSERT INTO orders (venue) VALUES (?)');
  for (let n = 0; n < 3000; n++) add.run(`venue ${n}`);
  raw.close();
  keepSums(path);
});

function flip(bit: number): void {
  const file = openSync(path, 'r+');
  const byte = Buffer.alloc(1);
  readSync(file, byte, 0, 1, Math.floor(bit / 8));
  byte[0] ^= 1 << (bit % 8);
  writeSync(file, byte, 0, 1, Math.floor(bit / 8));
  closeSync(file);
}
const changed = (part = {}) => changedPages(path, readSums(path) as NonNullable<ReturnType<typeof readSums>>, part);

describe('sums of pages', () => {
  it('tell any bit that is not what it was, and its page', () => {
    const bits = statSync(path).size * 8;
    expect(changed()).toEqual([]);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: bits - 1 }), (bit) => {
        flip(bit);
        expect(changed()).toEqual([Math.floor(bit / 8 / 4096) + 1]);
        flip(bit);
        expect(changed()).toEqual([]);
      }),
      { numRuns: 60 },
    );
  });

  it('tell pages that are missing or too many, and can be asked of the first alone', () => {
    const { size } = statSync(path);
    truncateSync(path, size - 4096);
    expect(changed()).toEqual([size / 4096]);
    expect(changed({ pages: 1 })).toEqual([]);
    writeFileSync(path, Buffer.concat([readFileSync(path), Buffer.alloc(2 * 4096)]));
    expect(changed()).toEqual([size / 4096, size / 4096 + 1]);
    flip(8 * 30);
    expect(changed({ pages: 1 })).toEqual([1]);
  });

  it('say nothing where somebody wrote since, or where they are damaged themselves', () => {
    const raw = new Database(path);
    raw.prepare('DELETE FROM orders WHERE id = 7').run();
    expect(readSums(path)).toBeNull();
    raw.close();
    keepSums(path);
    expect(changed()).toEqual([]);
    const sums = path.replace('.sqlite', '.sums');
    const bytes = readFileSync(sums);
    bytes[25] ^= 4;
    writeFileSync(sums, bytes);
    expect(readSums(path)).toBeNull();
    forgetSums(path);
    forgetSums(path);
    expect(readSums(path)).toBeNull();
  });
});

describe('damage in words', () => {
  it('names what stands on a page, and leaves out what nobody reads', () => {
    const raw = new Database(path);
    const pageOf = (name: string) =>
      raw.prepare('SELECT pageno FROM dbstat WHERE name = ? ORDER BY pageno DESC').pluck().get(name) as number;
    const pages = [pageOf('orders'), pageOf('orders_venue')];
    expect(wordsOfPages(path, pages).sort()).toEqual(['the index orders_venue (1 page)', 'the table orders (1 page)']);
    raw.exec('DELETE FROM orders');
    expect(wordsOfPages(path, [pages[0]])).toEqual([]);
    raw.close();
  });

  it('is what SQLite finds where there are no sums', () => {
    expect(faultsOf(path)).toEqual([]);
    const raw = new Database(path, { readonly: true });
    const page = raw
      .prepare("SELECT pageno FROM dbstat WHERE name = 'orders' AND pagetype = 'leaf'")
      .pluck()
      .get() as number;
    raw.close();
    for (let n = 0; n < 8; n++) flip(((page - 1) * 4096 + n) * 8 + 1);
    expect(faultsOf(path).join()).not.toBe('');
    writeFileSync(path, 'x'.repeat(8192));
    expect(faultsOf(path)).toEqual([expect.stringContaining('cannot be read')]);
  });
});
