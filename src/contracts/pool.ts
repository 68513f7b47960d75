import { z } from 'zod';
import { LISTING_KINDS } from '../core/formats/list-fields';
import { PHASES } from '../core/lifecycle/phase';
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
} from '../core/pool/conditions';
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
} from '../core/pool/facts';
import type { PoolAnswer } from '../core/pool/query';
import type { NameSaid } from './names';

/** Sets that conditions name by number, and what else there is to choose from. */
export type SetChoices = Record<'source' | 'tag' | 'shortlist' | 'fresh', { id: number; name: string }[]> & {
  /** All subjects and areas there are, by title. */
  subjects: string[];
  areas: string[];
};

/** A window of the pool, with what its names say. */
export type PoolReply = PoolAnswer & { said: NameSaid[] };

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

export const ActedSchema = z.object({ action: z.number().nullable(), changed: z.number() });

export const WordListSchema = z.object({
  words: z.array(z.string().trim().toLowerCase().min(1).max(253)).min(1).max(200_000),
});

/** Seen: some domains, or all that are new. */
export const SeenSchema = z.object({ ids: z.array(z.number().int().positive()).max(100_000).nullable().default(null) });

// What is answered, for the interface description.
const Row = z.looseObject({
  id: z.number(),
  name: z.string(),
  phase: z.enum(PHASES),
  listing: z.enum(LISTING_KINDS).nullable(),
});

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
