import { z } from 'zod';
import { RISKS } from '../../core/bids/risk';
import { seedAddress } from '../../core/crawl/address';
import {
  CrawlBudgetFields,
  CrawlBudgets,
  CrawlRules,
  Depth,
  FindSwitchFields,
  ReferrerCutsSchema,
} from '../../core/crawl/params';
import { FIT_PARTS } from '../../core/fit/fit';
import { LINK_FIELDS } from '../../core/formats/link-rows';
import { LIST_FIELDS, LISTING_KINDS } from '../../core/formats/list-fields';
import { REFERRER_FIELDS } from '../../core/formats/referrer-fields';
import { JOINTS } from '../../core/ideas/pattern';
import { PHASES } from '../../core/lifecycle/phase';
import { registrableDomain } from '../../core/names/domain';
import { ORDER_KINDS } from '../../core/orders/order';
import {
  eachPart,
  GROUP_MODES,
  type GroupMode,
  MAX_DEPTH,
  MAX_PARTS,
  MAX_PATTERN,
  MAX_SORTS,
  type SievePart,
  TEXT_MODES,
  type TextMode,
} from '../../core/pool/conditions';
import {
  CHOICE_FACTS,
  type ChoiceFact,
  type FactName,
  JUDGEMENTS,
  MEMBER_FACTS,
  type MemberFact,
  NUMBER_FACTS,
  SORT_FACTS,
  TIME_FACTS,
  type TimeFact,
} from '../../core/pool/facts';
import { DILIGENCE_KEYS, type DiligenceItem } from '../../core/verdict/diligence';
import { ASSUMPTIONS } from '../../core/worth/assumptions';
import { PURPOSES } from '../../store/briefs';
import { JOB_KINDS } from '../../store/jobs';
import { QUESTION_DEPTHS } from '../../store/questions';
import { STAGES } from '../../store/shortlist';
import { SIEVE_DEPTHS, SIEVE_RUNS } from '../../store/sieves';
import { SOURCE_KINDS } from '../../store/sources';
import { WATCH_KINDS } from '../../store/watches';
import { MARK_VERDICTS } from '../../store/word-marks';

export * from './schemas-after';

const bound = z.number().nullable();
const Fact = z.enum(SORT_FACTS as [FactName, ...FactName[]]);
const off = z.boolean().optional();
const not = z.boolean().default(false);
/** Values that a condition holds itself; longer lists are kept under a number (POST /word-lists). */
const MOST_VALUES = 2000;

const ConditionSchema = z.discriminatedUnion('type', [
  z.object({
    type: z.literal('range'),
    fact: z.enum([...NUMBER_FACTS, ...TIME_FACTS]),
    min: bound,
    max: bound,
    keepUnknown: z.boolean().default(false),
    off,
  }),
  z.object({
    type: z.literal('choice'),
    fact: z.enum(CHOICE_FACTS as [ChoiceFact, ...ChoiceFact[]]),
    values: z.array(z.string().max(253)).max(MOST_VALUES),
    not,
    keepUnknown: z.boolean().default(false),
    off,
  }),
  z.object({
    type: z.literal('text'),
    fact: z.literal('name'),
    mode: z.enum(TEXT_MODES as [TextMode, ...TextMode[]]),
    values: z.array(z.string().max(MAX_PATTERN)).max(MOST_VALUES),
    list: z.number().int().positive().optional(),
    not,
    off,
  }),
  z.object({
    type: z.literal('member'),
    fact: z.enum(MEMBER_FACTS as [MemberFact, ...MemberFact[]]),
    values: z.array(z.number().int().positive()).max(1000),
    not,
    off,
  }),
  z.object({
    type: z.literal('visit'),
    fact: z.enum(TIME_FACTS as [TimeFact, ...TimeFact[]]),
    not,
    off,
  }),
]);
const GroupSchema = z.object({
  type: z.literal('group'),
  mode: z.enum(GROUP_MODES as [GroupMode, ...GroupMode[]]),
  get parts() {
    return z.array(z.union([ConditionSchema, GroupSchema]));
  },
  off,
});
const PartsSchema = z.array(z.union([ConditionSchema, GroupSchema])).superRefine((parts, context) => {
  let count = 0;
  let deepest = 0;
  eachPart(parts as SievePart[], (_, __, depth) => {
    count++;
    deepest = Math.max(deepest, depth);
  });
  if (count > MAX_PARTS) context.addIssue({ code: 'custom', message: `at most ${MAX_PARTS} conditions` });
  if (deepest > MAX_DEPTH) context.addIssue({ code: 'custom', message: `groups stand at most ${MAX_DEPTH - 1} deep` });
}) as unknown as z.ZodType<SievePart[]>;

