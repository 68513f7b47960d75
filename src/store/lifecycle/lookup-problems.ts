import { type Store, statement, write } from '../base/database';

/** Something that keeps questions from being put. */
export interface LookupProblem {
  key: string;
  /** What is wrong, in a sentence. */
  words: string;
  /** What can be done about it. */
  remedy: string;
  /** First and last time in a row, ms since 1970 UTC. */
  since: number;
  lastAt: number;
  times: number;
}

/** Notes a problem; one that is known already goes on. */
export function putLookupProblem(
  store: Store,
  { key, words, remedy }: Pick<LookupProblem, 'key' | 'words' | 'remedy'>,
): void {
  write(store, () =>
    statement(
      store.raw,
      `INSERT INTO lookup_problems VALUES (@key, @words, @remedy, @now, @now, 1)
       ON CONFLICT (key) DO UPDATE SET words = excluded.words, remedy = excluded.remedy, last_at = excluded.last_at, times = times + 1`,
    ).run({ key, words, remedy, now: store.now() }),
  );
}

/** It works again. */
export function clearLookupProblem(store: Store, key: string): void {
  write(store, () => statement(store.raw, 'DELETE FROM lookup_problems WHERE key = ?').run(key));
}

/** All there are, the oldest first. */
export function lookupProblems(store: Store): LookupProblem[] {
  return statement(
    store.raw,
    'SELECT key, words, remedy, since, last_at AS lastAt, times FROM lookup_problems ORDER BY since, key',
  ).all() as LookupProblem[];
}
