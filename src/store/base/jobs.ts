import type { JOB_KINDS } from '../../core/work/job-kinds';
import { type Store, statement, write, writeIfFree } from './database';

export type JobKind = (typeof JOB_KINDS)[number];
export type JobState = 'queued' | 'running' | 'paused' | 'done' | 'failed' | 'cancelled';

/** What a job says of itself while it runs. */
export interface JobProgress {
  done: number;
  /** null: not known. */
  total: number | null;
  /** What is counted: rows, pages, domains. */
  unit: string;
  /** Units per second of late. */
  rate: number;
  message: string;
}

export interface JobOrder {
  kind: JobKind;
  sourceId: number | null;
  params: Record<string, unknown>;
  /** Jobs to queue when this one is done. */
  next?: JobOrder[];
}

export interface JobRow extends Omit<JobOrder, 'next'> {
  id: number;
  state: JobState;
  progress: JobProgress | null;
  checkpoint: Record<string, unknown> | null;
  error: string | null;
  next: JobOrder[];
  createdAt: number;
  startedAt: number | null;
  finishedAt: number | null;
}

interface Packed {
  id: number;
  kind: JobKind;
  source_id: number | null;
  params: string;
  state: JobState;
  progress: string | null;
  checkpoint: string | null;
  error: string | null;
  next: string | null;
  created_at: number;
  started_at: number | null;
  finished_at: number | null;
}

/**
 * Checks domains, then measures them: the second and third stage of the way from a source to the shortlist. With `since` (ms
 * since 1970 UTC), what was asked after that moment is not asked again.
 */
export function checkAndMeasure(
  which: { sourceId: number; since?: number } | { ids: number[] },
  how: { depth?: 'record' | 'registrar' | 'full'; isRaised?: boolean } = {},
  /** Takes the costly measures, too: by whose wish. */
  inspection: { wantedBy: string; isByHand: boolean } | null = null,
): JobOrder {
  const sourceId = 'sourceId' in which ? which.sourceId : null;
  const inspect: JobOrder[] =
    inspection && 'ids' in which
      ? [{ kind: 'inspect', sourceId: null, params: { ids: which.ids, ...inspection } }]
      : [];
  return {
    kind: 'check',
    sourceId,
    params: { ...which, ...how },
    next: [{ kind: 'measure', sourceId, params: which, next: inspect }],
  };
}

export function addJob(store: Store, order: JobOrder): number {
  return write(store, () =>
    Number(
      statement(
        store.raw,
        `INSERT INTO jobs (kind, source_id, params, state, next, created_at) VALUES (?, ?, ?, 'queued', ?, ?)`,
      ).run(order.kind, order.sourceId, JSON.stringify(order.params), JSON.stringify(order.next ?? []), store.now())
        .lastInsertRowid,
    ),
  );
}

export function readJob(store: Store, id: number): JobRow | null {
  const row = statement(store.raw, 'SELECT * FROM jobs WHERE id = ?').get(id) as Packed | undefined;
  return row ? unpack(row) : null;
}

export function listJobs(store: Store, limit = 100): JobRow[] {
  return (statement(store.raw, 'SELECT * FROM jobs ORDER BY id DESC LIMIT ?').all(limit) as Packed[]).map(unpack);
}

export function jobsOfSource(store: Store, sourceId: number): JobRow[] {
  return (statement(store.raw, 'SELECT * FROM jobs WHERE source_id = ? ORDER BY id').all(sourceId) as Packed[]).map(
    unpack,
  );
}

export function queuedJobs(store: Store): JobRow[] {
  return (statement(store.raw, `SELECT * FROM jobs WHERE state = 'queued' ORDER BY id`).all() as Packed[]).map(unpack);
}

/** After a start: what was running when the process ended goes back into the queue, and on from its checkpoint. */
export function requeueInterrupted(store: Store): number {
  return write(
    store,
    () => statement(store.raw, `UPDATE jobs SET state = 'queued' WHERE state = 'running'`).run().changes,
  );
}

export function setJobState(store: Store, id: number, state: JobState, error: string | null = null): void {
  const time = {
    queued: null,
    paused: null,
    running: 'started_at',
    done: 'finished_at',
    failed: 'finished_at',
    cancelled: 'finished_at',
  }[state];
  write(store, () => {
    statement(store.raw, 'UPDATE jobs SET state = ?, error = ? WHERE id = ?').run(state, error, id);
    if (time) statement(store.raw, `UPDATE jobs SET ${time} = ? WHERE id = ?`).run(store.now(), id);
  });
}

const SAVE_PROGRESS = 'UPDATE jobs SET progress = ? WHERE id = ?';
export function saveProgress(store: Store, id: number, progress: JobProgress): void {
  write(store, () => statement(store.raw, SAVE_PROGRESS).run(JSON.stringify(progress), id));
}

/** The same, unless somebody else is writing: the job will say something newer soon. @returns whether it was kept. */
export function saveProgressIfFree(store: Store, id: number, progress: JobProgress): boolean {
  return writeIfFree(store, () => {
    statement(store.raw, SAVE_PROGRESS).run(JSON.stringify(progress), id);
  });
}

/** Call inside the transaction that writes what the checkpoint stands for. */
export function saveCheckpoint(store: Store, id: number, checkpoint: object): void {
  statement(store.raw, 'UPDATE jobs SET checkpoint = ? WHERE id = ?').run(JSON.stringify(checkpoint), id);
}

/** Keeps one row of what a job found out; the same number again replaces it. */
export function putJobRow(store: Store, jobId: number, seq: number, row: object): void {
  statement(store.raw, 'INSERT OR REPLACE INTO job_rows VALUES (?, ?, ?)').run(jobId, seq, JSON.stringify(row));
}

export function jobRows<T>(store: Store, jobId: number): T[] {
  const rows = statement(store.raw, 'SELECT row FROM job_rows WHERE job_id = ? ORDER BY seq').pluck().all(jobId);
  return (rows as string[]).map((row) => JSON.parse(row) as T);
}

/** Changes what a job was told; it looks at it while it runs. */
export function setJobParams(store: Store, id: number, params: object): void {
  write(store, () => statement(store.raw, 'UPDATE jobs SET params = ? WHERE id = ?').run(JSON.stringify(params), id));
}

function unpack(row: Packed): JobRow {
  return {
    id: row.id,
    kind: row.kind,
    sourceId: row.source_id,
    params: JSON.parse(row.params),
    state: row.state,
    progress: row.progress ? JSON.parse(row.progress) : null,
    checkpoint: row.checkpoint ? JSON.parse(row.checkpoint) : null,
    error: row.error,
    next: row.next ? JSON.parse(row.next) : [],
    createdAt: row.created_at,
    startedAt: row.started_at,
    finishedAt: row.finished_at,
  };
}
