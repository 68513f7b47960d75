import { z } from 'zod';
import type { FitReport } from './fit';
import type { RuleResult, SpamCard, SpamPoints } from './scorecard';

export const SpamPointsSchema = z.object({
  points: z.record(z.string(), z.number()),
  fittedOn: z.string(),
}) satisfies z.ZodType<SpamPoints>;

export const FitReportSchema = z.object({
  examples: z.number(),
  spam: z.number(),
  area: z.number(),
  falseAlarms: z.number(),
  missed: z.number(),
}) satisfies z.ZodType<FitReport>;

export const RuleResultSchema = z.object({
  rule: z.string(),
  title: z.string(),
  value: z.number().nullable(),
  shown: z.string(),
  points: z.number(),
  maxPoints: z.number(),
  evidence: z.array(z.string()),
  explanation: z.string(),
  change: z.string(),
}) satisfies z.ZodType<RuleResult>;

export const SpamCardSchema = z
  .object({
    risk: z.number().nullable(),
    results: z.array(RuleResultSchema),
  })
  .meta({ id: 'SpamCard' }) satisfies z.ZodType<SpamCard>;
