import type { Budget } from '../../core/lifecycle/pace';
import { type Store, statement } from '../base/database';

/** What is known of how often servers may be asked, by server. */
export function readBudgets(store: Store): Map<string, Budget> {
  const rows = statement(store.raw, 'SELECT server, budget FROM budgets').all() as { server: string; budget: string }[];
  return new Map(rows.map(({ server, budget }) => [server, JSON.parse(budget) as Budget]));
}

/** Call inside a write transaction. */
export function putBudget(store: Store, server: string, budget: Budget): void {
  statement(store.raw, 'INSERT OR REPLACE INTO budgets VALUES (?, ?, ?)').run(
    server,
    JSON.stringify(budget),
    store.now(),
  );
}

/** A server is asked as declared again. Call inside a write transaction. */
export function forgetBudget(store: Store, server: string): void {
  statement(store.raw, 'DELETE FROM budgets WHERE server = ?').run(server);
}
