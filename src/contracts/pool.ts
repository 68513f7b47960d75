import { z } from 'zod';
import { LISTING_KINDS } from '../core/formats/list-fields';
import { LIST_FIGURES } from '../core/formats/list-figures';
import { PHASES } from '../core/lifecycle/phase';
import type { PartCounts } from '../core/pool/count';
import type { DomainView } from '../core/pool/domain-view';
import { FACT_NAMES, JUDGEMENTS, SHOWN_NUMBERS, type ShownNumber } from '../core/pool/facts';
import type { Histogram } from '../core/pool/histogram';
import type { FurtherOffer } from '../core/pool/offer';
import type { NameMatch, PoolAnswer, RowNames } from '../core/pool/query';
import { ROW_FIELDS, type RowColumns } from '../core/pool/row-columns';
import type { Calls } from './call';

import { NameSaidSchema } from './names';
import { PartsSchema, PoolQuerySchema, SievePartSchema } from './pool-conditions';

export const TagSchema = z.object({
  id: z.number(),
  name: z.string(),
  domains: z.number(),
});

/** Sets that conditions name by number, and what else there is to choose from. */
export type SetChoices = Record<'source' | 'tag' | 'shortlist' | 'fresh', { id: number; name: string }[]> & {
  /** All subjects and areas there are, by title. */
  subjects: string[];
  areas: string[];
};
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
    z.object({ kind: z.literal('figures') }),
    z.object({ kind: z.literal('watch') }),
    z.object({ kind: z.literal('unwatch') }),
  ]),
  which: Which,
});
export const WordListSchema = z.object({
  words: z.array(z.string().trim().toLowerCase().min(1).max(253)).min(1).max(200_000),
});

/** Seen: some domains, or all that are new. */
export const SeenSchema = z.object({ ids: z.array(z.number().int().positive()).max(100_000).nullable().default(null) });

// What is answered, for the interface description.

export const ActedSchema = z.object({
  /** Names the action, to undo it. */
  action: z.number(),
  /** Domains that it changed. */
  changed: z.number(),
});
export type Acted = z.infer<typeof ActedSchema>;

export const NameMatchSchema = z.object({
  start: z.number(),
  end: z.number(),
  isWord: z.boolean(),
}) satisfies z.ZodType<NameMatch>;

const FIGURES = Object.fromEntries(SHOWN_NUMBERS.map((fact) => [fact, z.number().nullable()])) as Record<
  ShownNumber,
  z.ZodNullable<z.ZodNumber>
>;

/** Which list stated a figure, and when that was read, ms since 1970 UTC; of a score, its name. */
const StatedSchema = z.partialRecord(
  z.enum(LIST_FIGURES),
  z.object({ source: z.string(), at: z.number(), name: z.string().nullable() }),
);

