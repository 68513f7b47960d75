import { z } from 'zod';
import { DISCOUNTS, type Discount } from '../core/links/effective';
import type { LinkSpan, ReferrerGroup, StrengthStep } from '../core/links/profile';
export const DiscountSchema = z.object({
  kind: z.enum(DISCOUNTS),
  factor: z.number(),
  why: z.string(),
}) satisfies z.ZodType<Discount>;

export const StrengthStepSchema = z.object({
  from: z.number().nullable(),
  to: z.number().nullable(),
  domains: z.number(),
  votes: z.number(),
}) satisfies z.ZodType<StrengthStep>;

export const ReferrerGroupSchema = z.object({
  key: z.string(),
  title: z.string(),
  domains: z.number(),
  votes: z.number(),
}) satisfies z.ZodType<ReferrerGroup>;

export const LinkSpanSchema = z.object({
  from: z.number(),
  to: z.number(),
  gained: z.number(),
  lost: z.number(),
}) satisfies z.ZodType<LinkSpan>;
