import { z } from 'zod';
import { JOB_KINDS } from '../../core/work/job-kinds';
import { type Store, write, writeIfFree } from './database';
import { all, first, fromJson, knex, run } from './query';
import type { Row } from './schema';

export type JobKind = (typeof JOB_KINDS)[number];
export type JobState = Row<'jobs'>['state'];

/** What a job says of itself while it runs. */
const JobProgress = z.object({
  done: z.number(),
  /** null: not known. */
  total: z.number().nullable(),
  /** What is counted: rows, pages, domains. */
  unit: z.string(),
  /** Units per second of late. */
  rate: z.number(),
  message: z.string(),
});
export type JobProgress = z.infer<typeof JobProgress>;

const Params = z.record(z.string(), z.unknown());

export interface JobOrder {
  kind: JobKind;
  sourceId: number | null;
  params: Record<string, unknown>;
  /** Jobs to queue when this one is done. */
  next?: JobOrder[];
}
const JobOrder: z.ZodType<JobOrder> = z.object({
  kind: z.enum(JOB_KINDS),
  sourceId: z.number().nullable(),
  params: Params,
  get next() {
    return z.array(JobOrder).optional();
  },
});

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
      run(
        store,
        knex('jobs').insert({
          kind: order.kind,
          source_id: order.sourceId,
          params: JSON.stringify(order.params),
          state: 'queued',
          next: JSON.stringify(order.next ?? []),
          created_at: store.now(),
        }),
      ).lastInsertRowid,
    ),
  );
}

export function readJob(store: Store, id: number): JobRow | null {
  const row = first(store, knex('jobs').select('*').where('id', id));
  return row ? unpack(row) : null;
}

export function listJobs(store: Store, limit = 100): JobRow[] {
  return all(store, knex('jobs').select('*').orderBy('id', 'desc').limit(limit)).map(unpack);
}

export function jobsOfSource(store: Store, sourceId: number): JobRow[] {
  return all(store, knex('jobs').select('*').where('source_id', sourceId).orderBy('id')).map(unpack);
}

export function queuedJobs(store: Store): JobRow[] {
  return all(store, knex('jobs').select('*').where('state', 'queued').orderBy('id')).map(unpack);
}

/** After a start: what was running when the process ended goes back into the queue, and on from its checkpoint. */
export function requeueInterrupted(store: Store): number {
  return write(store, () => run(store, knex('jobs').where('state', 'running').update({ state: 'queued' })).changes);
}

export function setJobState(store: Store, id: number, state: JobState, error: string | null = null): void {
  const time = {
    queued: {},
    paused: {},
    running: { started_at: store.now() },
    done: { finished_at: store.now() },
    failed: { finished_at: store.now() },
    cancelled: { finished_at: store.now() },
  }[state];
  write(store, () =>
    run(
      store,
      knex('jobs')
        .where('id', id)
        .update({ state, error, ...time }),
    ),
  );
}

export function saveProgress(store: Store, id: number, progress: JobProgress): void {
  write(store, () =>
    run(
      store,
      knex('jobs')
        .where('id', id)
        .update({ progress: JSON.stringify(progress) }),
    ),
  );
}

/** The same, unless somebody else is writing: the job will say something newer soon. @returns whether it was kept. */
export function saveProgressIfFree(store: Store, id: number, progress: JobProgress): boolean {
  return writeIfFree(store, () => {
    run(
      store,
      knex('jobs')
        .where('id', id)
        .update({ progress: JSON.stringify(progress) }),
    );
  });
}

/** Call inside the transaction that writes what the checkpoint stands for. */
export function saveCheckpoint(store: Store, id: number, checkpoint: object): void {
  run(
    store,
    knex('jobs')
      .where('id', id)
      .update({ checkpoint: JSON.stringify(checkpoint) }),
  );
}

/** Keeps one row of what a job found out; the same number again replaces it. */
export function putJobRow(store: Store, jobId: number, seq: number, row: object): void {
  run(
    store,
    knex('job_rows')
      .insert({ job_id: jobId, seq, row: JSON.stringify(row) })
      .onConflict(['job_id', 'seq'])
      .merge(),
  );
}

export function jobRows<S extends z.ZodType>(store: Store, jobId: number, row: S): z.infer<S>[] {
  const rows = all(store, knex('job_rows').where('job_id', jobId).orderBy('seq').pluck('row'));
  return rows.map((text) => fromJson(row, text));
}

/** Changes what a job was told; it looks at it while it runs. */
export function setJobParams(store: Store, id: number, params: object): void {
  write(store, () =>
    run(
      store,
      knex('jobs')
        .where('id', id)
        .update({ params: JSON.stringify(params) }),
    ),
  );
}

function unpack(row: Row<'jobs'>): JobRow {
  return {
    id: row.id,
    kind: row.kind,
    sourceId: row.source_id,
    params: fromJson(Params, row.params),
    state: row.state,
    progress: row.progress ? fromJson(JobProgress, row.progress) : null,
    checkpoint: row.checkpoint ? fromJson(Params, row.checkpoint) : null,
    error: row.error,
    next: row.next ? fromJson(z.array(JobOrder), row.next) : [],
    createdAt: row.created_at,
    startedAt: row.started_at,
    finishedAt: row.finished_at,
  };
}
