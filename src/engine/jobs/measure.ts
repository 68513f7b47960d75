import { z } from 'zod';
import { summarizePast } from '../../core/history/timemap';
import { NetError } from '../../net/errors';
import { HttpClient } from '../../net/http';
import { type Store, write } from '../../store/base/database';
import { pendingPasts, putPast } from '../../store/domains/domains';
import { putCaptureTimes } from '../../store/links/captures';
import { PastReader } from '../history/past-reader';
import { inParallel } from '../lookups/checker';
import { measureLinks } from '../measures/links';
import { type JobContext, RateMeter, throwIfStopped } from '../runner/context';

/** Whose past to ask for: the lapsed domains of a source, or some by id. Links are measured for all. */
export const MeasureParams = z.object({
  sourceId: z.number().optional(),
  ids: z.array(z.number()).optional(),
  /** Pasts that were asked for after this stay, ms since 1970 UTC; absent: the job's beginning. */
  since: z.number().optional(),
  /** Writes the measures of all domains, not only of those that new links reach. */
  all: z.boolean().optional(),
  /** Domains whose measures are written as well. */
  also: z.array(z.number()).default([]),
});

const ARCHIVE_AT_ONCE = 4;

/** The past from the archive, then strength, trust and spam risk from all links known. */
export async function runMeasure(context: JobContext): Promise<void> {
  await measurePast(context);
  const { all = false, also } = MeasureParams.parse(context.job.params);
  measureLinks(context, all, also);
}

async function measurePast(context: JobContext): Promise<void> {
  const { store, job, settings, signal } = context;
  const params = MeasureParams.parse(job.params);
  const wanted = pendingPasts(store, params, params.since ?? job.createdAt);
  const http = new HttpClient({
    userAgent: settings.userAgent,
    connector: store.config.connector,
    allowedPrivate: settings.allowedPrivate,
  });
  // captures are only counted here
  const past = new PastReader(store, settings, http);
  const meter = new RateMeter();
  let done = 0;
  try {
    if (!past.isThere) return;
    await inParallel(wanted, ARCHIVE_AT_ONCE, async ({ id, name }) => {
      throwIfStopped(signal);
      try {
        const { mementos, server } = await past.of(name, signal);
        const times = mementos.map((memento) => memento.at);
        write(store, () => putTimes(store, id, times, server));
        context.changed([id]);
      } catch (error) {
        if (!(error instanceof NetError) || signal.aborted) throw error;
        context.log.warn({ name, error: error.message }, 'the archive gave no answer');
      }
      done++;
      context.progress({
        done,
        total: wanted.length,
        unit: 'domains',
        rate: meter.rate(done),
        message: 'asking the archive',
      });
    });
  } finally {
    await http.close();
  }
}

/** Keeps what a list of captures says by itself. Call inside a write transaction. @param times in order. */
export function putTimes(store: Store, domainId: number, times: number[], server: string): void {
  const past = summarizePast(times);
  putPast(store, domainId, store.now(), {
    firstSeenAt: past?.firstSeenAt ?? null,
    lastSeenAt: past?.lastSeenAt ?? null,
    captures: past?.captures ?? 0,
    byYear: past?.byYear ?? [],
    source: server,
  });
  putCaptureTimes(store, domainId, times);
}
