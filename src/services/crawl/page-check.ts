import { z } from 'zod';
import { LinkVerdictSchema, PageHeadSchema } from '../../contracts/crawl';
import type { PageCheckView } from '../../contracts/page-check';
import type { Store } from '../../store/base/database';
import { jobRows, readJob } from '../../store/base/jobs';
import { knownLinks } from '../../store/crawl/pages';
import { findDomain } from '../../store/domains/domains';
import { jobView } from '../pool/views';

/** What is kept of a look at a page, row by row: the page, then each of its links. */
const PageRow = z.union([z.object({ head: PageHeadSchema }), z.object({ link: LinkVerdictSchema })]);

/** A look at a page as far as it has come; null when there is none of this number. */
export function pageCheckView(store: Store, id: number): PageCheckView | null {
  const job = readJob(store, id);
  if (job?.kind !== 'page') return null;
  const rows = jobRows(store, id, PageRow);
  const head = rows.flatMap((row) => ('head' in row ? [row.head] : [])).at(0) ?? null;
  const links = rows.flatMap((row) => ('link' in row ? [row.link] : []));
  return {
    job: jobView(job),
    head,
    links: links.map((link) => {
      const row = link.state === 'dead' && link.domain !== null ? findDomain(store, link.domain) : null;
      return {
        ...link,
        phase: row && row.phase_at !== null ? row.phase : null,
        known: link.state === 'dead' ? knownLinks(store, link.url, link.domain) : null,
      };
    }),
  };
}
