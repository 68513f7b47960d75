import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { z } from 'zod';

const Damage = z.object({
  /** When it was found, ms since 1970 UTC. */
  at: z.number(),
  /** What is damaged, in words: `the table orders (1 page)`. */
  found: z.array(z.string()).min(1),
});
/** What was found to be damaged in the database. It stays known until a copy takes its place. */
export type Damage = z.infer<typeof Damage>;

/** What to do about it. */
export const RESTORE_ADVICE =
  'Put the newest copy that is whole in its place: Settings, Copies of the data folder, or npm start -- --restore. What is there now is kept.';

const FILE = 'damage.json';

/** The damage that is known of a data folder. */
export function readDamage(folder: string): Damage | null {
  const path = join(folder, FILE);
  return existsSync(path) ? Damage.parse(JSON.parse(readFileSync(path, 'utf8'))) : null;
}

export function keepDamage(folder: string, damage: Damage): void {
  const path = join(folder, FILE);
  writeFileSync(`${path}.new`, JSON.stringify(damage), { mode: 0o600 });
  renameSync(`${path}.new`, path);
}

/**
 * Keeps the file of a database as it is: who reads an older state keeps all others from moving the log into it, and they write to the log alone.
 *
 * @returns ends it.
 */
export function holdStill(database: string): () => void {
  const raw = new Database(database, { readonly: true });
  raw.exec('BEGIN');
  raw.prepare('SELECT count(*) FROM sqlite_master').get();
  return () => void raw.close();
}

/** What SQLite itself finds wrong with how a database is built, in its words: empty where it is whole. */
export function faultsOf(database: string): string[] {
  let raw: Database.Database | null = null;
  try {
    raw = new Database(database, { readonly: true, fileMustExist: true });
    const found = z.array(z.string()).parse(raw.prepare('PRAGMA quick_check(20)').pluck().all());
    return found.length === 1 && found[0] === 'ok' ? [] : found;
  } catch (error) {
    return [`it cannot be read: ${(error as Error).message}`];
  } finally {
    raw?.close();
  }
}

/**
 * What stands on pages of a database, in words. Pages that nothing uses are left out: what is on them is never read.
 *
 * @returns empty where all of them are unused.
 */
export function wordsOfPages(database: string, pages: readonly number[]): string[] {
  try {
    const raw = new Database(database, { readonly: true, fileMustExist: true });
    try {
      const rows = z.array(z.object({ name: z.string(), type: z.string(), pages: z.number() })).parse(
        raw
          .prepare(
            `SELECT d.name, coalesce(m.type, 'table') type, count(*) pages FROM dbstat d LEFT JOIN sqlite_master m ON m.name = d.name
               WHERE d.pageno IN (SELECT value FROM json_each(?)) GROUP BY d.name`,
          )
          .all(JSON.stringify(pages)),
      );
      return rows.map(({ name, type, pages: n }) => `the ${type} ${name} (${pagesOf(n)})`);
    } finally {
      raw.close();
    }
  } catch {
    // too damaged to tell what is where
    return [`${pagesOf(pages.length)} of the database`];
  }
}

const pagesOf = (n: number) => (n === 1 ? '1 page' : `${n} pages`);