export const DomainViewSchema = z
  .object({
    ...FIGURES,
    id: z.number(),
    name: z.string(),
    display: z.string(),
    ending: z.string(),
    phase: z.enum(PHASES),
    phaseReason: z.string().nullable(),
    phaseSource: z.string().nullable(),
    phaseAt: z.number().nullable(),
    isUnasked: z.boolean(),
    isOwn: z.boolean(),
    registeredAt: z.number().nullable(),
    expiresAt: z.number().nullable(),
    dropAt: z.number().nullable(),
    window: z
      .object({
        from: z.number(),
        to: z.number(),
        isConditional: z.boolean(),
        reasons: z.array(z.string()),
      })
      .nullable(),
    watched: z.enum(['by hand', 'near miss']).nullable(),
    firstSeenAt: z.number().nullable(),
    capturesByYear: z
      .array(
        z.object({
          year: z.number(),
          captures: z.number(),
        }),
      )
      .nullable(),
    pastAt: z.number().nullable(),
    pastSource: z.string().nullable(),
    countFrom: z.string().nullable(),
    language: z.string().nullable(),
    subject: z.string().nullable(),
    area: z.string().nullable(),
    subjectConfidence: z.number().nullable(),
    forwardsTo: z.string().nullable(),
    forwardsNow: z.boolean(),
    strengthWith: z.number().nullable(),
    capturesAt: z.number().nullable(),
    capturesRead: z.number().nullable(),
    referrersAt: z.number().nullable(),
    linksAt: z.number().nullable(),
    listing: z.enum(LISTING_KINDS).nullable(),
    venue: z.string().nullable(),
    priceMinor: z.number().nullable(),
    currency: z.string().nullable(),
    homeMinor: z.number().nullable(),
    homeCurrency: z.string(),
    closingAt: z.number().nullable(),
    listingUrl: z.string().nullable(),
    listingAt: z.number().nullable(),
    registrar: z.string().nullable(),
    lastSeenAt: z.number().nullable(),
    addedAt: z.number(),
    length: z.number(),
    recordAt: z.number().nullable(),
    judged: z.enum(JUDGEMENTS),
    judgedReason: z.string().nullable(),
    judgedAt: z.number().nullable(),
    snoozedUntil: z.number().nullable(),
    shortlisted: z.boolean(),
    starts: z.array(z.number()),
    matches: z.array(NameMatchSchema),
    sayability: z.number().nullable(),
    nameSubject: z.string().nullable(),
    stated: StatedSchema.nullable(),
    freshIn: z.array(z.number()),
  })
  .meta({ id: 'Domain' }) satisfies z.ZodType<DomainView>;

const { id, name, ...FIELDS } = DomainViewSchema.shape;
/** One value a row; or few values, and the place of each row's among them. Null: nothing is known or to be said. */
const cellsOf = (value: z.ZodType) => {
  const values = z.array(value.nullable());
  return z.union([values, z.object({ values, at: z.array(z.number()) })]).optional();
};
const RowColumnsSchema = z
  .object({
    id: z.array(id),
    name: z.array(name),
    fields: z.object(Object.fromEntries(ROW_FIELDS.map((field) => [field, cellsOf(FIELDS[field])]))),
  })
  .meta({ id: 'RowColumns' }) as unknown as z.ZodType<RowColumns>;

/** A question to the pool, with the fields that are wanted of its rows beside `id` and `name`. */
const ColumnsQuerySchema = PoolQuerySchema.extend({ fields: z.array(z.enum(ROW_FIELDS)) });

export const PartCountsSchema = z.object({
  path: z.string(),
  reaching: z.number(),
  remaining: z.number(),
  removes: z.number(),
  alone: z.number(),
  unknown: z.number().nullable(),
}) satisfies z.ZodType<PartCounts>;

export const HistogramSchema = z.object({
  path: z.string(),
  edges: z.array(z.number()),
  counts: z.array(z.number()),
  unknown: z.number(),
}) satisfies z.ZodType<Histogram>;

export const RowNamesSchema = z.object({
  starts: z.array(z.number()),
  matches: z.array(NameMatchSchema),
}) satisfies z.ZodType<RowNames>;

export const FurtherOfferSchema = z.object({
  listing: z.enum(LISTING_KINDS),
  venue: z.string().nullable(),
  price: z.number().nullable(),
  bids: z.number().nullable(),
  closing: z.number().nullable(),
}) satisfies z.ZodType<FurtherOffer>;

export const PoolAnswerSchema = z.object({
  size: z.number(),
  excluded: z.number(),
  total: z.number(),
  ids: z.array(z.number()),
  names: z.array(RowNamesSchema),
  offers: z.record(z.coerce.number(), FurtherOfferSchema),
  parts: z.array(PartCountsSchema),
  collisions: z.record(z.string(), z.number().nullable()),
  troubles: z.record(z.string(), z.string()),
  histograms: z.array(HistogramSchema),
  anchorAt: z.number(),
  version: z.number(),
}) satisfies z.ZodType<PoolAnswer>;

/** What is answered of a window beside its rows. */
const WindowSchema = PoolAnswerSchema.omit({ ids: true, names: true, offers: true });

