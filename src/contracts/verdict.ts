import { z } from 'zod';
import { FACT_NAMES, type FactName } from '../core/pool/facts';
import type { ComparedFact } from '../core/verdict/compare';
import { DILIGENCE_KEYS, DILIGENCE_STATES, type DiligencePoint } from '../core/verdict/diligence';
import { type FoundPages, PAGE_QUESTIONS, type PageQuestion } from '../core/verdict/page-questions';
import type { Reason, Reasons } from '../core/verdict/reasons';
import type { Calls } from './call';
import { repeatable } from './query';

export const ComparedFactSchema = z.object({
  group: z.string(),
  title: z.string(),
  /** The measure of the pool that it is. */
  measure: z.enum(FACT_NAMES as [FactName, ...FactName[]]).optional(),
  shown: z.array(z.string().nullable()),
  differs: z.boolean(),
  best: z.number().nullable(),
}) satisfies z.ZodType<ComparedFact>;

export const ReasonSchema = z.object({
  words: z.string(),
  weight: z.number(),
}) satisfies z.ZodType<Reason>;

export const ReasonsSchema = z.object({
  for: z.array(ReasonSchema),
  against: z.array(ReasonSchema),
  open: z.array(z.string()),
}) satisfies z.ZodType<Reasons>;

export const DiligencePointSchema = z.object({
  item: z.enum(DILIGENCE_KEYS),
  question: z.string(),
  state: z.enum(DILIGENCE_STATES),
  answer: z.string(),
  at: z.number().nullable(),
  by: z.enum(['found', 'you']).nullable(),
  /** Who answered it by hand; null: nobody did. */
  who: z.string().nullable(),
  found: z
    .object({
      state: z.enum(DILIGENCE_STATES),
      answer: z.string(),
      at: z.number().nullable(),
    })
    .nullable(),
  asking: z
    .object({
      who: z.string().nullable(),
      link: z.string().nullable(),
      pages: z.array(z.object({ url: z.string(), title: z.string() })),
    })
    .nullable(),
}) satisfies z.ZodType<DiligencePoint>;

export const FoundPagesSchema = z.object({
  at: z.number(),
  who: z.string(),
  total: z.number().nullable(),
  pages: z.array(z.object({ url: z.string(), title: z.string() })),
}) satisfies z.ZodType<FoundPages>;
export const PAGE_ITEMS = Object.keys(PAGE_QUESTIONS) as [PageQuestion, ...PageQuestion[]];

export const verdictCalls = {
  'GET /compare': {
    summary: 'Up to four domains side by side, with what differs',
    query: { name: repeatable('A domain; two to four of them') },
    answer: z.object({
      missing: z.array(z.string()),
      facts: z.array(ComparedFactSchema),
      shared: z.object({
        all: z.number(),
        strongest: z.array(z.string()),
        alone: z.array(z.number()),
      }),
      names: z.array(z.string()),
    }),
  },
} satisfies Calls;
