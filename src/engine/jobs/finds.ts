import { maskOf } from '../../core/crawl/leave-out';
import { write } from '../../store/base/database';
import { moveFinds, switchesOf } from '../../store/crawl/find-causes';
import { type JobContext, JobError, letOthersGo, RateMeter, throwIfStopped } from '../runner/context';

const AT_ONCE = 2000;

/** Sorts the finds of a source anew after a person changed its switches. Begun again, it does what is left. */
export async function runFinds(context: JobContext): Promise<void> {
  const { store, job, signal } = context;
  const { sourceId } = job;
  if (sourceId === null) throw new JobError('The source is gone.');
  const mask = maskOf(switchesOf(store, sourceId));
  const meter = new RateMeter();
  const out: number[] = [];
  let moved = 0;
  try {
    for (let last = 0; ; ) {
      throwIfStopped(signal);
      const part = write(store, () => moveFinds(store, sourceId, mask, last, AT_ONCE));
      if (part.last === null) break;
      last = part.last;
      moved += part.back.length + part.out.length;
      out.push(...part.out);
      if (part.back.length > 0) context.changed(part.back, sourceId);
      context.progress({
        done: moved,
        total: null,
        unit: 'domains',
        rate: meter.rate(moved),
        message: 'sorting the finds by the switches',
      });
      await letOthersGo(store);
    }
  } finally {
    // also of a part: what left the pool must not be shown
    if (out.length > 0) context.removed(out, sourceId, false);
  }
}
