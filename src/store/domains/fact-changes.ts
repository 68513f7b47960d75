import type { Store } from '../base/database';
import { all, knex, run } from '../base/query';

/** A fact that changed from something known. Values as they are stored. */
export interface FactChange {
  id: number;
  /** ms since 1970 UTC; null: nobody kept when. */
  at: number | null;
  fact: string;
  was: string | number | null;
  becomes: string | number | null;
  who: string | null;
}

/** What facts of a domain were, the latest change first. */
export function factChangesOf(store: Store, domainId: number, limit: number): FactChange[] {
  return all(
    store,
    knex('fact_changes')
      .select('id', 'at', 'fact', 'was', 'becomes', 'who')
      .where('domain_id', domainId)
      .orderBy('id', 'desc')
      .limit(limit),
  );
}

/** Writes down what triggers do not see. Call inside a write transaction. */
export function noteFactChange(store: Store, domainId: number, change: Omit<FactChange, 'id'>): void {
  run(
    store,
    knex('fact_changes').insert({
      domain_id: domainId,
      at: change.at,
      fact: change.fact,
      was: change.was,
      becomes: change.becomes,
      who: change.who,
    }),
  );
}
