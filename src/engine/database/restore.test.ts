import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { describe, expect, it } from 'vitest';
import { keepSums } from '../../store/base/page-sums';
import { finishRestore, NEWEST, prepareRestore, RestoreRefused } from './restore';

const NOW = Date.UTC(2026, 10, 26, 9);
const ASIDE = '2026-11-26-09-00-00-before';

function database(path: string, words: string): void {
  const raw = new Database(path);
  raw.pragma('journal_mode = WAL');
  raw.exec('CREATE TABLE domains (name TEXT); CREATE TABLE briefs (name TEXT)');
  raw.prepare('INSERT INTO briefs VALUES (?)').run(words);
  raw.close();
}
function wordsIn(path: string): string {
  const raw = new Database(path, { readonly: true });
  try {
    return raw.prepare('SELECT name FROM briefs').pluck().get() as string;
  } finally {
    raw.close();
  }
}

/** A data folder with an older copy of itself. */
function folderWithCopy(): string {
  const folder = mkdtempSync(join(tmpdir(), 'restore-'));
  const copy = join(folder, 'backups', 'older');
  mkdirSync(join(copy, 'uploads'), { recursive: true });
  database(join(copy, 'jam-ladle.sqlite'), 'older');
  writeFileSync(join(copy, 'config.json'), 'older');
  writeFileSync(join(copy, 'uploads', 'list.csv'), 'older');
  database(join(folder, 'jam-ladle.sqlite'), 'newer');
  writeFileSync(join(folder, 'config.json'), 'newer');
  writeFileSync(join(folder, 'pool.snapshot'), 'newer');
  writeFileSync(join(folder, 'clock.json'), 'the world goes on');
  return folder;
}
function isRestored(folder: string): void {
  expect(wordsIn(join(folder, 'jam-ladle.sqlite'))).toBe('older');
  expect(readFileSync(join(folder, 'config.json'), 'utf8')).toBe('older');
  expect(readFileSync(join(folder, 'uploads', 'list.csv'), 'utf8')).toBe('older');
  expect(existsSync(join(folder, 'pool.snapshot'))).toBe(false);
  expect(readFileSync(join(folder, 'clock.json'), 'utf8')).toBe('the world goes on');
  const before = join(folder, 'backups', ASIDE);
  expect(wordsIn(join(before, 'jam-ladle.sqlite'))).toBe('newer');
  expect(readFileSync(join(before, 'config.json'), 'utf8')).toBe('newer');
  expect(readdirSync(folder)).not.toEqual(expect.arrayContaining(['restore.json', 'restore.ready']));
}

