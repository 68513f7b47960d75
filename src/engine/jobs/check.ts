import { z } from 'zod';
import { pendingChecks } from '../../store/domains';
import { Checker, inParallel } from '../checker';
import { type JobContext, RateMeter, throwIfStopped } from '../context';

/** What to check: the domains of a source, or some by id; without those whose verdict is from after `since`. */
export const CheckParams = z.object({
  sourceId: z.number().optional(),
  ids: z.array(z.number()).optional(),
  /** ms since 1970 UTC; absent: the job's beginning. */
  since: z.number().optional(),
});

const DNS_AT_ONCE = 64;
const CHUNK = 500;

/** Asks DNS, then the registries, about every domain that has no fresh verdict. */
export async function runCheck(context: JobContext): Promise<void> {
  const { store, job, signal } = context;
  const params = CheckParams.parse(job.params);
  const candidates = pendingChecks(store, params, params.since ?? job.createdAt);
  const meter = new RateMeter();
  let done = 0;
  const checker = new Checker(context, ({ id }) => {
    context.changed([id]);
    done++;
  });
  const report = (message: string) =>
    context.progress({ done, total: candidates.length, unit: 'domains', rate: meter.rate(done), message });

  try {
    report('asking DNS');
    for (let start = 0; start < candidates.length; start += CHUNK) {
      await inParallel(candidates.slice(start, start + CHUNK), DNS_AT_ONCE, async (candidate) => {
        throwIfStopped(signal);
        await checker.ask(candidate);
      });
      report('asking DNS');
    }
    const timer = setInterval(() => report(checker.laneMessage()), 500);
    try {
      await checker.drained();
    } finally {
      clearInterval(timer);
    }
    report('every domain has its verdict');
  } finally {
    await checker.close();
  }
  throwIfStopped(signal);
}
