'use client';

import { toast } from 'sonner';
import type { JobView } from '../contracts/jobs';
import { count, duration } from '../core/wording/format';
import { call } from './api';
import { useLive } from './shell/live';

const KIND_WORDS = {
  list: 'Reading a list',
  venue: 'Reading a venue',
  crawl: 'Crawling',
  links: 'Reading links',
  check: 'Checking',
  measure: 'Measuring',
  trial: 'Trying seeds',
  search: 'Searching',
  zones: 'Comparing zones',
  undo: 'Undoing an import',
  watch: 'Looking for news',
  cut: 'Cutting a link export',
  inspect: 'Measuring in depth',
  rescore: 'Giving new points',
  ideas: 'Making names',
  backup: 'Copying the data folder',
  page: 'Looking at a page',
  finds: 'Sorting finds by their switches',
  figures: 'Asking for figures',
  warc: 'Reading files of web archives',
} as const;

const STATE_WORDS = {
  queued: 'waits for its turn',
  running: 'running',
  paused: 'paused',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
} as const;

export function jobTitle(job: JobView): string {
  return KIND_WORDS[job.kind];
}

/** "431 of 700 pages, 154/s, 2 min left". */
export function progressWords(job: JobView): string {
  const { progress } = job;
  if (!progress) return '';
  const parts = [
    progress.total === null
      ? `${count(progress.done)} ${progress.unit}`
      : `${count(progress.done)} of ${count(progress.total)} ${progress.unit}`,
  ];
  if (job.state === 'running' && progress.rate >= 1) {
    parts.push(`${count(progress.rate)}/s`);
    const left = progress.total === null ? null : ((progress.total - progress.done) / progress.rate) * 1000;
    if (left !== null && left > 2000 && job.kind !== 'crawl') parts.push(`${duration(left)} left`);
  }
  return parts.join(', ');
}

/** One job with its progress and what can be done with it. */
export function JobLine({ job: given }: { job: JobView }) {
  const live = useLive().jobs.get(given.id);
  const job = live ?? given;
  const steer = async (action: 'pause' | 'resume' | 'cancel') => {
    try {
      await call('POST /jobs/{id}/{action}', { params: { id: job.id, action } });
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const share = job.progress?.total ? Math.min(1, job.progress.done / job.progress.total) : 0;
  const isOpen = job.state === 'running' || job.state === 'queued' || job.state === 'paused';
  return (
    <div className="border-t border-rule py-2" data-job={job.kind} data-state={job.state}>
      <div className="flex items-baseline gap-3">
        <span className="font-semibold">{jobTitle(job)}</span>
        <span className="text-muted">{STATE_WORDS[job.state]}</span>
        <span>{progressWords(job)}</span>
        <span className="small">{job.progress?.message}</span>
        <span className="ml-auto flex gap-2">
          {job.state === 'running' && (
            <button type="button" className="quiet" onClick={() => steer('pause')}>
              Pause
            </button>
          )}
          {(job.state === 'paused' || job.state === 'failed') && (
            <button type="button" className="quiet" onClick={() => steer('resume')}>
              Resume
            </button>
          )}
          {isOpen && (
            <button type="button" className="quiet" onClick={() => steer('cancel')}>
              Cancel
            </button>
          )}
        </span>
      </div>
      {job.error && <p className="mt-1">{job.error}</p>}
      {isOpen && job.progress?.total ? (
        <div className="mt-1.5 h-1 bg-faint">
          <div className="mesh-fill h-1 bg-damson" style={{ width: `${share * 100}%` }} />
        </div>
      ) : null}
    </div>
  );
}
