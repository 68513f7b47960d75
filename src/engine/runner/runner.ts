import { EventEmitter } from 'node:events';
import type { Worker } from 'node:worker_threads';
import type { Logger } from 'pino';
import { isBusy, isFull, type Store, write } from '../../store/base/database';
import {
  addJob,
  type JobKind,
  type JobOrder,
  type JobRow,
  type JobState,
  queuedJobs,
  readJob,
  requeueInterrupted,
  saveProgress,
  saveProgressIfFree,
  setJobState,
} from '../../store/base/jobs';
import type { FromWorker, WorkerStart } from '../protocol';
import { startThread } from './threads';

/** Jobs of one kind that run at the same time. */
const AT_ONCE: Record<JobKind, number> = {
  list: 1,
  links: 1,
  venue: 1,
  crawl: 2,
  check: 1,
  measure: 1,
  trial: 2,
  search: 2,
  zones: 1,
  undo: 1,
  watch: 2,
  cut: 1,
  inspect: 1,
  rescore: 1,
  ideas: 1,
  backup: 1,
  page: 4,
  finds: 1,
  figures: 2,
  warc: 1,
};
const SAVE_PROGRESS_MS = 1000;

interface Running {
  worker: Worker;
  kind: JobKind;
  /** What the job becomes when it stops on request; null: nobody asked. */
  wanted: 'paused' | 'cancelled' | 'queued' | null;
  savedAt: number;
  job: JobRow;
}

