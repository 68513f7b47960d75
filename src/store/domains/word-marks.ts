import type { MARK_VERDICTS } from '../../core/verdict/mark-verdicts';
import { type Store, statement, write } from '../base/database';

/** A word mark that is like a name. */
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
}

/** Replaces what the register said before; what a person decided stays. Call inside a write transaction. */
export function putMarkMatches(store: Store, domainId: number, matches: readonly MarkMatch[], at: number): void {
  statement(store.raw, 'DELETE FROM mark_matches WHERE domain_id = ?').run(domainId);
  const insert = statement(store.raw, 'INSERT OR REPLACE INTO mark_matches VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)');
  for (const { register, number, mark, owner, classes, status, score, why } of matches)
    insert.run(domainId, register, number, mark, owner, classes, status, score, why, at);
}

export function markMatchesOf(store: Store, domainId: number): (MarkMatch & { at: number })[] {
  return statement(
    store.raw,
    `SELECT register, number, mark, owner, classes, status, score, why, at FROM mark_matches WHERE domain_id = ?
     ORDER BY score DESC, mark, number`,
  ).all(domainId) as (MarkMatch & { at: number })[];
}

export function markReviewsOf(store: Store, domainId: number): MarkReview[] {
  return statement(store.raw, 'SELECT at, verdict, note FROM mark_reviews WHERE domain_id = ? ORDER BY id DESC').all(
    domainId,
  ) as MarkReview[];
}

export function addMarkReview(store: Store, domainId: number, verdict: MarkVerdict, note: string): void {
  write(store, () =>
    statement(store.raw, 'INSERT INTO mark_reviews (domain_id, at, verdict, note) VALUES (?, ?, ?, ?)').run(
      domainId,
      store.now(),
      verdict,
      note,
    ),
  );
}
