import type { KeptStep } from '../../core/rebuild/checklist';
import { type Store, statement, write } from '../base/database';

/** Steps of a rebuild that somebody decided on, or added. */
export function rebuildSteps(store: Store, domainId: number): KeptStep[] {
  return statement(
    store.raw,
    'SELECT key, state, words, at AS stepAt FROM rebuild_steps WHERE domain_id = ? ORDER BY key',
  )
    .all(domainId)
    .map((row) => {
      const { stepAt, ...step } = row as Omit<KeptStep, 'at'> & { stepAt: number };
      return { ...step, at: stepAt };
    });
}

/** A decision on a step; null takes it back to what is suggested, and removes an own step. */
export interface StepChange {
  key: string;
  state: KeptStep['state'] | null;
  words?: string | null;
}

/** @returns the steps as they were, for undo. */
export function changeSteps(store: Store, domainId: number, changes: readonly StepChange[]): StepChange[] {
  return write(store, () => {
    const before = new Map(rebuildSteps(store, domainId).map((step) => [step.key, step]));
    const put = statement(store.raw, 'INSERT OR REPLACE INTO rebuild_steps VALUES (?, ?, ?, ?, ?)');
    const drop = statement(store.raw, 'DELETE FROM rebuild_steps WHERE domain_id = ? AND key = ?');
    for (const { key, state, words } of changes)
      if (state === null) drop.run(domainId, key);
      else put.run(domainId, key, state, words ?? before.get(key)?.words ?? null, store.now());
    return changes.map(({ key }) => {
      const known = before.get(key);
      return { key, state: known?.state ?? null, words: known?.words ?? null };
    });
  });
}

/** Readers that linking pages claim, by the address of the domain that they link to. */
export function readersByAddress(store: Store, domainId: number): { url: string; readers: number }[] {
  return statement(
    store.raw,
    `SELECT url, sum(claimed) AS readers FROM (
       SELECT l.to_url AS url, l.from_url, max(p.readers) AS claimed
       FROM (SELECT DISTINCT source_id, from_url, to_url FROM links WHERE to_id = ?) l
         JOIN pages p ON p.source_id = l.source_id AND p.url = l.from_url
       WHERE p.readers > 0 GROUP BY l.to_url, l.from_url) GROUP BY url`,
  ).all(domainId) as { url: string; readers: number }[];
}
