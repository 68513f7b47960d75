import { z } from 'zod';
import type { Fit, FitWeights } from '../core/fit/fit';
import type { HouseLimits } from '../core/fit/house-limits';

export const FitWeightsSchema = z.object({
  name: z.number(),
  risk: z.number(),
  nameWords: z.number(),
  subject: z.number(),
  continuity: z.number(),
  referrers: z.number(),
  trust: z.number(),
  language: z.number(),
}) satisfies z.ZodType<FitWeights>;

export const HouseLimitsSchema = z.object({
  leastStrength: z.number().nullable().optional(),
  leastTrust: z.number().nullable().optional(),
  leastReferring: z.number().nullable().optional(),
  mostSpamRisk: z.number().nullable().optional(),
  leastYears: z.number().nullable().optional(),
  mostLetters: z.number().nullable().optional(),
  noHyphens: z.boolean().optional(),
  noDigits: z.boolean().optional(),
}) satisfies z.ZodType<HouseLimits>;

export const FitSchema = z.object({
  score: z.number().nullable(),
  least: z.number(),
  most: z.number(),
  cappedAt: z.number().nullable(),
}) satisfies z.ZodType<Fit>;
