import {
  closeSync,
  existsSync,
  mkdtempSync,
  openSync,
  readFileSync,
  readSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { crc32 } from 'node:zlib';
import Database from 'better-sqlite3';
import { pino } from 'pino';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { copyOpen } from '../../store/base/copies';
import { readDamage } from '../../store/base/damage';
import { moveLog, openStore, type Store } from '../../store/base/database';
import { keepSums } from '../../store/base/page-sums';
import { freshStore } from '../../store/base/testing';
import { briefOfTest, domainOfTest } from '../../store/testing';
import { DamageWatch } from './damage-watch';

const log = pino({ level: 'silent' });
let folder: string;
let path: string;
let store: Store;
beforeEach(async () => {
  store = await freshStore();
  ({ folder } = store);
  path = join(folder, 'jam-ladle.sqlite');
  briefOfTest(store);
  for (let n = 0; n < 400; n++) domainOfTest(store, `hive${n}.org`);
  await store.close();
  keepSums(path);
});

/** Changes one bit in the midst of a page. */
function flip(page: number, at = 2000): void {
  const file = openSync(path, 'r+');
  const byte = Buffer.alloc(1);
  const position = (page - 1) * 4096 + at;
  readSync(file, byte, 0, 1, position);
  byte[0] ^= 1;
  writeSync(file, byte, 0, 1, position);
  closeSync(file);
}
function pagesOf(name: string): number[] {
  const raw = new Database(path, { readonly: true });
  const pages = raw.prepare('SELECT pageno FROM dbstat WHERE name = ?').pluck().all(name) as number[];
  raw.close();
  return pages;
}

/** As copies were once: no log beside them, and sums of just that. */
function asEarlierCopy(): void {
  const raw = new Database(path);
  raw.pragma('journal_mode = DELETE');
  raw.close();
  const pages = readFileSync(path);
  const sums = Buffer.alloc(20 + pages.length / 1024);
  sums.write('JLSUMS01', 'latin1');
  for (let n = 0; n < pages.length / 4096; n++)
    sums.writeUInt32LE(crc32(pages.subarray(n * 4096, (n + 1) * 4096)), 20 + 4 * n);
  sums.writeUInt32LE(4096, 8);
  sums.writeUInt32LE(pages.length / 4096, 12);
  sums.writeUInt32LE(crc32(sums.subarray(20)), 16);
  writeFileSync(join(folder, 'jam-ladle.sums'), sums);
}

describe('a start', () => {
  it('finds a database whole, though others write to it meanwhile', async () => {
    const watch = new DamageWatch(folder, log);
    store = await openStore(folder, { migrate: true });
    for (let n = 0; n < 400; n++) domainOfTest(store, `other${n}.org`);
    moveLog(store);
    await watch.compare();
    expect(readDamage(folder)).toBeNull();
    // from now on the file changes again
    moveLog(store);
    expect(new Database(path, { readonly: true }).prepare('SELECT count(*) FROM domains').pluck().get()).toBe(800);
    await store.close();
  });

  it('tells damage of a table and of an index by name, and remembers it', async () => {
    flip(pagesOf('domains').at(-1) as number);
    flip(pagesOf('sqlite_autoindex_domains_1').at(-1) as number);
    await new DamageWatch(folder, log).compare();
    expect(readDamage(folder)?.found.sort()).toEqual([
      'the index sqlite_autoindex_domains_1 (1 page)',
      'the table domains (1 page)',
    ]);
    // sums of before are gone: what is known is not forgotten for that
    expect(existsSync(join(folder, 'jam-ladle.sums'))).toBe(false);
    await new DamageWatch(folder, log).compare();
    expect(readDamage(folder)?.found).toHaveLength(2);
  });

  it('is made with a copy that was put in place, looked through beside everything else', async () => {
    store = await openStore(folder, { migrate: true });
    const moved = mkdtempSync(join(tmpdir(), 'moved-'));
    copyOpen(store, join(moved, 'jam-ladle.sqlite'));
    await store.close();
    const watch = new DamageWatch(moved, log);
    store = await openStore(moved, { migrate: true });
    expect(domainOfTest(store, 'first.org').name).toBe('first.org');
    await watch.compare();
    expect(readDamage(moved)).toBeNull();
    await store.close();
  });

  it('is made with a copy of an earlier version, which is looked through before it is opened', async () => {
    const [last] = pagesOf('domains').slice(-1);
    asEarlierCopy();
    new DamageWatch(folder, log);
    store = await openStore(folder, { migrate: true });
    await store.close();
    expect(readDamage(folder)).toBeNull();
    asEarlierCopy();
    flip(last);
    new DamageWatch(folder, log);
    expect(readDamage(folder)?.found).toEqual(['the table domains (1 page)']);
  });

  it('opens nothing whose header is not what it was, and says what to do', () => {
    for (const at of [0, 18, 21, 44, 60, 99]) {
      flip(1, at);
      expect(() => new DamageWatch(folder, log), String(at)).toThrow(/header.* damaged\..*--restore/);
      flip(1, at);
    }
    expect(existsSync(join(folder, 'jam-ladle.sums'))).toBe(true);
  });
});

describe('a quiet moment', () => {
  it('is when SQLite looks through what has no sums', async () => {
    vi.useFakeTimers({ toFake: ['performance'] });
    try {
      const watch = new DamageWatch(folder, log);
      await watch.compare();
      for (let at = 0; at < 8; at++) flip(pagesOf('domains').at(-1) as number, at);
      watch.turn(true);
      vi.advanceTimersByTime(61_000);
      watch.turn(false);
      expect(readDamage(folder)).toBeNull();
      watch.turn(true);
    } finally {
      vi.useRealTimers();
    }
    await expect.poll(() => readDamage(folder)?.found.length ?? 0, { timeout: 30_000 }).toBeGreaterThan(0);
  });
});
