import type { RegistrableDomain } from '../../core/names/domain';
import { write } from '../../store/base/database';
import { saveCheckpoint } from '../../store/base/jobs';
import { countRows, putReject, type Reject, type SourceCounts } from '../../store/sources/sources';
import { FindTaker } from '../crawl/find-taker';
import { type JobContext, letOthersGo, RateMeter, throwIfStopped } from '../runner/context';

const BATCH = 2000;
const NO_SWITCHES = { leaveOut: [], knownSites: [], excludedEndings: [], briefId: null };
/** Broken rows kept one by one; a file of another kind has millions. The others are counted. */
export const MOST_REJECTS = 10_000;

/** What a pass over a whole file found: domains with what is to be kept of each. */
export interface Found {
  domains: (RegistrableDomain & { said: object })[];
  counts: Omit<SourceCounts, 'domains_new'>;
  /** At most MOST_REJECTS of them are kept. */
  rejects: Reject[];
}

/**
 * Writes what a job found into the pool, a part at a time. The pass over the file is made anew after an interruption, with the
 * same outcome; what is written then goes on where it was, and counts once.
 */
export async function writeFound(
  context: JobContext,
  sourceId: number,
  { domains, counts, rejects }: Found,
  message: string,
  finds = new FindTaker(context.store, sourceId, NO_SWITCHES),
): Promise<void> {
  const { store, job, signal } = context;
  let written = Number(job.checkpoint?.written ?? -1);
  if (written < 0) {
    written = 0;
    write(store, () => {
      for (const reject of rejects.slice(0, MOST_REJECTS)) putReject(store, sourceId, reject);
      countRows(store, sourceId, counts);
      saveCheckpoint(store, job.id, { written });
    });
  }
  const meter = new RateMeter();
  while (written < domains.length) {
    throwIfStopped(signal);
    const part = domains.slice(written, written + BATCH);
    written += part.length;
    const ids = write(store, () => {
      const at = store.now();
      let fresh = 0;
      const put = part.flatMap(({ said, ...domain }) => {
        const { id, isNew, fate } = finds.take(domain, at, null, () => said);
        if (isNew) fresh++;
        return fate === 'out' ? [] : [id];
      });
      countRows(store, sourceId, { domains_new: fresh });
      saveCheckpoint(store, job.id, { written });
      return put;
    });
    context.changed(ids, sourceId);
    context.progress({ done: written, total: domains.length, unit: 'domains', rate: meter.rate(written), message });
    await letOthersGo(store);
  }
}
