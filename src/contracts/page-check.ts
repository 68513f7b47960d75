import { z } from 'zod';
import type { LinkVerdict, PageHead } from '../core/crawl/page-look';
import type { JobView } from './jobs';

/** One link of a page that is looked at, as far as it is known. */
export interface CheckedLink extends LinkVerdict {
  phase: string | null;
  /** Known pages that link to a dead one, and to its domain; null: it is not dead. */
  known: { toPage: number; toDomain: number } | null;
}

export interface PageCheckView {
  job: JobView;
  /** null: the page has not been read yet, or could not be. */
  head: PageHead | null;
  links: CheckedLink[];
}

export const PageCheckSchema = z.object({ url: z.string().trim().min(1, 'name a page').max(2000) });
