import { z } from 'zod';
import { LEAVE_OUT, LEFT_OUT_AT_FIRST } from './leave-out';
import { patternProblem, QUERY_POLICIES } from './scope';

export const CRAWL_ORDERS = ['expected', 'breadth-first', 'random'] as const;
export const OBEY_OR_NOTE = ['obey', 'note'] as const;

/** The deepest a crawl can be told to go; beyond it is no limit. */
export const DEEPEST = 20;
const DEPTH_WORDS = `the depth is 0 to ${DEEPEST}, or null for no limit`;
export const Depth = z.number().int().min(0, DEPTH_WORDS).max(DEEPEST, DEPTH_WORDS);

/** What of a crawl can be changed while it runs. */
export const CrawlBudgetFields = {
  /** Links from a seed to the deepest page that is read; null: no limit, the budgets are the bound. */
  depth: Depth.nullable(),
  pageBudget: z.number().int().min(1, 'a budget of at least 1 page').max(10_000_000),
  sitePageBudget: z.number().int().min(1).max(10_000_000).nullable(),
  /** Minutes of reading; pauses do not count. */
  minutesBudget: z.number().min(0.01).max(100_000).nullable(),
  /** The crawl ends when the last pages gave fewer finds than this per 1,000. */
  leastFinds: z.number().min(0).max(1000).nullable(),
};
export const CrawlBudgets = z.object({
  depth: CrawlBudgetFields.depth.default(3),
  pageBudget: CrawlBudgetFields.pageBudget.default(2000),
  sitePageBudget: CrawlBudgetFields.sitePageBudget.default(null),
  minutesBudget: CrawlBudgetFields.minutesBudget.default(null),
  leastFinds: CrawlBudgetFields.leastFinds.default(null),
});

const ObeyOrNote = z.enum(OBEY_OR_NOTE);
const PathPattern = z
  .string()
  .min(1)
  .max(1000)
  .superRefine((pattern, context) => {
    const problem = patternProblem(pattern);
    if (problem) context.addIssue({ code: 'custom', message: problem });
  });

/** Cuts of a referrer file: they choose seeds, or what of the file goes to the pool; never what a page may name. */
export const ReferrerCutsSchema = z.object({
  leastStrength: z.number().nullable().default(null),
  seenWithinDays: z.number().min(0).nullable().default(null),
  endingsOut: z.array(z.string()).max(2000).default([]),
  countries: z.array(z.string()).max(300).default([]),
  languages: z.array(z.string()).max(300).default([]),
  family: z
    .union([z.literal(4), z.literal(6)])
    .nullable()
    .default(null),
  keepUnknown: z.boolean().default(true),
});

/** What is left out of the finds of a crawl or cut, each by a switch of its own (leave-out.ts). */
export const FindSwitchFields = {
  leaveOut: z
    .array(z.enum(LEAVE_OUT))
    .max(LEAVE_OUT.length)
    .default([...LEFT_OUT_AT_FIRST]),
  /** Registrable domains that are not wanted: one's own, those everyone links to. */
  knownSites: z.array(z.string()).max(10_000).default([]),
  /** The brief whose unwanted words leave names out; null: none. */
  briefId: z.number().int().nullable().default(null),
};

/** How a crawl goes about it. */
export const CrawlRules = z.object({
  excludedEndings: z.array(z.string()).default([]),
  subdomains: z.enum(['inside', 'outside']).default('inside'),
  query: z.enum(QUERY_POLICIES).default('few'),
  pathsIn: z.array(PathPattern).max(100).default([]),
  pathsOut: z.array(PathPattern).max(100).default([]),
  /** obey: not read. note: read all the same, for sites of one's own. */
  robots: ObeyOrNote.default('obey'),
  /** obey: links inside that are nofollow are not followed. note: followed; no link marked so counts as a vote either way. */
  nofollow: ObeyOrNote.default('note'),
  /** obey: links of pages that are noindex are not taken. note: taken, and not counted. */
  noindex: ObeyOrNote.default('note'),
  /** obey: of a page that names another as its canonical, only that other is read. note: both, and this one not counted. */
  canonical: ObeyOrNote.default('note'),
  order: z.enum(CRAWL_ORDERS).default('expected'),
  ...FindSwitchFields,
});

export const CrawlSeed = z.union([
  z.string(),
  /** `depth` of this seed's site, where it is not the crawl's: 0 reads the page only. */
  z.object({ address: z.string(), depth: Depth }),
]);
export type CrawlSeed = z.infer<typeof CrawlSeed>;

export const CrawlParams = z
  .object({
    seeds: z.array(CrawlSeed).min(1),
    /** Pause between requests to one site; absent: as the settings say. */
    delayMs: z.number().int().min(0).optional(),
    /** First pause before a site that cannot be reached is asked again. */
    retryMs: z.number().int().min(0).default(20_000),
    /** Whether found domains are checked while the crawl goes on. */
    checkAfter: z.boolean().default(true),
  })
  .extend(CrawlBudgets.shape)
  .extend(CrawlRules.shape);
export type CrawlParams = z.infer<typeof CrawlParams>;

/** How deep a crawl goes; Infinity: as deep as there are pages. */
export function depthLimit({ depth }: Pick<CrawlParams, 'depth'>): number {
  return depth ?? Number.POSITIVE_INFINITY;
}
