import { setMaxListeners } from 'node:events';
import { parentPort, workerData } from 'node:worker_threads';
import { z } from 'zod';
import { batchBuffers } from '../../core/formats/list-batch';
import { Refusal } from '../../core/refusal';
import { openStore } from '../../store/base/database';
import { type JobKind, readJob } from '../../store/base/jobs';
import { readSettings } from '../../store/base/settings';
import { openLog } from '../log';
import type { FromWorker, ToWorker, WorkerStart } from '../protocol';
import { heedQuestions, type JobContext, Stopped } from './context';

/** Each kind's code is read when it is asked for: a job that needs little of it begins a quarter of a second sooner. */
const RUNS: Record<JobKind, () => Promise<(context: JobContext) => Promise<void>>> = {
  list: async () => (await import('../jobs/list')).runList,
  links: async () => (await import('../jobs/links')).runLinks,
  venue: async () => (await import('../jobs/venue')).runVenue,
  crawl: async () => (await import('../jobs/crawl')).runCrawl,
  check: async () => (await import('../jobs/check')).runCheck,
  measure: async () => (await import('../jobs/measure')).runMeasure,
  trial: async () => (await import('../jobs/trial')).runTrial,
  search: async () => (await import('../jobs/search')).runSearch,
  zones: async () => (await import('../jobs/zones')).runZones,
  undo: async () => (await import('../jobs/undo')).runUndo,
  watch: async () => (await import('../jobs/watch')).runWatch,
  cut: async () => (await import('../jobs/cut')).runCut,
  inspect: async () => (await import('../jobs/inspect')).runInspect,
  rescore: async () => (await import('../jobs/rescore')).runRescore,
  ideas: async () => (await import('../jobs/ideas')).runIdeasJob,
  page: async () => (await import('../jobs/page')).runPage,
  finds: async () => (await import('../jobs/finds')).runFinds,
  figures: async () => (await import('../jobs/figures')).runFigures,
  warc: async () => (await import('../jobs/warc')).runWarc,
  backup: async () => (await import('../jobs/backup')).runBackup,
};

async function main(): Promise<void> {
  const port = parentPort;
  if (!port) throw new Error('this file runs as a worker thread of the engine');
  const { folder, jobId, questions } = workerData as WorkerStart;
  heedQuestions(questions);
  const send = (message: FromWorker, buffers: ArrayBuffer[] = []) => port.postMessage(message, buffers);
  const stop = new AbortController();
  setMaxListeners(0, stop.signal); // one listener a request in flight
  port.on('message', (message: ToWorker) => message.type === 'stop' && stop.abort());

  const store = await openStore(folder, { migrate: false, isWorker: true });
  const job = readJob(store, jobId);
  if (!job) throw new Error(`there is no job ${jobId}`);
  const log = openLog(folder, 'job').child({ job: jobId, kind: job.kind });
  try {
    const run = await RUNS[job.kind]();
    await run({
      store,
      job,
      settings: readSettings(store),
      signal: stop.signal,
      log,
      progress: (progress) => send({ type: 'progress', progress }),
      order: (order) => send({ type: 'order', order }),
      changed: (ids, source) => send({ type: 'changed', ids: Uint32Array.from(ids), source: source ?? null }),
      removed: (ids, source, isSourceGone) =>
        send({ type: 'removed', ids: Uint32Array.from(ids), source, isSourceGone }),
      added: (batch, { ids, isNew }, source) =>
        send({ type: 'added', batch, ids, isNew, source }, [
          ...batchBuffers(batch),
          ids.buffer as ArrayBuffer,
          isNew.buffer as ArrayBuffer,
        ]),
    });
    send({ type: 'ended', outcome: stop.signal.aborted ? 'stopped' : 'done' });
  } catch (error) {
    if (error instanceof Stopped || stop.signal.aborted) send({ type: 'ended', outcome: 'stopped' });
    else {
      log.error({ err: error }, 'the job failed');
      send({ type: 'failed', message: messageFor(error) });
    }
  } finally {
    await store.close();
    port.close();
  }
}

function messageFor(error: unknown): string {
  if (error instanceof Refusal) return error.message;
  if (error instanceof z.ZodError) return `The job's parameters make no sense: ${z.prettifyError(error)}`;
  const { code, message } = error as NodeJS.ErrnoException;
  if (code === 'SQLITE_FULL' || code === 'ENOSPC') return 'The disk is full. Make space, then resume.';
  if (code === 'ENOENT') return 'The file is no longer there.';
  return `An error stopped the job: ${message}. The log has more.`;
}

void main();
