import { existsSync } from 'node:fs';
import Database from 'better-sqlite3';
import { faultsOf } from './damage';
import type { Store } from './database';
import { changedPages, keepSums, readSums } from './page-sums';

/**
 * Copies the database of a copy of a data folder whole, with what its log still holds. All of it is held against its sums first, or, where
 * it has none, looked through by SQLite.
 *
 * @returns why it cannot be taken; null: it is there.
 */
export function copyDatabase(from: string, to: string): string | null {
  if (!existsSync(from)) return 'there is no such copy';
  let raw: Database.Database | null = null;
  try {
    const sums = readSums(from);
    const changed = sums ? changedPages(from, sums) : [];
    if (changed.length > 0) return `the copy is damaged: ${changed.length} of its pages are not what was written`;
    const [fault] = sums ? [] : faultsOf(from);
    if (fault) return `the copy is damaged: ${fault}`;
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

/**
 * Copies the open database into a file that is not there yet, as it stands at this moment, and sums of its pages beside it.
 *
 * @throws where the copy is not whole.
 */
export function copyOpen(store: Store, to: string): void {
  store.raw.prepare('VACUUM INTO ?').run(to);
  const [fault] = faultsOf(to);
  if (fault) throw new Error(`the copy is not whole: ${fault}`);
  keepSums(to);
}
