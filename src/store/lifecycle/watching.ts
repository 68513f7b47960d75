import { type Store, statement, write } from '../base/database';
import type { DomainRow } from '../domains/domains';
import { addQuestions, NOBODY } from './questions';

/** Why a name is watched: a person wants it, or it is nearly to be had. */
export type WatchReason = 'by hand' | 'near miss';

/** Names whose next look is due are asked for; should the answer get lost, they come again after this. */
const LOST_MS = 86_400_000;
const LOST_DROPPING_MS = 60_000;

/** Watches a name, or not any longer. Call inside a write transaction. @returns whether that is a change. */
export function setWatched(store: Store, id: number, reason: WatchReason | null, at: number): boolean {
  const { raw } = store;
  if (reason === null)
    return (
      statement(
        raw,
        'UPDATE domains SET watched_at = NULL, watch_reason = NULL, ask_at = NULL WHERE id = ? AND watched_at IS NOT NULL',
      ).run(id).changes > 0
    );
  // what is watched by hand stays so, whatever else would watch it
  return (
    statement(
      raw,
      `UPDATE domains SET watched_at = coalesce(watched_at, @at), watch_reason = @reason, ask_at = coalesce(ask_at, @at)
       WHERE id = @id AND (watched_at IS NULL OR (watch_reason = 'near miss' AND @reason = 'by hand'))`,
    ).run({ id, at, reason }).changes > 0
  );
}

/** A name that a person watches and that may drop at this moment. */
const IS_DROPPING = `watch_reason = 'by hand' AND drop_conditional = 0 AND drop_from <= @now AND phase <> 'free'`;

/**
 * Puts a question for watched names whose look is due; what a person watches and drops now goes before everything else that waits.
 *
 * @returns how many.
 */
export function askDue(store: Store, now: number, limit: number): number {
  const due = statement(
    store.raw,
    `SELECT id AS dueId, coalesce(${IS_DROPPING}, 0) AS isDropping FROM domains WHERE ask_at <= @now ORDER BY isDropping DESC, ask_at LIMIT @limit`,
  ).all({ now, limit }) as { dueId: number; isDropping: number }[];
  if (due.length === 0) return 0;
  const ids = (isDropping: number) => due.flatMap((one) => (one.isDropping === isDropping ? [one.dueId] : []));
  write(store, () => {
    const later = statement(store.raw, 'UPDATE domains SET ask_at = ? WHERE id = ?');
    // the answer to a name in its window sets the next look; should it get lost, it is asked again soon
    for (const { dueId, isDropping } of due) later.run(now + (isDropping ? LOST_DROPPING_MS : LOST_MS), dueId);
    addQuestions(store, NOBODY, ids(1), 'record', 'dropping');
    addQuestions(store, NOBODY, ids(0), 'record');
  });
  return due.length;
}

/** Endings of names that a person watches and whose drop windows open within so many ms. */
export function droppingSoon(store: Store, now: number, withinMs: number): { ending: string; from: number }[] {
  return statement(
    store.raw,
    `SELECT ending, min(drop_from) AS "from" FROM domains
     WHERE watched_at IS NOT NULL AND watch_reason = 'by hand' AND drop_conditional = 0 AND drop_from > ? AND drop_from <= ?
     GROUP BY ending`,
  ).all(now, now + withinMs) as { ending: string; from: number }[];
}

/** Watched names, those that should be free soonest first. */
export function watchedDomains(store: Store, isByHand: boolean, limit: number, offset = 0): DomainRow[] {
  return statement(
    store.raw,
    `SELECT * FROM domains WHERE watched_at IS NOT NULL AND (watch_reason = 'by hand' OR NOT ?)
     ORDER BY coalesce(drop_from, drop_at, expires_at, 9e15), id LIMIT ? OFFSET ?`,
  ).all(isByHand ? 1 : 0, limit, offset) as DomainRow[];
}

export function countWatched(store: Store): { byHand: number; nearMisses: number; due: number } {
  return statement(
    store.raw,
    `SELECT coalesce(sum(watch_reason = 'by hand'), 0) AS byHand, coalesce(sum(watch_reason = 'near miss'), 0) AS nearMisses,
       coalesce(sum(ask_at <= ?), 0) AS due FROM domains WHERE watched_at IS NOT NULL`,
  ).get(store.now()) as { byHand: number; nearMisses: number; due: number };
}

/** Names that are watched as near misses, by id. */
export function nearMissIds(store: Store): number[] {
  const rows = statement(
    store.raw,
    `SELECT id AS missId FROM domains WHERE watched_at IS NOT NULL AND watch_reason = 'near miss'`,
  ).all() as { missId: number }[];
  return rows.map(({ missId }) => missId);
}
