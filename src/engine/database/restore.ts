import {
  closeSync,
  cpSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { z } from 'zod';
import { Refusal } from '../../core/refusal';
import { copyDatabase } from '../../store/base/copies';
import { BACKUPS } from '../jobs/backup';

/** What a restore brings back. What belongs to the demo's world outside, and its time, goes on. */
const DATABASE = 'jam-ladle.sqlite';
const BESIDE = ['config.json', 'uploads', 'outbox'];
/** What is reckoned from the database, or belongs to the one that is put aside. */
const DERIVED = [
  'jam-ladle.sqlite-wal',
  'jam-ladle.sqlite-shm',
  'jam-ladle.sums',
  'damage.json',
  'walk.bin',
  'pool.snapshot',
  'pool.snapshot.new',
];
const WISH = 'restore.json';
const READY = 'restore.ready';

const Wish = z.object({
  /** Name of the copy. */
  from: z.string(),
  /** Where what is there now is put. */
  aside: z.string(),
});

/** Stands for the newest copy that is whole, where a name of one is wanted. */
export const NEWEST = 'newest';
/** What was put aside by a restore ends so: it may be what was damaged. */
const ASIDE = '-before';

/** A copy that cannot be restored, with why in words. */
export class RestoreRefused extends Refusal {
  constructor(message: string, options: ErrorOptions = {}) {
    super('copy-refused', message, options);
  }
}

/**
 * Makes ready to restore a copy: it is looked at, copied beside, and written down. It takes place when the engine starts the next time
 * (`finishRestore`); until then nothing has changed.
 *
 * @param wanted name of the copy, a folder in `backups`; `newest`: the newest that is whole, without those that a restore put aside.
 * @returns the name of the copy, and the one under which what is there now will be kept, as a copy like any other.
 * @throws RestoreRefused
 */
export function prepareRestore(folder: string, wanted: string, now: number): { name: string; aside: string } {
  if (wanted !== NEWEST) return { name: wanted, aside: prepareCopy(folder, wanted, now) };
  const path = join(folder, BACKUPS);
  const names = existsSync(path) ? readdirSync(path).filter((one) => /^[\w-]+$/.test(one) && !one.endsWith(ASIDE)) : [];
  const problems: string[] = [];
  for (const name of names.sort().reverse())
    try {
      return { name, aside: prepareCopy(folder, name, now) };
    } catch (error) {
      if (!(error instanceof RestoreRefused)) throw error;
      problems.push(`${name}: ${error.message}`);
    }
  throw new RestoreRefused(problems.length === 0 ? 'there is no copy' : `no copy is whole. ${problems.join('; ')}`);
}

function prepareCopy(folder: string, name: string, now: number): string {
  if (!/^[\w-]+$/.test(name)) throw new RestoreRefused('there is no such copy');
  const copy = join(folder, BACKUPS, name);
  const ready = join(folder, READY);
  rmSync(join(folder, WISH), { force: true });
  rmSync(ready, { recursive: true, force: true });
  mkdirSync(ready);
  const problem = copyDatabase(join(copy, DATABASE), join(ready, DATABASE));
  if (problem) {
    rmSync(ready, { recursive: true, force: true });
    throw new RestoreRefused(problem);
  }
  for (const part of BESIDE)
    if (existsSync(join(copy, part))) cpSync(join(copy, part), join(ready, part), { recursive: true });
  sync(join(ready, DATABASE));
  const aside = `${new Date(now).toISOString().slice(0, 19).replace(/[:T]/g, '-')}${ASIDE}`;
  const wish = join(folder, WISH);
  writeFileSync(`${wish}.new`, JSON.stringify({ from: name, aside }));
  sync(`${wish}.new`);
  renameSync(`${wish}.new`, wish);
  return aside;
}

/**
 * Does what `prepareRestore` wrote down, before anything is opened: what is there is put aside as a copy, and the one that is wanted takes
 * its place, file by file. Broken off at any point, it goes on from there the next time.
 *
 * @returns the copy that is in place now; null: none was wanted.
 */
export function finishRestore(folder: string): string | null {
  const path = join(folder, WISH);
  if (!existsSync(path)) return null;
  const { from, aside } = Wish.parse(JSON.parse(readFileSync(path, 'utf8')));
  const ready = join(folder, READY);
  const before = join(folder, BACKUPS, aside);
  mkdirSync(before, { recursive: true });
  // the log goes aside before its database: alone it would be taken for the new one's
  for (const part of DERIVED) moveOnce(join(folder, part), join(before, part));
  for (const part of [DATABASE, ...BESIDE]) {
    // what waits has not taken its place yet
    if (!existsSync(join(ready, part))) continue;
    moveOnce(join(folder, part), join(before, part));
    renameSync(join(ready, part), join(folder, part));
  }
  rmSync(path, { force: true });
  rmSync(ready, { recursive: true, force: true });
  return from;
}

function moveOnce(from: string, to: string): void {
  if (existsSync(from) && !existsSync(to)) renameSync(from, to);
}

function sync(path: string): void {
  const file = openSync(path, 'r+');
  fsyncSync(file);
  closeSync(file);
}
