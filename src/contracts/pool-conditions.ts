import { z } from 'zod';
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
  MEMBER_FACTS,
  type MemberFact,
  NUMBER_FACTS,
  SORT_FACTS,
  TIME_FACTS,
  type TimeFact,
} from '../core/pool/facts';

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

const GroupSchema = z
  .object({
    type: z.literal('group'),
    mode: z.enum(GROUP_MODES as [GroupMode, ...GroupMode[]]),
    get parts() {
      return z.array(z.union([ConditionSchema, GroupSchema]));
    },
    off,
  })
  .meta({ id: 'Group' });

export const SievePartSchema = z.union([ConditionSchema, GroupSchema]);

export const PartsSchema = z.array(SievePartSchema).superRefine((parts, context) => {
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
