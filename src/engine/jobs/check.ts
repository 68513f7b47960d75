import { setTimeout as sleep } from 'node:timers/promises';
import { z } from 'zod';
import { QUESTION_DEPTHS } from '../../core/lifecycle/question-depths';
import type { Store } from '../../store/base/database';
import { leaveQuestions, openQuestions } from '../../store/lifecycle/question-news';
import { countQueuesOf } from '../../store/lifecycle/question-queues';
import { addQuestions, lastPulse, pendingChecks } from '../../store/lifecycle/questions';
import { waitingNames } from '../../store/lifecycle/suspended-questions';
import { writePatiently } from '../database/retry-when-full';
import { hostOf, longWaits } from '../lookups/long-waits';
import { type JobContext, letOthersGo, RateMeter, Stopped } from '../runner/context';

/** What to check: the domains of a source, or some by id; without those whose verdict is from after `since`. */
export const CheckParams = z.object({
  sourceId: z.number().optional(),
  ids: z.array(z.number()).optional(),
  /** ms since 1970 UTC; absent: the job's beginning, or `freshMs` before it. */
  since: z.number().optional(),
  /** Verdicts that are no older are good enough. */
  freshMs: z.number().min(0).optional(),
  depth: z.enum(QUESTION_DEPTHS).default('record'),
  /** A person waits for it: before all others. */
  isRaised: z.boolean().default(false),
});

const CHUNK = 1000;
const LOOK_MS = 150;
/** When nobody was answered for so long the lookups have stopped. */
const STALLED_MS = 90_000;

/**
 * Puts a question for every domain that has no fresh verdict, and stays until they are answered, as far as they can be: what waits for a
 * server that cannot be asked, or for lookups that have stopped, stays open and is said to.
 */
export async function runCheck(context: JobContext, stalledMs = STALLED_MS): Promise<void> {
  const { store, job, signal } = context;
  const params = CheckParams.parse(job.params);
  const pending = pendingChecks(store, params, params.since ?? job.createdAt - (params.freshMs ?? 0));
  const meter = new RateMeter();
  const report = (open: number, message: string) => {
    const done = pending.length - open;
    context.progress({ done, total: pending.length, unit: 'domains', rate: meter.rate(done), message });
  };
  leaveQuestions(store, job.id, false); // of an earlier run; what was said so far is kept
  const startedAt = Date.now();
  try {
    for (let start = 0; start < pending.length && !signal.aborted; start += CHUNK) {
      const ids = pending.slice(start, start + CHUNK);
      await writePatiently(store, signal, () =>
        addQuestions(store, job.id, ids, params.depth, params.isRaised ? 'raised' : 'usual'),
      );
      report(pending.length, 'asking DNS');
      await letOthersGo(store);
    }
    for (;;) {
      if (signal.aborted) throw new Stopped();
      const open = openQuestions(store, job.id);
      const later =
        open === 0
          ? ''
          : whatComesLater(store, job.id, open, Date.now() - Math.max(lastPulse(store), startedAt) > stalledMs);
      if (open === 0 || later !== null) {
        report(open, later ? `all but ${open}: ${later}` : 'every domain has its verdict');
        leaveQuestions(store, job.id, true);
        return;
      }
      report(open, whatIsAsked(store, job.id));
      await sleep(LOOK_MS);
    }
  } catch (error) {
    leaveQuestions(store, job.id, false);
    throw error;
  }
}

/**
 * In words, when all that is open waits: for servers that want to be left alone for long, for some that cannot be asked, or for lookups
 * that have stopped; null: there is more to do now.
 */
function whatComesLater(store: Store, jobId: number, open: number, isStalled: boolean): string | null {
  const suspended = waitingNames(store, { jobId });
  if (suspended.reduce((sum, { names }) => sum + names, 0) === open)
    return `${suspended.map(({ words, names }) => words || `${names} do not answer`).join(' ')} They are asked when it can be.`;
  if (isStalled)
    return 'no answer of anybody for a minute and a half: the lookups have stopped. They are asked when they go on.';
  const waits = longWaits(store, jobId);
  if (!waits) return null;
  const hours = waits.throughMs / 3_600_000;
  const through = hours < 2 ? `${Math.ceil(hours * 60)} min` : `${Math.ceil(hours)} h`;
  return `${waits.servers.join(', ')} answers seldom; they are asked in their turn, through in about ${through}`;
}

function whatIsAsked(store: Store, jobId: number): string {
  const queues = countQueuesOf(store, jobId);
  if (queues.some(({ step }) => step === 'dns')) return 'asking DNS';
  const longest = queues.sort((a, b) => b.waiting - a.waiting)[0];
  return longest ? `asking registries; ${longest.waiting} wait for ${hostOf(longest.server)}` : 'asking registries';
}