export const PoolQuerySchema = z.strictObject({
  parts: PartsSchema.default([]),
  sorts: z
    .array(z.object({ fact: Fact, descending: z.boolean() }))
    .max(MAX_SORTS)
    .default([{ fact: 'strength', descending: true }]),
  offset: z.number().int().min(0).default(0),
  limit: z.number().int().min(0).max(1000).default(200),
  /** Paths (`2`, `2.0`) of range conditions whose histogram is wanted. */
  histograms: z
    .array(z.string().regex(/^\d+(\.\d+)*$/))
    .max(8)
    .default([]),
  /** A domain by id whose place in the order is wanted. */
  anchor: z.number().int().nullable().default(null),
  /** Whether domains that the person has excluded are shown. */
  withExcluded: z.boolean().default(false),
});

const Which = z.union([
  z.object({ ids: z.array(z.number().int().positive()).max(100_000) }),
  z.object({ names: z.array(z.string().max(253)).max(100_000) }),
  z.object({
    parts: PartsSchema,
    withExcluded: z.boolean().default(false),
    /** Ids that are left out of all that match. */
    except: z.array(z.number().int().positive()).max(100_000).default([]),
  }),
]);
const brief = z.number().int().positive();
const tagName = z.string().trim().min(1, 'a tag needs a name').max(60);
export const ActionSchema = z.object({
  act: z.discriminatedUnion('kind', [
    z.object({
      kind: z.literal('judge'),
      judged: z.enum(JUDGEMENTS),
      reason: z.string().trim().max(500).nullable().default(null),
      /** When a snoozed domain comes back, ms since 1970 UTC. */
      until: z.number().int().nullable().default(null),
    }),
    z.object({ kind: z.literal('tag'), tag: tagName }),
    z.object({ kind: z.literal('untag'), tag: tagName }),
    z.object({ kind: z.literal('shortlist'), brief }),
    z.object({ kind: z.literal('unshortlist'), brief }),
    z.object({ kind: z.literal('measure') }),
    z.object({ kind: z.literal('inspect') }),
    z.object({ kind: z.literal('watch') }),
    z.object({ kind: z.literal('unwatch') }),
  ]),
  which: Which,
});
const MOST_TEXT = 8_000_000;
export const BatchSchema = z.object({
  text: z.string().max(MOST_TEXT, 'at most 8 million characters; import a list for more'),
  name: z.string().trim().min(1).max(120).optional(),
  /** How far: until it is known whether a name is taken, its free ones down to the registrar, or records of taken names as well. */
  depth: z.enum(QUESTION_DEPTHS).default('record'),
  /** Verdicts that are no older are taken as they are. */
  freshMinutes: z.number().min(0).max(525_600).default(60),
});
export const MeasureSchema = z
  .object({
    ids: z.array(z.number().int().positive()).max(100_000),
    names: z.array(z.string().max(253)).max(1000),
    /** Waits for its turn behind the gate and within the day's budget, as what sieves let through does. */
    withinBudget: z.boolean(),
  })
  .partial()
  .refine(({ ids, names }) => (ids?.length ?? 0) + (names?.length ?? 0) > 0, 'give ids or names');
export const MarkReviewSchema = z.object({
  verdict: z.enum(MARK_VERDICTS),
  note: z.string().trim().max(2000).default(''),
});
export const NoteSchema = z.object({ text: z.string().trim().min(1).max(10_000) });
/** A point of due diligence as the person answers it. */
export const TickSchema = z.object({
  item: z.enum(DILIGENCE_KEYS as [DiligenceItem, ...DiligenceItem[]]),
  state: z.enum(['fine', 'look', 'bad']),
  note: z.string().trim().max(2000).default(''),
});
export const TableAskSchema = z.object({
  sort: z.string().max(40).nullable().default(null),
  order: z.enum(['up', 'down']).default('up'),
  filter: z.string().max(200).default(''),
  offset: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(1000).default(25),
  format: z.enum(['json', 'csv', 'jsonl']).default('json'),
});
export const ClockSchema = z.object({
  forwardMs: z
    .number()
    .int()
    .min(1)
    .max(366 * 86_400_000),
});

export const ActedSchema = z.object({ action: z.number().nullable(), changed: z.number() });
export const WordListSchema = z.object({
  words: z.array(z.string().trim().toLowerCase().min(1).max(253)).min(1).max(200_000),
});

