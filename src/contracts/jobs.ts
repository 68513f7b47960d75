import { z } from 'zod';
import { JOB_KINDS } from '../core/work/job-kinds';
import type { Calls } from './call';

/** What a job says of itself while it runs. */
export const JobProgressSchema = z.object({
  done: z.number(),
  /** null: not known. */
  total: z.number().nullable(),
  /** What is counted: rows, pages, domains. */
  unit: z.string(),
  /** Units per second of late. */
  rate: z.number(),
  message: z.string(),
});

/** A job to be queued; `next` are begun when it is done. */
export interface JobOrder {
  kind: (typeof JOB_KINDS)[number];
  sourceId: number | null;
  params: Record<string, unknown>;
  next?: JobOrder[];
}
export const JobOrderSchema: z.ZodType<JobOrder> = z.object({
  kind: z.enum(JOB_KINDS),
  sourceId: z.number().int().nullable(),
  params: z.record(z.string(), z.unknown()),
  get next() {
    return z.array(JobOrderSchema).optional();
  },
});

export const JobRowSchema = z.object({
  id: z.number(),
  state: z.enum(['queued', 'running', 'paused', 'done', 'failed', 'cancelled']),
  progress: JobProgressSchema.nullable(),
  checkpoint: z.record(z.string(), z.unknown()).nullable(),
  error: z.string().nullable(),
  next: z.array(JobOrderSchema),
  createdAt: z.number(),
  startedAt: z.number().nullable(),
  finishedAt: z.number().nullable(),
  sourceId: z.number().nullable(),
  params: z.record(z.string(), z.unknown()),
  kind: z.enum(JOB_KINDS),
});
export type JobRow = z.infer<typeof JobRowSchema>;

/** A piece of long work as screens show it. Times in ms since 1970 UTC. */
export const JobViewSchema = z
  .object({
    id: z.number(),
    kind: z.enum(JOB_KINDS),
    sourceId: z.number().nullable(),
    state: z.enum(['queued', 'running', 'paused', 'done', 'failed', 'cancelled']),
    progress: z
      .object({
        done: z.number(),
        total: z.number().nullable(),
        unit: z.string(),
        rate: z.number(),
        message: z.string(),
      })
      .nullable(),
    error: z.string().nullable(),
    createdAt: z.number(),
    startedAt: z.number().nullable(),
    finishedAt: z.number().nullable(),
  })
  .meta({ id: 'Job' });
export type JobView = z.infer<typeof JobViewSchema>;

export const jobsCalls = {
  'GET /jobs/{id}/rows': {
    summary: 'What a trial or a search found out so far',
    answer: z.object({
      job: JobViewSchema,
      params: z.record(z.string(), z.unknown()),
      rows: z.array(z.unknown()),
    }),
  },
  'GET /jobs': {
    summary: 'The last hundred jobs',
    answer: z.object({
      jobs: z.array(JobViewSchema),
    }),
  },
  'GET /jobs/{id}': {
    summary: 'One job',
    answer: JobViewSchema,
  },
  'POST /jobs/{id}/{action}': {
    summary: 'pause, resume or cancel a job',
    answer: JobViewSchema,
  },
} satisfies Calls;
