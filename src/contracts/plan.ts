import { z } from 'zod';
import { RISKS } from '../core/bids/risk';
import { STAGES } from '../core/bids/stages';
import { BidPlanSchema, MaximumSchema, TurnSchema, WeighedWaySchema } from './bids';
import type { Calls } from './call';
import { CsvProblemSchema } from './formats';
import { SalesKnownSchema } from './offers';
import { idOf, textOf } from './query';

/** A worth by sales, in the brief's currency. */
export const SalesWorthSchema = z.object({
  lowMinor: z.number(),
  highMinor: z.number(),
  near: z.array(
    z.object({
      name: z.string(),
      priceMinor: z.number(),
      at: z.number(),
      distance: z.number(),
      adjustedMinor: z.number(),
    }),
  ),
});
export type SalesWorth = z.infer<typeof SalesWorthSchema>;

/** A worth by what it would be used for, in the brief's currency. */
export const UseWorthSchema = z.object({
  use: z.enum(['rebuild', 'redirect']),
  lowMinor: z.number(),
  highMinor: z.number(),
  /** What it rests on, in a sentence, and how old that is. */
  words: z.string(),
  rows: z.array(
    z.object({
      what: z.string(),
      detail: z.string(),
      minor: z.number(),
    }),
  ),
});
export type UseWorth = z.infer<typeof UseWorthSchema>;

/** A shortlisted domain as the plan shows it. */
export const PlanEntrySchema = z
  .object({
    id: z.number(),
    name: z.string(),
    display: z.string(),
    ways: z.array(WeighedWaySchema),
    /** Which of them the plan takes, or would; null: no way is known. */
    way: z.number().nullable(),
    maximum: MaximumSchema.nullable(),
    mostMinor: z.number().nullable(),
    /** What should be known before money moves. */
    concerns: z.array(z.string()),
    /** What names like it brought, and which; null: too few sales are known. */
    resale: SalesWorthSchema.nullable(),
    /** What it would bring in the other ways that the brief is for. */
    uses: z.array(UseWorthSchema),
    /** Where its last order stands, in words. */
    order: z.string().nullable(),
    /** Paid beside the price; null: as the brief says. */
    feesMinor: z.number().nullable(),
    stage: z.enum(STAGES),
    maximumBidMinor: z.number().nullable(),
    /** What it is worth to the person, in minor units of the brief's currency; the range is meant to hold six times in ten. */
    worthLowMinor: z.number().nullable(),
    worthHighMinor: z.number().nullable(),
  })
  .meta({ id: 'PlanEntry' });
export type PlanEntry = z.infer<typeof PlanEntrySchema>;

export const planCalls = {
  'GET /sales': {
    summary: 'How many names that were sold are known, and from when',
    answer: SalesKnownSchema,
  },
  'POST /sales': {
    summary: 'Take a list of names that were sold: a table with columns for domain, price and date',
    file: true,
    query: { name: textOf('What the list is called', 'a list') },
    status: 201,
    answer: z.object({
      taken: z.number(),
      repeated: z.number(),
      setAside: z.number(),
      aside: z.array(CsvProblemSchema),
      known: SalesKnownSchema,
    }),
  },
  'POST /rankings': {
    summary:
      'Take a list of phrases that domains of the pool are found by: domain, phrase, position, searches, price of a visit',
    file: true,
    query: { name: textOf('What the list is called', 'a list') },
    status: 201,
    answer: z.object({
      taken: z.number(),
      unknown: z.number(),
      setAside: z.number(),
      aside: z.array(CsvProblemSchema),
    }),
  },
  'GET /plan': {
    summary: 'Which of the shortlist to go for, up to what and in which order, and what comes of winning and losing',
    query: {
      brief: idOf('Number of the brief; else the current one'),
      risk: z.enum(RISKS).optional().describe('How much risk; else as the brief says'),
    },
    answer: BidPlanSchema.extend({
      turns: z.record(
        z.coerce.number(),
        z.object({
          lost: TurnSchema,
          won: TurnSchema,
        }),
      ),
      sales: SalesKnownSchema,
      entries: z.array(PlanEntrySchema),
      brief: z.object({
        id: z.number(),
        name: z.string(),
        currency: z.string(),
        budgetMinor: z.number().nullable(),
        feesMinor: z.number(),
      }),
      risk: z.enum(RISKS),
      heldBeforeMinor: z.number(),
      leftMinor: z.number(),
    }),
  },
} satisfies Calls;
