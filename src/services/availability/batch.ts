import type { ServerQueue } from '../../contracts/lookups';
import type { Store } from '../../store/base/database';
import { waitingNames } from '../../store/lifecycle/suspended-questions';
import { type Batch, funnelOf, queuesOfSource } from '../../store/sources/batches';
import { queueViews } from './queues';

/** A batch as its page and the interface show it. */
export function batchView(store: Store, batch: Batch) {
  const cells = funnelOf(store, batch);
  const queues = queuesOfSource(store, batch.id);
  const own = new Map(
    queues.map(({ server, waiting }) => [server.includes('://') ? new URL(server).host : server, waiting]),
  );
  return {
    id: batch.id,
    name: batch.name,
    at: batch.created_at,
    depth: batch.detail.depth,
    read: batch.rows_read,
    repeated: batch.rows_repeated,
    setAside: batch.rows_set_aside,
    domains: cells.reduce((sum, { count }) => sum + count, 0),
    cells,
    /** Names that cannot be asked now, by what they wait for. */
    waiting: waitingNames(store, { sourceId: batch.id }),
    /** Servers that names of this batch wait for; `mine`: how many of those that wait are of this batch. */
    lanes: queueViews(store, queues).map((queue): ServerQueue & { mine: number } => ({
      ...queue,
      mine: own.get(queue.server) ?? 0,
    })),
  };
}
export type BatchView = ReturnType<typeof batchView>;
