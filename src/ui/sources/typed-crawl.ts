import { z } from 'zod';
import { CrawlSchema } from '../../contracts/crawl';
import { LEAVE_OUT, LEFT_OUT_AT_FIRST } from '../../core/crawl/leave-out';
import { lines, number, numberOrNone, sentBy, words } from '../forms/typed';

const noteOrObey = z.enum(['note', 'obey']);

/** What is typed into the options of a crawl; what each may be, the contract says. */
const options = z.object({
  depth: numberOrNone({ isWhole: true }),
  pageBudget: number({ least: 1, isWhole: true }),
  sitePageBudget: numberOrNone({ least: 1, isWhole: true }),
  minutesBudget: numberOrNone({ least: 1, isWhole: true }),
  leastFinds: numberOrNone({ most: 1000 }),
  excludedEndings: words,
  leaveOut: z.array(z.enum(LEAVE_OUT)),
  knownSites: words,
  subdomains: z.enum(['inside', 'outside']),
  query: z.enum(['few', 'all', 'none']),
  pathsIn: lines,
  pathsOut: lines,
  nofollow: noteOrObey,
  noindex: noteOrObey,
  canonical: noteOrObey,
  robots: noteOrObey,
  checkAfter: z.boolean(),
});

/** A crawl whose seeds are chosen beside the form. */
export const TypedCrawlOptions = sentBy(options, CrawlSchema.omit({ seeds: true }));

/** A crawl with its seeds. */
export const TypedCrawl = sentBy(options.extend({ seeds: lines }), CrawlSchema);

/** What stands in the options at first. */
export const crawlValues = (
  excludedEndings: string[],
  { depth = 3, pageBudget = 2000 }: { depth?: number; pageBudget?: number } = {},
): z.input<typeof options> => ({
  depth: String(depth),
  pageBudget: String(pageBudget),
  sitePageBudget: '',
  minutesBudget: '',
  leastFinds: '',
  excludedEndings: excludedEndings.join(', '),
  leaveOut: [...LEFT_OUT_AT_FIRST],
  knownSites: '',
  subdomains: 'inside',
  query: 'few',
  pathsIn: '',
  pathsOut: '',
  nofollow: 'note',
  noindex: 'note',
  canonical: 'note',
  robots: 'obey',
  checkAfter: true,
});
