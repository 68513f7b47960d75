import { z } from 'zod';
import { RISKS } from '../core/bids/risk';
import { FIT_PARTS } from '../core/fit/fit';
import { PURPOSES } from '../core/fit/purposes';
import { ASSUMPTIONS } from '../core/worth/assumptions';
import type { Calls } from './call';
import { FitWeightsSchema, HouseLimitsSchema } from './fit';
import { changeOf, Endings, Minor, Sites } from './parts';
import { ShortlistChangeSchema } from './shortlist';
import { SieveFileSchema } from './sieves';
import { WorthAssumptionsSchema } from './worth';

export const StoredBriefSchema = z
  .object({
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
  })
  .meta({ id: 'Brief' });
export type StoredBrief = z.infer<typeof StoredBriefSchema>;

const Words = z.array(z.string().trim().min(1).max(60)).max(500);

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

export const briefsCalls = {
  'GET /briefs': {
    summary: 'All briefs',
    answer: z.object({
      briefs: z.array(StoredBriefSchema),
    }),
  },
  'POST /briefs': {
    summary: 'Add a brief',
    body: BriefSchema,
    status: 201,
    answer: z.object({
      id: z.number(),
    }),
  },
  'PATCH /briefs/{id}': {
    summary: 'Change a brief',
    body: changeOf(BriefSchema),
    answer: z.object({
      id: z.number(),
      act: z.number().nullable(),
    }),
  },
  'DELETE /briefs/{id}': {
    summary: 'Delete a brief without a shortlist',
    answer: z.object({
      act: z.number().nullable(),
    }),
  },
  'GET /briefs/{id}/file': {
    summary: 'A brief with its sieves, shortlist and notes as one file',
    answer: BriefFileSchema,
  },
  'POST /briefs/file': {
    summary: 'Take a brief in that was exported elsewhere',
    body: BriefFileSchema,
    status: 201,
    answer: z.object({
      id: z.number(),
      shortlisted: z.number(),
      problems: z.array(z.string()),
    }),
  },
} satisfies Calls;