describe('restoring a copy', () => {
  it('changes nothing until the start, then puts the copy in place and keeps what was there', () => {
    const folder = folderWithCopy();
    expect(finishRestore(folder)).toBeNull();
    expect(prepareRestore(folder, 'older', NOW)).toEqual({ name: 'older', aside: ASIDE });
    expect(wordsIn(join(folder, 'jam-ladle.sqlite'))).toBe('newer');
    expect(finishRestore(folder)).toBe('older');
    isRestored(folder);
    expect(finishRestore(folder)).toBeNull();
    // back again
    prepareRestore(folder, ASIDE, NOW + 60_000);
    finishRestore(folder);
    expect(wordsIn(join(folder, 'jam-ladle.sqlite'))).toBe('newer');
  });

  it('goes on from wherever it was broken off', () => {
    // each of these is a state in which a process may have died
    const moves: [string, string][][] = [
      [],
      [['pool.snapshot', `backups/${ASIDE}/pool.snapshot`]],
      [['jam-ladle.sqlite', `backups/${ASIDE}/jam-ladle.sqlite`]],
      [
        ['jam-ladle.sqlite', `backups/${ASIDE}/jam-ladle.sqlite`],
        ['restore.ready/jam-ladle.sqlite', 'jam-ladle.sqlite'],
      ],
      [
        ['jam-ladle.sqlite', `backups/${ASIDE}/jam-ladle.sqlite`],
        ['restore.ready/jam-ladle.sqlite', 'jam-ladle.sqlite'],
        ['config.json', `backups/${ASIDE}/config.json`],
      ],
    ];
    for (const done of moves) {
      const folder = folderWithCopy();
      prepareRestore(folder, 'older', NOW);
      mkdirSync(join(folder, 'backups', ASIDE), { recursive: true });
      for (const [from, to] of done) renameSync(join(folder, from), join(folder, to));
      expect(finishRestore(folder)).toBe('older');
      isRestored(folder);
    }
  });

  it('keeps what stood in the log of the database only, there and back', () => {
    const folder = folderWithCopy();
    const open = new Database(join(folder, 'jam-ladle.sqlite'));
    open.prepare(`UPDATE briefs SET name = 'newest'`).run();
    prepareRestore(folder, 'older', NOW);
    // somebody has it open still, as the web server has
    finishRestore(folder);
    expect(wordsIn(join(folder, 'jam-ladle.sqlite'))).toBe('older');
    open.close();
    expect(wordsIn(join(folder, 'jam-ladle.sqlite'))).toBe('older');
    prepareRestore(folder, ASIDE, NOW + 60_000);
    finishRestore(folder);
    expect(wordsIn(join(folder, 'jam-ladle.sqlite'))).toBe('newest');
  });

  it('refuses what is no copy, or damaged, and leaves everything as it was', () => {
    const folder = folderWithCopy();
    for (const name of ['none', '../..', 'older/..'])
      expect(() => prepareRestore(folder, name, NOW)).toThrow('there is no such copy');
    const bad = join(folder, 'backups', 'bad');
    mkdirSync(bad);
    writeFileSync(join(bad, 'jam-ladle.sqlite'), 'x'.repeat(8192));
    expect(() => prepareRestore(folder, 'bad', NOW)).toThrow(RestoreRefused);
    new Database(join(bad, 'other.sqlite')).exec('CREATE TABLE t (x)').close();
    renameSync(join(bad, 'other.sqlite'), join(bad, 'jam-ladle.sqlite'));
    expect(() => prepareRestore(folder, 'bad', NOW)).toThrow('it is no copy of a data folder');
    expect(finishRestore(folder)).toBeNull();
    expect(wordsIn(join(folder, 'jam-ladle.sqlite'))).toBe('newer');
  });

  it('takes the newest that is whole, and none of those that were put aside', () => {
    const folder = folderWithCopy();
    const copy = (name: string) => {
      mkdirSync(join(folder, 'backups', name));
      database(join(folder, 'backups', name, 'jam-ladle.sqlite'), name);
      keepSums(join(folder, 'backups', name, 'jam-ladle.sqlite'));
    };
    for (const name of ['2026-11-24-09-00-00', '2026-11-25-09-00-00-daily', '2026-11-26-08-00-00-before']) copy(name);
    const newest = join(folder, 'backups', '2026-11-25-09-00-00-daily', 'jam-ladle.sqlite');
    const bytes = readFileSync(newest);
    // a row says something else, and SQLite would not mind
    bytes[bytes.indexOf('2026-11-25-09')] ^= 1;
    writeFileSync(newest, bytes);
    expect(() => prepareRestore(folder, '2026-11-25-09-00-00-daily', NOW)).toThrow('the copy is damaged');
    rmSync(join(folder, 'backups', 'older'), { recursive: true });
    expect(prepareRestore(folder, NEWEST, NOW)).toEqual({ name: '2026-11-24-09-00-00', aside: ASIDE });
    finishRestore(folder);
    expect(wordsIn(join(folder, 'jam-ladle.sqlite'))).toBe('2026-11-24-09-00-00');
    rmSync(join(folder, 'backups', '2026-11-24-09-00-00'), { recursive: true });
    expect(() => prepareRestore(folder, NEWEST, NOW)).toThrow(/no copy is whole\. 2026-11-25.*damaged/);
  });
});
