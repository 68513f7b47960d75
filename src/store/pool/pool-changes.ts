import { createHash } from 'node:crypto';
import { readSettings, type Store, statement, write } from '../base/database';
import { listBriefs } from '../shortlist/briefs';

/** A snapshot of the index holds all that changed so far. Call inside a write transaction. */
export function stampPool(store: Store, stamp: number): void {
  store.raw.exec('DELETE FROM pool_changes');
  statement(store.raw, 'UPDATE pool_stamp SET stamp = ?').run(stamp);
}

/** Domains whose row changed since the snapshot. */
export function changedIds(store: Store): number[] {
  return statement(store.raw, 'SELECT domain_id FROM pool_changes').pluck().all() as number[];
}

export function greatestId(store: Store): number {
  return (statement(store.raw, 'SELECT max(id) FROM domains').pluck().get() as number | null) ?? 0;
}

export function readStamp(store: Store): number {
  return statement(store.raw, 'SELECT stamp FROM pool_stamp').pluck().get() as number;
}

/** What prices depend on. */
export function pricing(store: Store): string {
  const { currency, rates } = readSettings(store);
  return createHash('sha256')
    .update(JSON.stringify([currency, rates]))
    .digest('hex');
}

/** Words that begin many names of the pool and are in no list, and from how many names they were learned. */
export interface CoinedWords {
  words: string[];
  names: number;
}

export function readCoined(store: Store): CoinedWords {
  const row = statement(store.raw, `SELECT value FROM settings WHERE key = 'coined'`).get() as
    | { value: string }
    | undefined;
  return row ? JSON.parse(row.value) : { words: [], names: 0 };
}

export function keepCoined(store: Store, coined: CoinedWords): void {
  write(store, () =>
    statement(
      store.raw,
      `INSERT INTO settings VALUES ('coined', ?) ON CONFLICT(key) DO UPDATE SET value = excluded.value`,
    ).run(JSON.stringify(coined)),
  );
}

/** What the splits of names into words depend on. */
export function splitWords(store: Store): string {
  const briefs = listBriefs(store).map(({ subjectWords }) => subjectWords);
  return createHash('sha256')
    .update(JSON.stringify([briefs, readCoined(store).words]))
    .digest('hex');
}

/** What of each source tells that it named more or less. */
export function sourceStates(store: Store): Record<string, string> {
  const rows = statement(store.raw, 'SELECT id, rows_taken, rows_read, domains_new, undone_at FROM sources ORDER BY id')
    .raw()
    .all() as (number | null)[][];
  return Object.fromEntries(rows.map(([id, ...state]) => [String(id), state.join(' ')]));
}
