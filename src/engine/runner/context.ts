import type { Logger } from 'pino';
import type { ListBatch } from '../../core/formats/list-batch';
import { Refusal } from '../../core/refusal';
import type { Settings } from '../../core/settings/settings';
import { isWriteWanted, type Store } from '../../store/base/database';
import type { JobOrder, JobProgress, JobRow } from '../../store/base/jobs';
import type { WrittenBatch } from '../../store/sources/lists.sql';
import { Way } from './way';

/** What a job has to work with. */
export interface JobContext {
  store: Store;
  job: JobRow;
  settings: Settings;
  /** Aborts when the job is to pause, be cancelled or the engine ends. */
  signal: AbortSignal;
  log: Logger;
  progress(progress: JobProgress): void;
  /** Asks for another job. One that waits or runs already with the same parameters is not added again. */
  order(order: JobOrder): void;
  /** Tells the pool which rows were written. Call after the commit. */
  changed(ids: Iterable<number>, source?: number): void;
  /** Tells the pool of domains that left it, and whether the source names none any more. Call after the commit. */
  removed(ids: Iterable<number>, source: number, isSourceGone: boolean): void;
  /** Tells the pool of rows of a list that were written, with what they hold. The batch is handed over. */
  added(batch: ListBatch, written: Pick<WrittenBatch, 'ids' | 'isNew'>, source: number): void;
}

/** Thrown by a job that stopped at a safe point because it was asked to. */
export class Stopped extends Error {
  constructor() {
    super('stopped');
    this.name = 'Stopped';
  }
}

/** An error whose message is written for the person who started the job. */
export class JobError extends Refusal {
  constructor(message: string, options: ErrorOptions = {}) {
    super('job-refused', message, options);
  }
}

export function throwIfStopped(signal: AbortSignal): void {
  if (signal.aborted) throw new Stopped();
}

/** Who waits looks every other millisecond. */
const GAP_MS = 4;
const MOST_GAPS = 5;

/** Of this thread; null where nobody counts questions. */
let way: Way | null = null;

/** From now on long work of this thread rests while many ask. @param questions counted by the engine. */
export function heedQuestions(questions: SharedArrayBuffer): void {
  way = new Way(questions);
}

/**
 * Between two transactions of long work: messages come in, who waits to write gets to it, a few of them if need be, and while many ask
 * they get half of the processor.
 */
export async function letOthersGo(store: Store): Promise<void> {
  await new Promise((resolve) => setImmediate(resolve));
  for (let gap = 0; gap < MOST_GAPS && isWriteWanted(store); gap++)
    await new Promise((resolve) => setTimeout(resolve, GAP_MS));
  const rest = way?.restMs() ?? 0;
  if (rest > 0) await new Promise((resolve) => setTimeout(resolve, rest));
  way?.goesOn();
}

/** Units per second over the last ten seconds or so. */
export class RateMeter {
  private marks: [at: number, done: number][] = [];

  rate(done: number, now = performance.now()): number {
    this.marks.push([now, done]);
    while (this.marks.length > 2 && now - this.marks[0][0] > 10_000) this.marks.shift();
    const [since, before] = this.marks[0];
    return now > since ? ((done - before) / (now - since)) * 1000 : 0;
  }
}
