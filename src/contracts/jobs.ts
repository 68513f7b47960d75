import { z } from 'zod';
import { JOB_KINDS } from '../core/work/job-kinds';

/** A piece of long work as screens show it. Times in ms since 1970 UTC. */
export interface JobView {
  id: number;
  kind:
    | 'list'
    | 'venue'
    | 'crawl'
    | 'links'
    | 'check'
    | 'measure'
    | 'trial'
    | 'search'
    | 'zones'
    | 'undo'
    | 'watch'
    | 'cut'
    | 'inspect'
    | 'page'
    | 'finds'
    | 'rescore'
    | 'ideas'
    | 'backup';
  sourceId: number | null;
  state: 'queued' | 'running' | 'paused' | 'done' | 'failed' | 'cancelled';
  progress: { done: number; total: number | null; unit: string; rate: number; message: string } | null;
  error: string | null;
  createdAt: number;
  startedAt: number | null;
  finishedAt: number | null;
}

export const JobSchema = z.looseObject({
  id: z.number(),
  kind: z.enum(JOB_KINDS),
  state: z.enum(['queued', 'running', 'paused', 'done', 'failed', 'cancelled']),
  error: z.string().nullable(),
});
