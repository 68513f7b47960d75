import type { KeptStep } from '../../core/rebuild/checklist';
import { type Store, write } from '../base/database';
import { all, knex, pick, run, sql } from '../base/query';

/** Steps of a rebuild that somebody decided on, or added. */
export function rebuildSteps(store: Store, domainId: number): KeptStep[] {
  return all(
    store,
    knex('rebuild_steps').select('key', 'state', 'words', 'at').where('domain_id', domainId).orderBy('key'),
  );
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
    for (const { key, state, words } of changes)
      if (state === null) run(store, knex('rebuild_steps').where({ domain_id: domainId, key }).delete());
      else {
        const row = {
          domain_id: domainId,
          key,
          state,
          words: words ?? before.get(key)?.words ?? null,
          at: store.now(),
        };
        run(store, knex('rebuild_steps').insert(row).onConflict(['domain_id', 'key']).merge());
      }
    return changes.map(({ key }) => {
      const known = before.get(key);
      return { key, state: known?.state ?? null, words: known?.words ?? null };
    });
  });
}

/** Readers that linking pages claim, by the address of the domain that they link to. */
export function readersByAddress(store: Store, domainId: number): { url: string; readers: number }[] {
  const claims = knex(knex('links').distinct('source_id', 'from_url', 'to_url').where('to_id', domainId).as('l'))
    .join('pages as p', (on) => on.on('p.source_id', 'l.source_id').on('p.url', 'l.from_url'))
    .where('p.readers', '>', 0)
    .groupBy('l.to_url', 'l.from_url')
    .select({ url: 'l.to_url', claimed: knex.raw('max(p.readers)') });
  return all(
    store,
    pick(knex(claims.as('c')), { url: sql<string>('c.url'), readers: sql<number>('sum(c.claimed)') }).groupBy('c.url'),
  );
}
