import { rescore } from '../../core/spam/scorecard';
import { write } from '../../store/base/database';
import { putSpamCard } from '../../store/links/measures';
import { activePoints, cardsAfter } from '../../store/links/spam-points';
import { type JobContext, letOthersGo, RateMeter, throwIfStopped } from '../runner/context';

const BATCH = 500;

/** Gives every scorecard the points that count now, from the values it holds. Nothing is measured again. */
export async function runRescore(context: JobContext): Promise<void> {
  const { store, signal } = context;
  const points = activePoints(store);
  const meter = new RateMeter();
  let done = 0;
  for (let after = 0; ; ) {
    throwIfStopped(signal);
    const part = cardsAfter(store, after, BATCH);
    if (part.length === 0) break;
    // the values are as old as they were
    write(store, () => {
      for (const { id, at, card } of part) putSpamCard(store, id, rescore(card, points), at);
    });
    after = part[part.length - 1].id;
    done += part.length;
    context.changed(part.map(({ id }) => id));
    context.progress({ done, total: null, unit: 'scorecards', rate: meter.rate(done), message: 'giving new points' });
    await letOthersGo(store);
  }
  context.progress({ done, total: done, unit: 'scorecards', rate: 0, message: 'all have the new points' });
}
