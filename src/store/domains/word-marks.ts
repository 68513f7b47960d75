import type { MARK_VERDICTS } from '../../core/verdict/mark-verdicts';
import { actor } from '../../core/work/actor';
import { type Store, write } from '../base/database';
import { all, knex, run } from '../base/query';

/** A trademark that is like a name. */
export interface MarkMatch {
  register: string;
  number: string;
  mark: string;
  owner: string;
  /** Nice classes, as the register writes them. */
  classes: string;
  status: string;
  /** 0 to 1: how like the name it is, and why. */
  score: number;
  why: string;
}

export type MarkVerdict = (typeof MARK_VERDICTS)[number];

/** What a person decided. */
export interface MarkReview {
  at: number;
  verdict: MarkVerdict;
  note: string;
  who: string;
}

/** Replaces what the register said before; what a person decided stays. Call inside a write transaction. */
export function putMarkMatches(store: Store, domainId: number, matches: readonly MarkMatch[], at: number): void {
  run(store, knex('mark_matches').where('domain_id', domainId).delete());
  for (const { register, number, mark, owner, classes, status, score, why } of matches)
    run(
      store,
      knex('mark_matches')
        .insert({ domain_id: domainId, register, number, mark, owner, classes, status, score, why, at })
        .onConflict(['domain_id', 'register', 'number'])
        .merge(),
    );
}

export function markMatchesOf(store: Store, domainId: number): (MarkMatch & { at: number })[] {
  return all(
    store,
    knex('mark_matches')
      .select('register', 'number', 'mark', 'owner', 'classes', 'status', 'score', 'why', 'at')
      .where('domain_id', domainId)
      .orderBy([{ column: 'score', order: 'desc' }, { column: 'mark' }, { column: 'number' }]),
  );
}

export function markReviewsOf(store: Store, domainId: number): MarkReview[] {
  return all(
    store,
    knex('mark_reviews').select('at', 'verdict', 'note', 'who').where('domain_id', domainId).orderBy('id', 'desc'),
  );
}

export function addMarkReview(store: Store, domainId: number, verdict: MarkVerdict, note: string): void {
  write(store, () =>
    run(store, knex('mark_reviews').insert({ domain_id: domainId, at: store.now(), verdict, note, who: actor() })),
  );
}