/** Runs jobs in worker threads, so that one that burns or dies takes nothing with it. Emits `job` with every change. */
export class JobRunner extends EventEmitter<{
  job: [JobRow];
  changed: [ids: Uint32Array, source: number | null];
  added: [message: Extract<FromWorker, { type: 'added' }>];
  removed: [message: Extract<FromWorker, { type: 'removed' }>];
  crashed: [];
}> {
  /** What the engine is asked is counted here; long work makes way for it. */
  readonly questions = new SharedArrayBuffer(4);
  private readonly running = new Map<number, Running>();
  private closing = false;
  private later: NodeJS.Timeout | null = null;

  constructor(
    private readonly store: Store,
    private readonly log: Logger,
  ) {
    super();
  }

  get runningCount(): number {
    return this.running.size;
  }

  /** Takes up what an earlier process left. */
  start(): void {
    const count = requeueInterrupted(this.store);
    if (count > 0) this.log.info({ count }, 'going on with interrupted jobs');
    this.fill();
  }

  add(order: JobOrder): JobRow {
    const id = addJob(this.store, order);
    const job = this.announce(id);
    this.fill();
    return job;
  }

  /** Whether a job of a kind waits or runs. */
  isBusyWith(kind: JobKind): boolean {
    return (
      queuedJobs(this.store).some((job) => job.kind === kind) ||
      [...this.running.values()].some((one) => one.kind === kind)
    );
  }

  /** Adds a job unless one that waits or runs would do the very same. */
  addOnce(order: JobOrder): void {
    const params = JSON.stringify(order.params);
    const isSame = (job: JobRow) => job.kind === order.kind && JSON.stringify(job.params) === params;
    if (queuedJobs(this.store).some(isSame) || [...this.running.values()].some(({ job }) => isSame(job))) return;
    this.add(order);
  }

  /** @returns the job after the change, or why it cannot be made. */
  steer(id: number, action: 'pause' | 'resume' | 'cancel'): JobRow | string {
    const job = readJob(this.store, id);
    if (!job) return 'There is no such job.';
    const entry = this.running.get(id);
    if (action === 'resume') {
      if (job.state !== 'paused' && job.state !== 'failed')
        return `The job is ${job.state}; only a paused or failed one can be resumed.`;
      setJobState(this.store, id, 'queued');
      const resumed = this.announce(id);
      this.fill();
      return resumed;
    }
    if (['done', 'failed', 'cancelled'].includes(job.state)) return `The job is ${job.state} already.`;
    const wanted = action === 'pause' ? 'paused' : 'cancelled';
    if (entry) {
      entry.wanted = wanted;
      entry.worker.postMessage({ type: 'stop' });
      return job;
    }
    setJobState(this.store, id, wanted);
    return this.announce(id);
  }

  /** Stops all jobs at a safe point; they go on at the next start. */
  async close(): Promise<void> {
    this.closing = true;
    await Promise.all(
      [...this.running.values()].map(
        (entry) =>
          new Promise<void>((resolve) => {
            entry.wanted ??= 'queued';
            entry.worker.once('exit', () => resolve());
            entry.worker.postMessage({ type: 'stop' });
            setTimeout(() => void entry.worker.terminate(), 5000).unref();
          }),
      ),
    );
  }

  private fill(): void {
    if (this.closing) return;
    for (const job of queuedJobs(this.store)) {
      const busy = [...this.running.values()].filter((entry) => entry.kind === job.kind).length;
      if (busy >= AT_ONCE[job.kind] || this.running.has(job.id)) continue;
      if (this.unlessUnwritable(() => setJobState(this.store, job.id, 'running'))) this.launch(job);
      else {
        this.fillLater();
        return;
      }
    }
  }

  private fillLater(): void {
    if (this.later !== null) return;
    this.later = setTimeout(() => {
      this.later = null;
      this.fill();
    }, SAVE_PROGRESS_MS).unref();
  }

  private launch(job: JobRow): void {
    const start: WorkerStart = { folder: this.store.folder, jobId: job.id, questions: this.questions };
    const worker = startThread('runner/worker', 'worker', {
      workerData: start,
      // a crawl makes short-lived objects by the thousand a page: a roomy nursery lets them die before anybody looks
      resourceLimits: { maxOldGenerationSizeMb: 2048, ...(job.kind === 'crawl' && { maxYoungGenerationSizeMb: 192 }) },
    });
    const entry: Running = { worker, kind: job.kind, wanted: null, savedAt: 0, job: { ...job, state: 'running' } };
    this.running.set(job.id, entry);
    let ending: { state: JobState; error: string | null } | null = null;
    worker.on('message', (message: FromWorker) => {
      if (message.type === 'progress') this.noteProgress(entry, message.progress);
      else if (message.type === 'order') this.order(message.order);
      else if (message.type === 'changed') this.emit('changed', message.ids, message.source);
      else if (message.type === 'added') this.emit('added', message);
      else if (message.type === 'removed') this.emit('removed', message);
      else if (message.type === 'failed') ending = { state: 'failed', error: message.message };
      else ending = { state: message.outcome === 'done' ? 'done' : (entry.wanted ?? 'queued'), error: null };
    });
    worker.on('error', (error) => {
      this.log.error({ err: error, job: job.id }, 'a worker died');
      ending = {
        state: 'failed',
        error: `The worker died: ${error.message}. Resume to go on from the last step on disk.`,
      };
      this.emit('crashed');
    });
    worker.on('exit', () => {
      const { state, error } = ending ?? {
        state: 'failed' as const,
        error: 'The worker ended without a word. Resume to go on.',
      };
      this.finish(entry, state, error);
    });
    this.announce(job.id);
  }

  /** Writes how a job ended, when there is space for it, and goes on with what comes after. */
  private finish(entry: Running, state: JobState, error: string | null): void {
    const { id, progress, next } = entry.job;
    // what comes after is there when its end is, or neither
    const isWritten = this.unlessUnwritable(() =>
      write(this.store, () => {
        if (progress) saveProgress(this.store, id, progress);
        setJobState(this.store, id, state, error);
        if (state === 'done') for (const order of next) addJob(this.store, order);
      }),
    );
    if (!isWritten) {
      if (!this.closing) setTimeout(() => this.finish(entry, state, error), SAVE_PROGRESS_MS);
      return;
    }
    this.running.delete(id);
    this.announce(id);
    for (const job of queuedJobs(this.store)) this.emit('job', job);
    this.fill();
  }

  /** A full disk, or somebody who writes for long, must not end the engine. @returns false when it could not be written now. */
  private unlessUnwritable(act: () => void): boolean {
    try {
      act();
      return true;
    } catch (error) {
      if (!isFull(error) && !isBusy(error)) throw error;
      this.log.warn(isFull(error) ? 'the disk is full' : 'somebody else writes for long');
      return false;
    }
  }

  /** Adds a job that another orders, as soon as it can be written down. */
  private order(order: JobOrder): void {
    if (this.unlessUnwritable(() => this.addOnce(order)) || this.closing) return;
    setTimeout(() => this.order(order), SAVE_PROGRESS_MS);
  }

  private noteProgress(entry: Running, progress: JobRow['progress']): void {
    if (!progress) return;
    entry.job = { ...entry.job, progress };
    const now = performance.now();
    if (now - entry.savedAt > SAVE_PROGRESS_MS)
      this.unlessUnwritable(() => {
        // waiting for a writer here would keep every question to the pool waiting
        if (saveProgressIfFree(this.store, entry.job.id, progress)) entry.savedAt = now;
      });
    this.emit('job', entry.job);
  }

  private announce(id: number): JobRow {
    const job = readJob(this.store, id);
    if (!job) throw new Error(`job ${id} vanished`);
    this.emit('job', job);
    return job;
  }
}
