import { setMaxListeners } from 'node:events';
import pino from 'pino';
import { SOURCE_KINDS } from '../../core/formats/source-kinds';
import type { Store } from '../../store/base/database';
import { addJob, type JobKind, type JobOrder, type JobProgress, readJob } from '../../store/base/jobs';
import { readSettings } from '../../store/base/settings';
import { addSource, type SourceKind } from '../../store/sources/sources';
import { LookupScheduler } from '../lookups/scheduler';
import type { JobContext } from '../runner/context';

/** Answers the questions of a store, as the engine's thread does. @returns how to stop it. */
export function startLookups(store: Store): () => Promise<void> {
  const lookups = new LookupScheduler(store, pino({ level: 'silent' }), () => undefined);
  lookups.start();
  return () => lookups.stop();
}

export interface Trial {
  context: JobContext;
  sourceId: number;
  progress: JobProgress[];
  changed: Set<number>;
  removed: Set<number>;
  orders: JobOrder[];
  stop: AbortController;
}

/** A job and its context, for a run function to be called with. `again` runs an earlier job once more. */
export function trial(store: Store, kind: JobKind, params: Record<string, unknown>, again?: Trial): Trial {
  const sourceId =
    again?.sourceId ??
    addSource(
      store,
      (SOURCE_KINDS as readonly string[]).includes(kind) ? (kind as SourceKind) : 'list',
      `trial ${kind}`,
      {},
    );
  const id = again?.context.job.id ?? addJob(store, { kind, sourceId, params });
  const job = readJob(store, id);
  if (!job) throw new Error('the job was not kept');
  const stop = new AbortController();
  setMaxListeners(0, stop.signal);
  const progress: JobProgress[] = [];
  const changed = new Set<number>();
  const removed = new Set<number>();
  const orders: JobOrder[] = [];
  const context: JobContext = {
    store,
    job,
    settings: { ...readSettings(store), allowedPrivate: ['127.0.0.1'], crawlDelayMs: 0 },
    signal: stop.signal,
    log: pino({ level: 'silent' }),
    progress: (entry) => progress.push(entry),
    order: (order) => orders.push(order),
    changed: (ids) => {
      for (const entry of ids) changed.add(entry);
    },
    removed: (ids) => {
      for (const entry of ids) removed.add(entry);
    },
    added: (_batch, { ids }, source) => context.changed(ids, source),
  };
  return { context, sourceId, progress, changed, removed, orders, stop };
}
