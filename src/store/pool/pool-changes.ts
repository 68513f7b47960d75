import { createHash } from 'node:crypto';
import { z } from 'zod';
import type { Store } from '../base/database';
import { all, knex, run, the } from '../base/query';
import { keepValue, readKept, readSettings } from '../base/settings';
import { listBriefs } from '../shortlist/briefs';

/** A snapshot of the index holds all that changed so far. Call inside a write transaction. */
export function stampPool(store: Store, stamp: number): void {
  run(store, knex('pool_changes').delete());
  run(store, knex('pool_stamp').update({ stamp }));
}

/** Domains whose row changed since the snapshot. */
export function changedIds(store: Store): number[] {
  return all(store, knex('pool_changes').pluck('domain_id'));
}

export function readStamp(store: Store): number {
  return the(store, knex('pool_stamp').pluck('stamp'));
}

/** What prices depend on. */
export function pricing(store: Store): string {
  const { currency, rates } = readSettings(store);
  return createHash('sha256')
    .update(JSON.stringify([currency, rates]))
    .digest('hex');
}

/** Words that begin many names of the pool and are in no list, and from how many names they were learned. */
const CoinedWords = z.object({ words: z.array(z.string()), names: z.number() });
export type CoinedWords = z.infer<typeof CoinedWords>;

export function readCoined(store: Store): CoinedWords {
  return readKept(store, 'coined', CoinedWords) ?? { words: [], names: 0 };
}

export function keepCoined(store: Store, coined: CoinedWords): void {
  keepValue(store, 'coined', coined);
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
  const rows = all(
    store,
    knex('sources').select('id', 'rows_taken', 'rows_read', 'domains_new', 'undone_at').orderBy('id'),
  );
  return Object.fromEntries(
    rows.map(({ id, ...row }) => [
      String(id),
      [row.rows_taken, row.rows_read, row.domains_new, row.undone_at].join(' '),
    ]),
  );
}
