import { Budget } from '../../core/lifecycle/pace';
import type { Store } from '../base/database';
import { all, fromJson, knex, run } from '../base/query';

/** What is known of how often servers may be asked, by server. */
export function readBudgets(store: Store): Map<string, Budget> {
  const rows = all(store, knex('budgets').select('server', 'budget'));
  return new Map(rows.map(({ server, budget }) => [server, fromJson(Budget, budget)]));
}

/** Call inside a write transaction. */
export function putBudget(store: Store, server: string, budget: Budget): void {
  run(
    store,
    knex('budgets')
      .insert({ server, budget: JSON.stringify(budget), updated_at: store.now() })
      .onConflict(['server'])
      .merge(),
  );
}

/** A server is asked as declared again. Call inside a write transaction. */
export function forgetBudget(store: Store, server: string): void {
  run(store, knex('budgets').where('server', server).delete());
}
