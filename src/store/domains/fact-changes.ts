import type { Store } from '../base/database';
import { all, first, knex, run } from '../base/query';

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

/** Who gave a domain the mark that it has; null: it has none, or that was not kept. */
export function judgedBy(store: Store, domainId: number): string | null {
  const last = first(
    store,
    knex('fact_changes')
      .select('who', 'becomes')
      .where({ domain_id: domainId, fact: 'judged' })
      .orderBy('id', 'desc')
      .limit(1),
  );
  return last === undefined || last.becomes === null ? null : last.who;
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