const Endings = z
  .array(
    z
      .string()
      .trim()
      .toLowerCase()
      .regex(/^\.?[a-z0-9.-]{2,60}$/, 'an ending is written like org or co.uk'),
  )
  .max(2000)
  .transform((endings) => [...new Set(endings.map((ending) => ending.replace(/^\./, '')))]);

const Upload = z.string().regex(/^[a-f0-9-]{36}$/, 'an upload is named by what its preview answered');

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
export const PageCheckSchema = z.object({ url: z.string().trim().min(1, 'name a page').max(2000) });

const Delimiter = z.string().regex(/^[\t -!#-~]$/, 'a delimiter is one character of ASCII, and no quote');

export const ListSchema = z.object({
  upload: Upload,
  name: z.string().trim().min(1).max(120),
  delimiter: Delimiter,
  hasHeader: z.boolean(),
  columns: z.array(z.enum(LIST_FIELDS)).min(1).max(500),
  venue: z.string().trim().max(80).nullable().default(null),
  excludedEndings: Endings.default([]),
  checkAfter: z.boolean().default(false),
});

export const ZonesSchema = z.object({
  name: z.string().trim().min(1).max(120),
  /** Uploads; plain or gzipped zone files in master format. */
  older: Upload,
  newer: Upload,
  origin: z.string().trim().max(253).default(''),
  parking: z.array(z.string().trim().min(1).max(253)).max(1000).default([]),
  excludedEndings: Endings.default([]),
  checkAfter: z.boolean().default(false),
});

const Sites = z
  .array(z.string().max(2000))
  .max(5000)
  .transform((sites, context) =>
    sites.flatMap((site) => {
      const domain = registrableDomain(site);
      if (!domain) context.addIssue({ code: 'custom', message: `"${site.slice(0, 80)}" is no registrable domain` });
      return domain?.name ?? [];
    }),
  );

export const LinksSchema = z.object({
  upload: Upload,
  name: z.string().trim().min(1).max(120),
  delimiter: Delimiter.optional(),
  hasHeader: z.boolean().optional(),
  columns: z.array(z.enum(LINK_FIELDS)).min(2).max(500).optional(),
  /** When its counts are from; absent: now. */
  asOf: z.iso.date().optional(),
});
const WebAddress = z.url({ protocol: /^https?$/, error: 'an address begins with http:// or https://' });
/** Minutes between two looks; null: only when asked to. */
const EveryMinutes = z
  .number()
  .int()
  .min(1)
  .max(60 * 24 * 31);

export const FeedLookSchema = z.object({ url: WebAddress });
export const FeedSchema = z.object({
  name: z.string().trim().max(120).optional(),
  url: WebAddress,
  everyMinutes: EveryMinutes.nullable().default(null),
  /** How the table of a venue without a feed of our kind is read; absent: it has one. */
  table: z
    .object({
      upload: Upload,
      delimiter: Delimiter,
      hasHeader: z.boolean(),
      columns: z.array(z.enum(LIST_FIELDS)).min(1).max(500),
      venue: z.string().trim().min(1).max(80),
      currency: z
        .string()
        .regex(/^[A-Z]{3}$/, 'a currency is written like EUR')
        .nullable()
        .default(null),
    })
    .nullable()
    .default(null),
});
export const CutSchema = z.object({
  upload: Upload,
  name: z.string().trim().min(1).max(120),
  delimiter: Delimiter,
  hasHeader: z.boolean(),
  columns: z.array(z.enum(LINK_FIELDS)).min(2).max(500),
  excludedEndings: Endings.default([]),
  ...FindSwitchFields,
  knownSites: Sites.default([]),
  leastSites: z.number().int().min(1).max(1_000_000).default(1),
  checkAfter: z.boolean().default(true),
});
export const WatchSchema = z.object({
  kind: z.enum(['folder', 'address']),
  /** An absolute path, or an address. */
  target: z.string().trim().min(1).max(2000),
  name: z.string().trim().min(1).max(120),
  everyMinutes: EveryMinutes,
  excludedEndings: Endings.default([]),
  checkAfter: z.boolean().default(false),
});
export const WatchChangeSchema = z.object({ isOn: z.boolean().optional(), everyMinutes: EveryMinutes.optional() });

export const CheckSchema = z
  .object({
    sourceId: z.number().int().positive().optional(),
    ids: z.array(z.number().int().positive()).max(100_000).optional(),
    names: z.array(z.string()).max(100_000).optional(),
  })
  .refine((which) => [which.sourceId, which.ids, which.names].filter((given) => given !== undefined).length === 1, {
    error: 'name a source, ids or names',
  });

const Words = z.array(z.string().trim().min(1).max(60)).max(500);
/** Money in whole minor units. */
const Minor = z.number().int().min(0).max(1e12);

/** A bound of a house limit; null or left out: none. */
const Limit = (most: number) => z.number().min(0).max(most).nullable().optional();

export const BriefSchema = z.object({
  name: z.string().trim().min(1, 'a brief needs a name').max(120),
  purpose: z.enum(PURPOSES),
  subjectWords: Words.default([]),
  trustedSites: Sites.default([]),
  excludedEndings: Endings.default([]),
  budgetMinor: z.number().int().min(0).max(1e12).nullable().default(null),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/, 'a currency is written like EUR')
    .default('EUR'),
  risk: z.enum(RISKS).default('even'),
  feesMinor: Minor.default(1500),
  requiredWords: Words.default([]),
  unwantedWords: Words.default([]),
  languages: z
    .array(z.string().regex(/^[a-z]{2}$/, 'a language is written like en'))
    .max(50)
    .default([]),
  weights: z.record(z.enum(FIT_PARTS), z.number().min(0).max(10)).nullable().default(null),
  /** How much each purpose counts; null: the one purpose. */
  mix: z.record(z.enum(PURPOSES), z.number().min(0).max(10)).nullable().default(null),
  countries: z
    .array(z.string().regex(/^[A-Z]{2}$/, 'a country is written like GB'))
    .max(50)
    .default([]),
  fromAt: z.number().nullable().default(null),
  untilAt: z.number().nullable().default(null),
  limits: z
    .object({
      leastStrength: Limit(100),
      leastTrust: Limit(100),
      leastReferring: Limit(1e9),
      mostSpamRisk: Limit(100),
      leastYears: Limit(100),
      mostLetters: Limit(63),
      noHyphens: z.boolean().optional(),
      noDigits: z.boolean().optional(),
    })
    .default({}),
  marginPercent: z.number().int().min(0).max(10_000).default(40),
  months: z.number().int().min(0).max(600).default(12),
  renewalMinor: Minor.default(1500),
  interestPercent: z.number().int().min(0).max(1000).default(5),
  assumptions: z
    .object({
      firstClickPercent: z.number().min(0).max(100),
      ownNamePercent: z.number().min(0).max(100).default(ASSUMPTIONS.ownNamePercent),
      halfLifeYears: z.number().min(0.05).max(50),
      competitionPercent: z.number().min(0).max(100),
      earningMonths: z.number().min(0).max(600),
      linkMinor: Minor,
      linkDoubling: z.number().min(1).max(100),
      otherSubjectPercent: z.number().min(0).max(100),
      carryPercent: z.number().min(0).max(100),
    })
    .default(ASSUMPTIONS),
});

export const SieveSchema = z.object({
  name: z.string().trim().min(1, 'a sieve needs a name').max(120),
  view: z.string().max(20_000),
});
export const SieveChangeSchema = SieveSchema.partial().extend({
  runs: z.enum(SIEVE_RUNS).optional(),
  /** Daily: minutes after midnight, UTC. */
  runMinute: z.number().int().min(0).max(1439).optional(),
  inDigest: z.boolean().optional(),
  shortlistBrief: z.number().int().positive().nullable().optional(),
  depth: z.enum(SIEVE_DEPTHS).optional(),
});
export const SieveViewSchema = z.looseObject({ id: z.number(), name: z.string(), view: z.string(), fresh: z.number() });
/** Seen: some domains, or all that are new. */
export const SeenSchema = z.object({ ids: z.array(z.number().int().positive()).max(100_000).nullable().default(null) });
/** A sieve to be shared: sources, tags and the like by name, long lists in full. */
export const SieveFileSchema = z.object({
  kind: z.literal('sieve'),
  version: z.literal(1),
  name: SieveSchema.shape.name,
  conditions: z.array(z.string().max(20_000)).max(MAX_PARTS),
  sort: z.string().max(500).default(''),
  columns: z.string().max(2000).default(''),
  names: z.record(z.string(), z.record(z.string(), z.string().max(200))).default({}),
  lists: z.record(z.string(), z.array(z.string().max(253)).max(200_000)).default({}),
});
const IdeaWord = z.string().regex(/^[a-z0-9]{1,40}$/, 'a word of a name has letters a to z and digits');
const IdeaPatternSchema = z.object({
  slots: z
    .array(
      z.object({
        title: z.string().max(60),
        words: z.array(IdeaWord).max(20_000),
        isOptional: z.boolean().default(false),
      }),
    )
    .min(1, 'a pattern has at least one slot')
    .max(6),
  isAnyOrder: z.boolean().default(false),
  withTwins: z.boolean().default(false),
  joints: z.array(z.enum(JOINTS)).min(1, 'say how words are put together').default(['joined']),
  endings: Endings.refine((endings) => endings.length > 0, 'name at least one ending'),
  mostLetters: z.number().int().min(2).max(63).default(20),
});
export const IdeasSchema = z.object({ briefId: z.number().int(), pattern: IdeaPatternSchema });

const MostMinor = z.number().int().min(1).max(1e12);

export const OrderSchema = z.object({
  name: z.string().max(253),
  briefId: z.number().int(),
  venue: z.string().min(1).max(120),
  kind: z.enum(ORDER_KINDS),
  /** The most that is paid, in minor units of the venue's currency. */
  amountMinor: MostMinor,
  /** Of a venue that cannot be reached; else the venue says it. */
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .optional(),
  /** Not to be sent before, ms since 1970 UTC. */
  sendAt: z.number().nullable().optional(),
  /** Chosen by the sender, for instance a UUID: an order that comes again under it is the same order. */
  clientKey: z.string().min(8).max(100).optional(),
});

export const OutcomeSchema = z.object({
  outcome: z.enum(['won', 'lost', 'withdrawn']),
  /** What it went for, where that is known, in minor units of the order's currency. */
  priceMinor: z.number().int().min(0).max(1e12).nullable().default(null),
});

export const ShortlistAddSchema = z.object({
  briefId: z.number().int().positive(),
  names: z.array(z.string()).min(1).max(100_000),
});
export const ShortlistChangeSchema = z.object({
  briefId: z.number().int().positive(),
  stage: z.enum(STAGES).optional(),
  maximumBidMinor: Minor.nullable().optional(),
  worthLowMinor: Minor.nullable().optional(),
  worthHighMinor: Minor.nullable().optional(),
  feesMinor: Minor.nullable().optional(),
  note: z.string().max(5000).optional(),
});

/** A brief to be taken elsewhere. */
export const BriefFileSchema = z.object({
  kind: z.literal('brief'),
  version: z.literal(1),
  brief: BriefSchema,
  sieves: z.array(SieveFileSchema).max(500).default([]),
  shortlist: z
    .array(
      ShortlistChangeSchema.omit({ briefId: true }).extend({
        name: z.string().max(253),
        notes: z.array(z.string().max(20_000)).max(1000).default([]),
      }),
    )
    .max(20_000)
    .default([]),
});

// What is answered, for the interface description.
const Row = z.looseObject({
  id: z.number(),
  name: z.string(),
  phase: z.enum(PHASES),
  listing: z.enum(LISTING_KINDS).nullable(),
});
export const JobSchema = z.looseObject({
  id: z.number(),
  kind: z.enum(JOB_KINDS),
  state: z.enum(['queued', 'running', 'paused', 'done', 'failed', 'cancelled']),
  error: z.string().nullable(),
});
export const WatchViewSchema = z.looseObject({ id: z.number(), kind: z.enum(WATCH_KINDS), target: z.string() });
export const SourceSchema = z.looseObject({ id: z.number(), kind: z.enum(SOURCE_KINDS), name: z.string() });
export const PoolAnswerSchema = z.object({
  size: z.number(),
  total: z.number(),
  rows: z.array(Row),
  excluded: z.number(),
  names: z.array(z.object({ starts: z.array(z.number()), matches: z.array(z.looseObject({ start: z.number() })) })),
  parts: z.array(
    z.object({
      path: z.string(),
      reaching: z.number(),
      removes: z.number(),
      alone: z.number(),
      remaining: z.number(),
      unknown: z.number().nullable(),
    }),
  ),
  collisions: z.record(z.string(), z.number().nullable()),
  troubles: z.record(z.string(), z.string()),
  anchorAt: z.number(),
  histograms: z.array(z.looseObject({ path: z.string() })),
  version: z.number(),
});
export const PreviewSchema = z.object({
  upload: z.string(),
  delimiter: z.string(),
  hasHeader: z.boolean(),
  columns: z.array(z.enum(LIST_FIELDS)),
  header: z.array(z.string()).nullable(),
  rows: z.array(z.array(z.string())),
  charset: z.string(),
  gzip: z.boolean(),
});
export const StartedSchema = z.object({ source: SourceSchema, job: JobSchema });
export const ProblemSchema = z.looseObject({
  type: z.string(),
  status: z.number(),
  title: z.string(),
  detail: z.string(),
});
