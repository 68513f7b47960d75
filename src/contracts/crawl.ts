import { z } from 'zod';
import { seedAddress } from '../core/crawl/address';
import { PAGE_KINDS } from '../core/crawl/content';
import { LEAVE_OUT } from '../core/crawl/leave-out';
import type { LinkVerdict, PageHead } from '../core/crawl/page-look';
import {
  CrawlBudgetFields,
  CrawlBudgets,
  CrawlRules,
  Depth,
  FindSwitchFields,
  ReferrerCutsSchema,
} from '../core/crawl/params';
import { UNREAD_CAUSES } from '../core/crawl/unread';
import { REFERRER_FIELDS } from '../core/formats/referrer-fields';
import type { Calls } from './call';
import { JobViewSchema } from './jobs';
import { Endings, Upload } from './parts';
import { ReferrerPreviewSchema, SiteYieldSchema, SourceRowSchema, StartedSchema } from './sources';

const Seed = z
  .string()
  .max(2000)
  .refine((text) => seedAddress(text) !== null, {
    error: (issue) => `"${String(issue.input).slice(0, 80)}" is no web address`,
  });

export const CrawlSchema = z
  .object({
    name: z.string().trim().max(120).optional(),
    seeds: z
      .array(z.union([Seed, z.object({ address: Seed, depth: Depth })]))
      .min(1, 'name at least one seed')
      .max(10_000),
    /** Check and measure what is found, while the crawl goes on. */
    checkAfter: z.boolean().default(true),
  })
  .extend(CrawlBudgets.shape)
  .extend(CrawlRules.shape)
  .extend({
    excludedEndings: Endings.default([]),
  });

/** Which switches leave domains out of the finds of a source. */
export const FindSwitchesSchema = z.object({ leaveOut: FindSwitchFields.leaveOut });

/** What can be changed of a crawl while it runs. */
export const CrawlChangeSchema = z
  .object(CrawlBudgetFields)
  .partial()
  .extend({
    /** Sites that are read no further. */
    drop: z.array(z.string().max(253)).max(1000).default([]),
  });

export const TrialSchema = z.object({
  seeds: z.array(Seed).min(1, 'name at least one seed').max(10_000),
  delayMs: z.number().int().min(0).max(600_000).optional(),
});

export const SearchSchema = z.object({
  /** Address of an OpenSearch description; absent: the one of the settings. */
  engine: z.url({ protocol: /^https?$/ }).optional(),
  phrases: z.array(z.string().trim().min(1).max(200)).min(1, 'name at least one phrase').max(200),
  perPhrase: z.number().int().min(1).max(100).default(20),
});

export const ReferrerLookSchema = z.object({
  upload: Upload,
  columns: z.array(z.enum(REFERRER_FIELDS)).max(500).optional(),
  cuts: ReferrerCutsSchema.prefault({}),
});

export const ReferrersSchema = z.object({
  upload: Upload,
  name: z.string().trim().min(1).max(120),
  columns: z.array(z.enum(REFERRER_FIELDS)).min(1).max(500),
  cuts: ReferrerCutsSchema.prefault({}),
  to: z.enum(['seeds', 'pool']),
});

export const DeadTargetSchema = z.object({
  url: z.string(),
  domain: z.string(),
  status: z.number().nullable(),
  /** What the server said, or that none answered. */
  outcome: z.string(),
  checkedAt: z.number(),
  /** Pages and domains known to link to the address. */
  pages: z.number(),
  domains: z.number(),
});

export const PageHeadSchema = z.object({
  url: z.string(),
  title: z.string(),
  contact: z.string().nullable(),
  readers: z.number().nullable(),
  inside: z.number(),
}) satisfies z.ZodType<PageHead>;

export const LinkVerdictSchema = z.object({
  url: z.string(),
  anchor: z.string(),
  nofollow: z.boolean(),
  before: z.string(),
  after: z.string(),
  domain: z.string().nullable(),
  state: z.enum(['waiting', 'unsure', 'refused', 'working', 'redirected', 'dead']),
  gone: z.enum(['domain', 'page']).nullable(),
  status: z.number().nullable(),
  detail: z.string(),
  asked: z.number(),
}) satisfies z.ZodType<LinkVerdict>;

export const CrawlCountsSchema = z.object({
  queued: z.number(),
  beyond: z.number(),
  done: z.number(),
  skipped: z.number(),
  failed: z.number(),
});

/** Of one switch: whether it is on, how many domains it would keep out by itself, and how many are out that no other switch keeps out. */
export const SwitchCountSchema = z.object({
  cause: z.enum(LEAVE_OUT),
  isOn: z.boolean(),
  would: z.number(),
  alone: z.number(),
});
export type SwitchCount = z.infer<typeof SwitchCountSchema>;

