import { z } from 'zod';
import { PAGE_KINDS } from './content';

/** From the least to the most that is expected. */
const Range = z.object({ low: z.number(), high: z.number() });

/** What a trial says of one seed. */
export const TrialReport = z.object({
  seed: z.string(),
  site: z.string().nullable(),
  /** Whether a crawl of it would get anywhere. */
  works: z.boolean(),
  /** Why not, or what to know; null when all is well. */
  reason: z.string().nullable(),
  status: z.number().nullable(),
  pages: z.number(),
  /** Pages by what they turned out to be. */
  kinds: z.partialRecord(z.enum(PAGE_KINDS), z.number()),
  /** Part of the home page's links that robots.txt forbids, 0 to 1. */
  forbidden: z.number(),
  msPerPage: z.number(),
  delayMs: z.number(),
  /** Links to outside, and distinct outside domains, per page. */
  outsidePerPage: z.number(),
  domains: z.number(),
  /** Outside domains that its pages named; the first of many. */
  names: z.array(z.string()),
  /** By how deep a crawl would go; seconds: reading the site one page at a time. */
  forecasts: z.array(z.object({ depth: z.number(), pages: Range, seconds: Range, domains: Range })),
});
export type TrialReport = z.infer<typeof TrialReport>;
