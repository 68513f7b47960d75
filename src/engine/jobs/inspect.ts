import { z } from 'zod';
import { loadLanguages } from '../../core/history/language';
import { type MeasurePlan, planMeasures } from '../../core/measures/plan';
import { write } from '../../store/base/database';
import { saveCheckpoint } from '../../store/base/jobs';
import { forwarders, withoutRanks } from '../../store/links/inspections';
import {
  doneMeasured,
  type QueuedCandidate,
  queuedCandidates,
  spend,
  spentToday,
  wantMeasured,
} from '../../store/links/measure-queue';
import { keptLapsedTargets } from '../../store/links/referring';
import { activePoints } from '../../store/links/spam-points';
import { inParallel } from '../lookups/checker';
import { Inspector, rowOf } from '../measures/inspector';
import { scoreAgain } from '../measures/score';
import { makeSplitter } from '../pool/splitter';
import { type JobContext, RateMeter, throwIfStopped } from '../runner/context';

/** Domains to put into the queue first, and by whose wish. */
export const InspectParams = z.object({
  ids: z.array(z.number().int()).default([]),
  wantedBy: z.string().default('by hand'),
  isByHand: z.boolean().default(false),
});

const DOMAINS_AT_ONCE = 4;
/** Of the queue, so many are planned at a time: what comes in meanwhile by hand goes ahead of the rest. */
const PLANNED = 24;

/**
 * Takes the costly measures of what waits for them, the most promising first, as long as the day's budget lasts; what a person asked for
 * is measured beyond it. Each domain leaves the queue when it is done, so an interruption costs the one at hand.
 */
export async function runInspect(context: JobContext): Promise<void> {
  const { store, settings, signal } = context;
  const { ids, wantedBy, isByHand } = InspectParams.parse(context.job.params);
  if (!context.job.checkpoint) {
    write(store, () => {
      wantMeasured(store, ids, wantedBy, isByHand, store.now());
      saveCheckpoint(store, context.job.id, { queued: ids.length });
    });
  }
  const inspector = new Inspector(context, makeSplitter(store), await loadLanguages());
  const base = { settings, points: activePoints(store), lapsedTargets: keptLapsedTargets(store) };
  const meter = new RateMeter();
  let done = 0;
  let passed = 0;
  let charged = 0;
  try {
    for (;;) {
      throwIfStopped(signal);
      const part = nextPart(context);
      if (part.length === 0) break;
      await inParallel(part, DOMAINS_AT_ONCE, async ({ candidate, plan }) => {
        throwIfStopped(signal);
        const row = rowOf(context, candidate.id);
        if (row && plan.measures.length > 0) await inspector.inspect(row, plan.measures);
        const cost = inspector.requests - charged;
        charged = inspector.requests;
        const at = store.now();
        write(store, () => {
          const after = plan.measures.length > 0 ? rowOf(context, candidate.id) : null;
          if (after) scoreAgain(store, after, base, at);
          spend(store, cost, at);
          doneMeasured(store, candidate.id);
        });
        context.changed([candidate.id]);
        if (plan.measures.length > 0) done++;
        else passed++;
        context.progress({
          done,
          total: null,
          unit: 'domains',
          rate: meter.rate(done),
          message: `${candidate.name}: ${plan.why}; ${inspector.requests.toLocaleString('en')} requests so far`,
        });
      });
    }
  } finally {
    await inspector.close();
  }
  // what a forwarder shows together with its target, and ranks of domains out of the pool, come with the links
  const also = withoutRanks(store);
  if (also.length > 0 || forwarders(store).some(({ isReckoned }) => !isReckoned))
    context.order({ kind: 'measure', sourceId: null, params: { ids: [], also } });
  const spent = spentToday(store, store.now());
  const left = passed > 0 ? `, ${passed.toLocaleString('en')} had nothing due or did not pass the gate` : '';
  const message = `${inspector.requests.toLocaleString('en')} requests${left}; ${spent.toLocaleString('en')} of ${settings.measureBudget.toLocaleString('en')} of today's budget are spent`;
  context.progress({ done, total: done, unit: 'domains', rate: 0, message });
}

/** The next of the queue with their plans; of those that nobody asked for by hand, only what today's budget still bears. */
function nextPart({ store, settings }: JobContext): { candidate: QueuedCandidate; plan: MeasurePlan }[] {
  const now = store.now();
  let left = settings.measureBudget - spentToday(store, now);
  const planned = queuedCandidates(store, PLANNED)
    .map((candidate) => ({ candidate, plan: planMeasures(candidate, settings.measureGate, now) }))
    .sort((a, b) => b.plan.worth - a.plan.worth);
  return planned.filter(({ candidate, plan }) => {
    if (candidate.isByHand || plan.cost === 0) return true;
    left -= plan.cost;
    return left >= 0;
  });
}
