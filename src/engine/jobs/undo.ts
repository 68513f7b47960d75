import { z } from 'zod';
import { ratesOf } from '../../core/settings/settings';
import { write } from '../../store/base/database';
import { saveCheckpoint } from '../../store/base/jobs';
import { type UndoCounts, undoPart, undoRest } from '../../store/domains/undo';
import { dropSomeLinks } from '../../store/links/links';
import { readSource } from '../../store/sources/sources';
import { type JobContext, JobError, letOthersGo, RateMeter, throwIfStopped } from '../runner/context';

const Checkpoint = z.object({ after: z.number(), left: z.number(), named: z.number(), shortlisted: z.number() });

const AT_ONCE = 2000;
const LINKS_AT_ONCE = 20_000;

/** Takes back an import as a whole: what it named, said, offered and linked. Goes on where it was after an interruption. */
export async function runUndo(context: JobContext): Promise<void> {
  const { store, job, settings, signal } = context;
  const sourceId = job.sourceId;
  const source = sourceId === null ? null : readSource(store, sourceId);
  if (sourceId === null || !source) throw new JobError('There is nothing to undo.');
  const { after, ...counts } = Checkpoint.catch({ after: 0, left: 0, named: 0, shortlisted: 0 }).parse(job.checkpoint);
  const removed: number[] = [];
  const meter = new RateMeter();
  let last = after;
  try {
    for (;;) {
      throwIfStopped(signal);
      const part = write(store, () => {
        const undone = undoPart(store, sourceId, last, AT_ONCE, store.now(), ratesOf(settings));
        add(counts, undone);
        saveCheckpoint(store, job.id, { after: undone.last ?? last, ...counts });
        return undone;
      });
      if (part.last === null) break;
      last = part.last;
      removed.push(...part.removed);
      context.changed(part.changed);
      const done = counts.left + counts.named + counts.shortlisted;
      context.progress({
        done,
        total: Math.max(done, Number(source.detail.domains ?? source.rows_taken)),
        unit: 'domains',
        rate: meter.rate(done),
        message: 'taking back what it said',
      });
      await letOthersGo(store);
    }
    let links = 0;
    for (let dropped = -1; dropped !== 0; links += dropped) {
      throwIfStopped(signal);
      dropped = write(store, () => dropSomeLinks(store, sourceId, LINKS_AT_ONCE));
      await letOthersGo(store);
    }
    write(store, () => undoRest(store, sourceId, counts));
    if (links > 0) context.order({ kind: 'measure', sourceId: null, params: {} });
  } finally {
    // also of a part: a domain that is out of the pool must not be shown
    context.removed(removed, sourceId, true);
  }
}

function add(counts: UndoCounts, part: UndoCounts): void {
  counts.left += part.left;
  counts.named += part.named;
  counts.shortlisted += part.shortlisted;
}