export const FunnelSchema = z.object({
  pagesRead: z.number(),
  linksOut: z.number(),
  /** Distinct domains that the pages name: in the pool, left out and set aside. */
  named: z.number(),
  /** Left out by a switch, and what each switch would keep out. */
  leftOut: z.number(),
  switches: z.array(SwitchCountSchema),
  setAside: z.array(
    z.object({
      reason: z.string(),
      domains: z.number(),
      example: z.string(),
    }),
  ),
  inPool: z.number(),
  /** In the pool before this source named them. */
  knownBefore: z.number(),
  askedDns: z.number(),
  delegated: z.number(),
  askedRegistry: z.number(),
  lapsed: z.number(),
  /** Of the lapsed, those of which only a list says so yet. */
  lapsedByList: z.number(),
  waiting: z.number(),
  measured: z.number(),
});

export const TrapSchema = z.object({
  site: z.string(),
  kind: z.string(),
  reason: z.string(),
  example: z.string(),
  addresses: z.number(),
});

/** A seed that was not read. */
export const UnreadSeedSchema = z.object({
  url: z.string(),
  site: z.string(),
  cause: z.enum(UNREAD_CAUSES).nullable(),
  /** What the server said, or why it was not asked. */
  note: z.string(),
});

export const CrawlSampleSchema = z.object({
  at: z.number(),
  pages: z.number(),
  queued: z.number(),
  domains: z.number(),
  finds: z.number(),
});
export type CrawlSample = z.infer<typeof CrawlSampleSchema>;

export const crawlCalls = {
  'POST /sources/crawls': {
    summary: 'Crawl sites for the domains they link to',
    body: CrawlSchema,
    status: 202,
    answer: StartedSchema,
  },
  'POST /sources/crawls/trials': {
    summary: 'Try seeds before a crawl: a few pages of each, and a forecast',
    body: TrialSchema,
    status: 202,
    answer: z.object({
      job: JobViewSchema,
    }),
  },
  'GET /sources/{id}/crawl': {
    summary: 'A crawl as it stands: funnel, sites, traps, troubles, samples over time',
    answer: z.object({
      job: JobViewSchema.nullable(),
      budgets: z.object({
        depth: z.number().nullable(),
        pageBudget: z.number(),
        sitePageBudget: z.number().nullable(),
        minutesBudget: z.number().nullable(),
        leastFinds: z.number().nullable(),
      }),
      seeds: z.number(),
      counts: CrawlCountsSchema,
      funnel: FunnelSchema,
      sites: z.array(SiteYieldSchema),
      traps: z.array(TrapSchema),
      kinds: z.array(
        z.object({
          kind: z.enum(PAGE_KINDS),
          pages: z.number(),
          example: z.string(),
          note: z.string().nullable(),
        }),
      ),
      troubles: z.array(
        z.object({
          state: z.string(),
          note: z.string(),
          pages: z.number(),
          example: z.string(),
        }),
      ),
      unread: z.array(UnreadSeedSchema),
      samples: z.array(CrawlSampleSchema),
    }),
  },
  'PATCH /sources/{id}/crawl': {
    summary: 'Change budgets or drop sites while it runs; go on when it has ended',
    body: CrawlChangeSchema,
    answer: z.object({
      job: JobViewSchema,
      act: z.number().nullable(),
    }),
  },
  'GET /sources/{id}/finds': {
    summary: 'What the switches of a crawl or cut leave out of its finds, and how many each would',
    answer: z.object({
      switches: z.array(SwitchCountSchema),
      out: z.number(),
    }),
  },
  'PATCH /sources/{id}/finds': {
    summary: 'Turn the switches that leave domains out of the finds of a crawl or cut',
    body: FindSwitchesSchema,
    status: 202,
    answer: z.object({
      switches: z.array(SwitchCountSchema),
      out: z.number(),
      job: JobViewSchema,
    }),
  },
  'GET /sources/{id}/aside': {
    media: ['text/csv'],
    summary: 'Domains a source named that were set aside, with the reason, as CSV',
  },
  'POST /sources/searches': {
    summary: 'Search for phrases, with a gate on what each site is about',
    body: SearchSchema,
    status: 202,
    answer: z.object({
      job: JobViewSchema,
    }),
  },
  'POST /sources/referrers/preview': {
    summary: 'How a referrer file would be read, and what each cut keeps out',
    body: ReferrerLookSchema,
    file: true,
    answer: ReferrerPreviewSchema.extend({ upload: z.string() }),
  },
  'POST /sources/referrers': {
    summary: 'Take what the cuts leave: into the pool, or as seeds',
    body: ReferrersSchema,
    status: 201,
    answer: z.object({
      source: SourceRowSchema.nullable(),
      seeds: z.array(z.string()),
    }),
  },
} satisfies Calls;
