import type { ListBatch } from '../core/formats/list-batch';
import type { JobOrder, JobProgress, JobRow } from '../store/base/jobs';

/** What the runner tells a worker thread. `stop` asks it to come to a safe point and end. */
export type ToWorker = { type: 'stop' };

/** What a worker thread tells the runner. */
export type FromWorker =
  | { type: 'progress'; progress: JobProgress }
  | { type: 'order'; order: JobOrder }
  /** Domains whose rows were written; `source` when a source newly named them. Sent after the commit. */
  | { type: 'changed'; ids: Uint32Array; source: number | null }
  /** Rows of a list; those that are new (1 in `isNew`) with all their values. */
  | { type: 'added'; batch: ListBatch; ids: Uint32Array; isNew: Uint8Array; source: number }
  /** Domains that left the pool; `isSourceGone` when the source names none any more. Sent after the commit. */
  | { type: 'removed'; ids: Uint32Array; source: number; isSourceGone: boolean }
  | { type: 'ended'; outcome: 'done' | 'stopped' }
  | { type: 'failed'; message: string };

export interface WorkerStart {
  folder: string;
  jobId: number;
  /** Where the engine counts what it is asked (way.ts). */
  questions: SharedArrayBuffer;
}

/** Sent to browsers as it happens. */
export type EngineEvent =
  | { type: 'job'; job: JobRow }
  | { type: 'pool'; version: number; size: number }
  | { type: 'orders'; at: number };
