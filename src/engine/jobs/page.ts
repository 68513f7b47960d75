import { z } from 'zod';
import type { PageRow } from '../../core/crawl/page-look';
import { write } from '../../store/base/database';
import { putJobRow } from '../../store/base/jobs';
import { checkPage, PageCheckError } from '../crawl/page-check';
import { type JobContext, JobError, RateMeter } from '../runner/context';

export const PageParams = z.object({ url: z.string().trim().min(1).max(2000) });

const GATHER_MS = 150;

/** Looks at one page; each link's row is written as it is known. */
export async function runPage(context: JobContext): Promise<void> {
  const { store, job } = context;
  const { url } = PageParams.parse(job.params);
  const meter = new RateMeter();
  let rows = new Map<number, PageRow>();
  const save = () => {
    if (rows.size === 0) return;
    const fresh = rows;
    rows = new Map();
    write(store, () => {
      for (const [seq, row] of fresh) putJobRow(store, job.id, seq, row);
    });
  };
  const timer = setInterval(save, GATHER_MS);
  try {
    await checkPage(context, url, {
      head: (head, links) => {
        rows.set(0, { head });
        for (const [index, link] of links.entries()) rows.set(index + 1, { link });
        save();
      },
      link: (index, link) => rows.set(index + 1, { link }),
      progress: (done, total, message) =>
        context.progress({ done, total, unit: 'links', rate: meter.rate(done), message }),
    });
  } catch (error) {
    if (error instanceof PageCheckError) throw new JobError(error.message);
    throw error;
  } finally {
    clearInterval(timer);
    save();
  }
}
