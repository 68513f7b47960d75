import type { WATCH_REASONS } from '../../core/lifecycle/watch-reasons';
import { type Store, write } from '../base/database';
import { all, camel, columns, knex, pick, prepared, run, sql, the } from '../base/query';
import { type DomainRow, measuredDomains } from '../domains/domains';
import { addQuestions, NOBODY } from './questions';

const DOMAINS = columns('domains');

export type WatchReason = (typeof WATCH_REASONS)[number];

/** Names whose next look is due are asked for; should the answer get lost, they come again after this. */
const LOST_MS = 86_400_000;
const LOST_DROPPING_MS = 60_000;

/** Watches a name, or not any longer. Call inside a write transaction. @returns whether that is a change. */
export function setWatched(store: Store, id: number, reason: WatchReason | null, at: number): boolean {
  if (reason === null)
    return (
      run(
        store,
        knex('domains')
          .where('id', id)
          .whereNotNull('watched_at')
          .update({ watched_at: null, watch_reason: null, ask_at: null }),
      ).changes > 0
    );
  // what is watched by hand stays so, whatever else would watch it
  return (
    run(
      store,
      knex('domains')
        .where('id', id)
        .whereRaw("(watched_at IS NULL OR (watch_reason = 'near miss' AND ? = 'by hand'))", [reason])
        .update({
          watched_at: sql('coalesce(watched_at, ?)', [at]),
          watch_reason: reason,
          ask_at: sql('coalesce(ask_at, ?)', [at]),
        }),
    ).changes > 0
  );
}

const ASK_LATER = prepared(({ id, at }: { id: number; at: number }) =>
  knex('domains').where('id', id).update({ ask_at: at }),
);

/**
 * Puts a question for watched names whose look is due; what a person watches and drops now goes before everything else that waits.
 *
 * @returns how many.
 */
export function askDue(store: Store, now: number, limit: number): number {
  const due = all(
    store,
    pick(knex('domains'), {
      dueId: DOMAINS.id,
      isDropping: sql<0 | 1>(
        "coalesce(watch_reason = 'by hand' AND drop_conditional = 0 AND drop_from <= ? AND phase <> 'free', 0)",
        [now],
      ),
    })
      .where('ask_at', '<=', now)
      .orderBy([{ column: 'isDropping', order: 'desc' }, { column: 'ask_at' }])
      .limit(limit),
  );
  if (due.length === 0) return 0;
  const ids = (isDropping: number) => due.flatMap((one) => (one.isDropping === isDropping ? [one.dueId] : []));
  write(store, () => {
    // the answer to a name in its window sets the next look; should it get lost, it is asked again soon
    for (const { dueId, isDropping } of due)
      ASK_LATER.run(store, { id: dueId, at: now + (isDropping ? LOST_DROPPING_MS : LOST_MS) });
    addQuestions(store, NOBODY, ids(1), 'record', 'dropping');
    addQuestions(store, NOBODY, ids(0), 'record');
  });
  return due.length;
}

/** Endings of names that a person watches and whose drop windows open within so many ms. */
export function droppingSoon(store: Store, now: number, withinMs: number): { ending: string; from: number }[] {
  return all(
    store,
    pick(knex('domains'), { ...camel(DOMAINS, 'ending'), from: sql<number>('min(drop_from)') })
      .whereNotNull('watched_at')
      .where({ watch_reason: 'by hand', drop_conditional: 0 })
      .where('drop_from', '>', now)
      .where('drop_from', '<=', now + withinMs)
      .groupBy('ending'),
  );
}

/** Watched names, those that should be free soonest first. */
export function watchedDomains(store: Store, isByHand: boolean, limit: number, offset = 0): DomainRow[] {
  const watched = measuredDomains().whereNotNull('d.watched_at');
  const wanted = isByHand ? watched.where('d.watch_reason', 'by hand') : watched;
  return all(
    store,
    wanted.orderByRaw('coalesce(d.drop_from, d.drop_at, d.expires_at, 9e15), d.id').limit(limit).offset(offset),
  );
}

export function countWatched(store: Store): { byHand: number; nearMisses: number; due: number } {
  return the(
    store,
    pick(knex('domains'), {
      byHand: sql<number>("coalesce(sum(watch_reason = 'by hand'), 0)"),
      nearMisses: sql<number>("coalesce(sum(watch_reason = 'near miss'), 0)"),
      due: sql<number>('coalesce(sum(ask_at <= ?), 0)', [store.now()]),
    }).whereNotNull('watched_at'),
  );
}

/** Names that are watched as near misses, by id. */
export function nearMissIds(store: Store): number[] {
  const rows = all(
    store,
    pick(knex('domains'), { missId: DOMAINS.id }).whereNotNull('watched_at').where('watch_reason', 'near miss'),
  );
  return rows.map(({ missId }) => missId);
}
