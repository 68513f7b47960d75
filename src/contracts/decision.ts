import { z } from 'zod';
import { MOST_DECISIONS } from '../core/bids/most-decisions';
import type { Calls } from './call';
import { FitSchema } from './fit';

/** By what a worth is: what the person said, similar sales, visits that would come back, or links that would be carried over. */
const WORTH_BY = ['yours', 'sales', 'visits', 'links'] as const;

/** What a decision on a domain rests on, for a brief. Amounts in minor units of `currency`; null: not known. */
const DecisionSchema = z
  .object({
    name: z.string(),
    currency: z.string(),
    fit: FitSchema,
    worth: z.object({ lowMinor: z.number(), highMinor: z.number(), by: z.enum(WORTH_BY) }).nullable(),
    /** Of the cheapest way to have it. */
    priceMinor: z.number().nullable(),
    /** Up to where others are likely to go. */
    rivalsMinor: z.number().nullable(),
    /** The most to pay. */
    maximumMinor: z.number().nullable(),
  })
  .meta({ id: 'Decision' });
export type Decision = z.infer<typeof DecisionSchema>;
export type WorthBy = (typeof WORTH_BY)[number];

export const decisionCalls = {
  'POST /decisions': {
    needs: 'read',
    summary: 'What a decision on domains rests on, for a brief: fit, worth, price, rivals and the most to pay',
    body: z.object({
      names: z.array(z.string().max(253)).min(1).max(MOST_DECISIONS),
      /** Absent: the current one. */
      brief: z.number().int().positive().optional(),
    }),
    answer: z.object({ decisions: z.array(DecisionSchema) }),
  },
} satisfies Calls;
