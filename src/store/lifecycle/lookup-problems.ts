import { type Store, write } from '../base/database';
import { all, camel, columns, knex, pick, run, sql } from '../base/query';

const LOOKUP_PROBLEMS = columns('lookup_problems');

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
    run(
      store,
      knex('lookup_problems')
        .insert({ key, words, remedy, since: store.now(), last_at: store.now(), times: 1 })
        .onConflict('key')
        .merge({
          words: sql('excluded.words'),
          remedy: sql('excluded.remedy'),
          last_at: sql('excluded.last_at'),
          times: sql('times + 1'),
        }),
    ),
  );
}

/** It works again. */
export function clearLookupProblem(store: Store, key: string): void {
  write(store, () => run(store, knex('lookup_problems').where('key', key).delete()));
}

/** All there are, the oldest first. */
export function lookupProblems(store: Store): LookupProblem[] {
  return all(
    store,
    pick(
      knex('lookup_problems'),
      camel(LOOKUP_PROBLEMS, 'key', 'words', 'remedy', 'since', 'last_at', 'times'),
    ).orderBy([{ column: 'since' }, { column: 'key' }]),
  );
}
