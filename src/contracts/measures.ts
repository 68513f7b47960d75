import { z } from 'zod';
import type { Disagreement, SourceCount } from '../core/measures/counts';
import { MEASURES, type MeasurePlan, type MeasureSpec } from '../core/measures/plan';
import { FitReportSchema, SpamPointsSchema } from '../core/spam/card-schema';
import type { Calls } from './call';
import { ReadCaptureSchema } from './history';
import { JobViewSchema } from './jobs';

export const MeasureSchema = z
  .object({
    ids: z.array(z.number().int().positive()).max(100_000),
    names: z.array(z.string().max(253)).max(1000),
    /** Waits for its turn behind the gate and within the day's budget, as what sieves let through does. */
    withinBudget: z.boolean(),
  })
  .partial()
  .refine(({ ids, names }) => (ids?.length ?? 0) + (names?.length ?? 0) > 0, 'give ids or names');

export const MeasurePlanSchema = z.object({
  measures: z.array(z.enum(MEASURES)),
  cost: z.number(),
  why: z.string(),
  worth: z.number(),
}) satisfies z.ZodType<MeasurePlan>;

export const MeasureSpecSchema = z.object({
  title: z.string(),
  what: z.string(),
  freshDays: z.number(),
}) satisfies z.ZodType<MeasureSpec>;

/** How a fit changed what the marked domains are taken for. */
export const RefitReportSchema = z
  .object({
    before: FitReportSchema,
    after: FitReportSchema,
    /** Domains whose risk moved most: name, mark, risk before and after. */
    moved: z.array(
      z.object({
        name: z.string(),
        mark: z.enum(['spam', 'clean']),
        before: z.number(),
        after: z.number(),
      }),
    ),
  })
  .meta({ id: 'Refit' });
export type RefitReport = z.infer<typeof RefitReportSchema>;

export const MeasurementSchema = z.object({
  at: z.number(),
  nodes: z.number(),
  edges: z.number(),
  steps: z.number(),
  change: z.number(),
  trusted: z.array(z.string()),
  floor: z.number(),
});

export const SourceCountSchema = z.object({
  sourceId: z.number(),
  source: z.string(),
  kind: z.string(),
  at: z.number(),
  backlinks: z.number().nullable(),
  referringDomains: z.number().nullable(),
  nofollow: z.number().nullable(),
  coverage: z.number().nullable(),
}) satisfies z.ZodType<SourceCount>;

export const DisagreementSchema = z.object({
  factor: z.number(),
  most: z.string(),
  least: z.string(),
  causes: z.array(z.string()),
}) satisfies z.ZodType<Disagreement>;

/** What the front page of a domain answers. */
export const FrontAnswerSchema = z.object({
  status: z.number().nullable(),
  /** Domain that it sends its visitors to; null: none. */
  to: z.string().nullable(),
  note: z.string(),
});

/** A capture that was read, as it is kept. */
export const StoredCaptureSchema = ReadCaptureSchema.extend({
  url: z.string(),
  status: z.number(),
  marks: z.array(z.string()),
  subjectConfidence: z.number().nullable(),
  links: z.array(z.string()),
  fingerprint: z.string().nullable(),
});

export const measuresCalls = {
  'GET /measures': {
    summary: 'What measuring costs, what is measured next and why, and the points of the spam rules',
    answer: z.object({
      budget: z.number(),
      spent: z.number(),
      gate: z.object({
        leastReferring: z.number(),
        mostSpamRisk: z.number(),
      }),
      queued: z.number(),
      next: z.array(MeasurePlanSchema.extend({ name: z.string(), wantedBy: z.string(), since: z.number() })),
      measures: z.array(MeasureSpecSchema.extend({ measure: z.enum(MEASURES) })),
      points: SpamPointsSchema,
      shipped: SpamPointsSchema,
      marks: z.object({
        spam: z.number(),
        clean: z.number(),
      }),
      fit: z
        .object({
          at: z.number(),
          report: RefitReportSchema,
        })
        .nullable(),
    }),
  },
  'POST /measures': {
    summary: 'Take the costly measures of some domains: the past, forwarding, referrers, trademarks',
    body: MeasureSchema,
    status: 202,
    answer: z.object({
      job: JobViewSchema,
    }),
  },
  'POST /measures/points': {
    summary: 'Fit the points of the spam rules to your marks (at least 50)',
    status: 201,
    answer: z.object({
      report: RefitReportSchema,
    }),
  },
  'DELETE /measures/points': {
    summary: 'Take the last fit back',
    status: 204,
  },
} satisfies Calls;
