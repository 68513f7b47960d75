import { z } from 'zod';
import { RISKS } from '../core/bids/risk';
import { STAGES } from '../core/bids/stages';
import { PURPOSES } from '../core/fit/purposes';
import type { Calls } from './call';
import { FitWeightsSchema, HouseLimitsSchema } from './fit';
import { Minor } from './parts';
import { DomainViewSchema } from './pool';
import { WorthAssumptionsSchema } from './worth';

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

export const StoredBriefSchema = z.object({
  id: z.number(),
  createdAt: z.number(),
  name: z.string(),
  purpose: z.enum(PURPOSES),
  subjectWords: z.array(z.string()),
  /** Registrable domains, A-labels. */
  trustedSites: z.array(z.string()),
  excludedEndings: z.array(z.string()),
  budgetMinor: z.number().nullable(),
  currency: z.string(),
  /** How sure a bid plan is to be; even when not said. */
  risk: z.enum(RISKS),
  /** Paid beside a price, for a year: registration or transfer. In minor units. */
  feesMinor: z.number(),
  /** At least one must be a word of the name; none: any name. */
  requiredWords: z.array(z.string()),
  unwantedWords: z.array(z.string()),
  /** ISO 639-1; none: any. */
  languages: z.array(z.string()),
  /** What counts how much for the fit, 0 to 10; null: as the purpose has it. */
  weights: FitWeightsSchema.nullable(),
  /** How much each purpose counts, 0 to 10; null: its one purpose. */
  mix: z.record(z.enum(PURPOSES), z.number()).nullable(),
  /** ISO 3166-1 alpha-2, of the people it is for; none: any. */
  countries: z.array(z.string()),
  /** The time it runs for, ms since 1970 UTC; null: open. */
  fromAt: z.number().nullable(),
  untilAt: z.number().nullable(),
  /** What a domain must have to be looked at. */
  limits: HouseLimitsSchema,
  /** What a domain is to bring over its cost, in hundredths of it. */
  marginPercent: z.number(),
  /** How long until it is sold, or has earned its cost. */
  months: z.number(),
  /** A year of registration, in minor units. */
  renewalMinor: z.number(),
  /** What money costs a year, in hundredths. */
  interestPercent: z.number(),
  /** What worth is reckoned with where nobody counted. */
  assumptions: WorthAssumptionsSchema,
});
export type StoredBrief = z.infer<typeof StoredBriefSchema>;

export const ShortlistEntrySchema = z.object({
  domainId: z.number(),
  briefId: z.number(),
  stage: z.enum(STAGES),
  maximumBidMinor: z.number().nullable(),
  /** What it is worth to the person, in minor units of the brief's currency; the range is meant to hold six times in ten. */
  worthLowMinor: z.number().nullable(),
  worthHighMinor: z.number().nullable(),
  /** Paid beside the price; null: as the brief says. */
  feesMinor: z.number().nullable(),
  note: z.string(),
  addedAt: z.number(),
  changedAt: z.number(),
});
export type ShortlistEntry = z.infer<typeof ShortlistEntrySchema>;

export const shortlistCalls = {
  'GET /shortlist': {
    summary: 'The shortlist of a brief',
    query: { brief: 'Id of the brief; else the current one' },
    answer: z.object({
      entries: z.array(ShortlistEntrySchema.extend({ domain: DomainViewSchema })),
    }),
  },
  'POST /shortlist': {
    summary: 'Shortlist domains',
    body: ShortlistAddSchema,
    status: 201,
    answer: z.object({
      added: z.array(z.string()),
    }),
  },
  'PATCH /shortlist/{name}': {
    summary: 'Change stage, maximum bid or note',
    body: ShortlistChangeSchema,
    answer: z.object({
      before: ShortlistEntrySchema,
      act: z.number().nullable(),
    }),
  },
  'DELETE /shortlist/{name}': {
    summary: 'Take a domain off',
    query: { brief: 'Id of the brief' },
    answer: z.object({
      before: ShortlistEntrySchema,
      action: z.number(),
    }),
  },
} satisfies Calls;
