import type { ServerQueue } from '../../contracts/lookups';
import { forecastMs, freshBudget } from '../../core/lifecycle/pace';
import type { Store } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { readBudgets } from '../../store/lifecycle/budgets';
import { countQueues } from '../../store/lifecycle/question-queues';

/** What a server's budget is kept under: its host. */
const hostOf = (server: string) => (server.includes('://') ? new URL(server).host : server);

/** Servers that are or were asked, those with most waiting first. */
export function queueViews(store: Store, only?: { server: string; waiting: number }[]): ServerQueue[] {
  const settings = readSettings(store);
  const budgets = readBudgets(store);
  const waiting = new Map<string, number>();
  for (const { server, waiting: count } of countQueues(store))
    if (server !== '') waiting.set(hostOf(server), (waiting.get(hostOf(server)) ?? 0) + count);
  const hosts = only ? only.map(({ server }) => hostOf(server)) : [...new Set([...waiting.keys(), ...budgets.keys()])];
  const now = Date.now();
  // budgets run on the machine's clock, the rest on the product's
  const shift = store.now() - now;
  return [...new Set(hosts)]
    .map((server): ServerQueue => {
      const declaredMs = settings.paces[server] ?? settings.registryIntervalMs;
      const budget = budgets.get(server) ?? freshBudget({ intervalMs: declaredMs });
      const count = waiting.get(server) ?? 0;
      return {
        server,
        waiting: count,
        intervalMs: budget.intervalMs,
        declaredMs,
        isLearned: budget.learnedMs !== null,
        reason: budget.reason,
        refusedTimes: budget.refusedTimes,
        refusedAt: budget.refusedAt === null ? null : budget.refusedAt + shift,
        pausedUntil: budget.pausedUntil > now ? budget.pausedUntil + shift : null,
        throughAt: count === 0 ? null : store.now() + forecastMs(budget, count, now),
      };
    })
    .sort((a, b) => b.waiting - a.waiting || a.server.localeCompare(b.server));
}
