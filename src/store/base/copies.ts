import { existsSync } from 'node:fs';
import Database from 'better-sqlite3';
import type { Store } from './database';

/**
 * Copies the database of a copy of a data folder whole, with what its log still holds. Reads all of it, so that damage shows.
 *
 * @returns why it cannot be taken; null: it is there.
 */
export function copyDatabase(from: string, to: string): string | null {
  if (!existsSync(from)) return 'there is no such copy';
  let raw: Database.Database | null = null;
  try {
    raw = new Database(from, { fileMustExist: true });
    const tables = raw.prepare(`SELECT count(*) FROM sqlite_master WHERE name IN ('domains', 'briefs')`).pluck().get();
    if (tables !== 2) return 'it is no copy of a data folder';
    raw.prepare('VACUUM INTO ?').run(to);
    return null;
  } catch (error) {
    return `the copy cannot be read: ${(error as Error).message}`;
  } finally {
    raw?.close();
  }
}

/** Copies the open database into a file that is not there yet, as it stands at this moment. */
export function copyOpen(store: Store, to: string): void {
  store.raw.prepare('VACUUM INTO ?').run(to);
}
