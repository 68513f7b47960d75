import { forecastMs, turnAt } from '../../core/lifecycle/pace';
import type { Store } from '../../store/base/database';
import { readBudgets } from '../../store/lifecycle/budgets';
import { countQueuesOf } from '../../store/lifecycle/question-queues';

/** A server that wants to be left alone for longer is not waited for: its questions stay in the queue. */
const PATIENCE_MS = 45_000;

/** What a server's budget is kept under: its host. */
export function hostOf(server: string): string {
  return server.includes('://') ? new URL(server).host : server;
}

/**
 * Whether all that somebody still wants to know waits for servers that want to be left alone for long.
 *
 * @returns those servers, and in how many ms their questions will be through; null: there is more to do now, or nothing left.
 */
export function longWaits(store: Store, jobId: number): { servers: string[]; throughMs: number } | null {
  const budgets = readBudgets(store);
  const now = Date.now();
  let throughMs = 0;
  const servers: string[] = [];
  for (const { step, server, waiting } of countQueuesOf(store, jobId)) {
    const budget = step === 'dns' ? undefined : budgets.get(hostOf(server));
    if (!budget || turnAt(budget, now) - now < PATIENCE_MS) return null;
    throughMs = Math.max(throughMs, forecastMs(budget, waiting, now));
    servers.push(hostOf(server));
  }
  return servers.length > 0 ? { servers, throughMs } : null;
}
