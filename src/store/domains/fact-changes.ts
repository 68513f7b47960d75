import { type Store, statement } from '../base/database';

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
  return statement(
    store.raw,
    'SELECT id, at, fact, was, becomes, who FROM fact_changes WHERE domain_id = ? ORDER BY id DESC LIMIT ?',
  ).all(domainId, limit) as FactChange[];
}

/** Writes down what triggers do not see. Call inside a write transaction. */
export function noteFactChange(store: Store, domainId: number, change: Omit<FactChange, 'id'>): void {
  statement(
    store.raw,
    'INSERT INTO fact_changes (domain_id, at, fact, was, becomes, who) VALUES (?, ?, ?, ?, ?, ?)',
  ).run(domainId, change.at, change.fact, change.was, change.becomes, change.who);
}