/** A window of the pool, with what its names say. */
export const PoolReplySchema = z.object({
  /** Domains in the pool, those left out as excluded among them. */
  size: z.number(),
  /** Domains left out because the person has excluded them. */
  excluded: z.number(),
  /** Domains that pass. */
  total: z.number(),
  /** Domain ids of the asked-for window. */
  ids: z.array(z.number()),
  /** The names of the window, split. */
  names: z.array(RowNamesSchema),
  /** Of rows that pass by another offer than the one they show: that offer; by domain id. */
  offers: z.record(z.coerce.number(), FurtherOfferSchema),
  parts: z.array(PartCountsSchema),
  /** For conditions on letters: of the rows left, those whose letters are no word of the name; null: not all names are split yet. */
  collisions: z.record(z.string(), z.number().nullable()),
  /** What is wrong with a condition, by path, in words. */
  troubles: z.record(z.string(), z.string()),
  histograms: z.array(HistogramSchema),
  /** Place of the anchor among all that pass; -1: it does not. */
  anchorAt: z.number(),
  version: z.number(),
  said: z.array(NameSaidSchema),
});
export type PoolReply = z.infer<typeof PoolReplySchema>;

/** Of how many domains each fact is known. */
export const KnownSchema = z.object({
  size: z.number(),
  known: z.partialRecord(z.enum(FACT_NAMES), z.number()),
  scores: z
    .array(z.string())
    .describe('Names of the scores that lists state: the first is listScore, the second listScore2'),
});
export type PoolKnown = z.infer<typeof KnownSchema>;

export const poolCalls = {
  'GET /pool/known': {
    summary: 'Of how many domains each fact is known',
    answer: KnownSchema,
  },
  'POST /pool/line': {
    needs: 'read',
    summary: 'Read a line as people type it, "free org over 10 years, under 50 EUR", as conditions; nothing is changed',
    body: z.object({ text: z.string().max(1000) }),
    answer: z.object({
      parts: z.array(
        z.object({
          part: SievePartSchema,
          start: z.number().describe('From where in the text it comes, in UTF-16 units'),
          end: z.number(),
        }),
      ),
      sorts: z.array(z.object({ fact: z.enum(FACT_NAMES), descending: z.boolean() })),
      unknown: z
        .array(
          z.object({
            text: z.string(),
            start: z.number(),
            end: z.number(),
            reason: z.string().nullable(),
            instead: z.array(z.string()).describe('Words that are known and like it'),
          }),
        )
        .describe('What was not understood'),
      completions: z
        .array(z.object({ words: z.string(), text: z.string().describe('The whole line with these words') }))
        .describe('Words that its last ones may become'),
    }),
  },
  'POST /pool/query': {
    needs: 'read',
    summary: 'Sift and sort the pool',
    body: PoolQuerySchema,
    answer: WindowSchema.extend({ rows: z.array(DomainViewSchema) }),
  },
  'POST /pool/columns': {
    needs: 'read',
    summary:
      'Sift and sort the pool, with some fields of its rows only, field by field: the fastest way to draw a table',
    body: ColumnsQuerySchema,
    answer: WindowSchema.extend({ rows: RowColumnsSchema }),
  },
  'POST /actions': {
    summary: 'Judge, tag, shortlist, measure or exclude few or many domains',
    body: ActionSchema,
    status: 201,
    answer: ActedSchema.extend({ action: z.number().nullable() }),
  },
  'POST /actions/{id}/undo': {
    summary: 'Give all domains of an action back what they were',
    answer: z.object({
      changed: z.number(),
    }),
  },
  'GET /tags': {
    summary: 'Tags and how many domains have them',
    answer: z.object({
      tags: z.array(TagSchema),
    }),
  },
  'POST /word-lists': {
    summary: 'Keep a long list of words that conditions name by number',
    body: WordListSchema,
    status: 201,
    answer: z.object({
      id: z.number(),
      count: z.number(),
    }),
  },
} satisfies Calls;
