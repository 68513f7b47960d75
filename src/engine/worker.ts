import { setMaxListeners } from 'node:events';
import { parentPort, workerData } from 'node:worker_threads';
import { z } from 'zod';
import { batchBuffers } from '../core/formats/list-batch';
import { openStore, readSettings } from '../store/database';
import { type JobKind, readJob } from '../store/jobs';
import { type JobContext, JobError, Stopped } from './context';
import { runBackup } from './jobs/backup';
import { runCheck } from './jobs/check';
import { runCrawl } from './jobs/crawl';
import { runCut } from './jobs/cut';
import { runIdeasJob } from './jobs/ideas';
import { runInspect } from './jobs/inspect';
import { runLinks } from './jobs/links';
import { runList } from './jobs/list';
import { runMeasure } from './jobs/measure';
import { runRescore } from './jobs/rescore';
import { runSearch } from './jobs/search';
import { runTrial } from './jobs/trial';
import { runUndo } from './jobs/undo';
import { runVenue } from './jobs/venue';
import { runWatch } from './jobs/watch';
import { runZones } from './jobs/zones';
import { openLog } from './log';
import type { FromWorker, ToWorker, WorkerStart } from './protocol';

const RUNS: Record<JobKind, (context: JobContext) => Promise<void>> = {
  list: runList,
  links: runLinks,
  venue: runVenue,
  crawl: runCrawl,
  check: runCheck,
  measure: runMeasure,
  trial: runTrial,
  search: runSearch,
  zones: runZones,
  undo: runUndo,
  watch: runWatch,
  cut: runCut,
  inspect: runInspect,
  rescore: runRescore,
  ideas: runIdeasJob,
  backup: runBackup,
};

async function main(): Promise<void> {
  const port = parentPort;
  if (!port) throw new Error('this file runs as a worker thread of the engine');
  const { folder, jobId } = workerData as WorkerStart;
  const send = (message: FromWorker, buffers: ArrayBuffer[] = []) => port.postMessage(message, buffers);
  const stop = new AbortController();
  setMaxListeners(0, stop.signal); // one listener a request in flight
  port.on('message', (message: ToWorker) => message.type === 'stop' && stop.abort());

  const store = await openStore(folder, { migrate: false });
  const job = readJob(store, jobId);
  if (!job) throw new Error(`there is no job ${jobId}`);
  const log = openLog(folder, 'job').child({ job: jobId, kind: job.kind });
  try {
    await RUNS[job.kind]({
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
  if (error instanceof JobError) return error.message;
  if (error instanceof z.ZodError) return `The job's parameters make no sense: ${z.prettifyError(error)}`;
  const { code, message } = error as NodeJS.ErrnoException;
  if (code === 'SQLITE_FULL' || code === 'ENOSPC') return 'The disk is full. Make space, then resume.';
  if (code === 'ENOENT') return 'The file is no longer there.';
  return `An error stopped the job: ${message}. The log has more.`;
}

void main();
