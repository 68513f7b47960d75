import { z } from 'zod';
import { ANSWER_ACTS } from '../core/selling/talk';

const Price = z.number().int().positive().max(Number.MAX_SAFE_INTEGER);

export const ResaleSchema = z.object({
  name: z.string().max(253),
  venue: z.string().trim().min(1).max(100),
  askMinor: Price,
  floorMinor: Price,
  currency: z.string().regex(/^[A-Z]{3}$/, 'a currency has three letters (ISO 4217)'),
  /** Which of the evidenced sentences its text has; left out: all. */
  sentences: z.array(z.string().max(20)).max(20).optional(),
});

export const AnswerSchema = z.object({
  inquiry: z.string().max(64),
  act: z.enum(ANSWER_ACTS),
  /** What is asked back. */
  amountMinor: Price.nullable().default(null),
});

export const InquirySchema = z.object({
  buyer: z.string().trim().min(1, 'say who asked').max(200),
  words: z.string().trim().max(2000).default('asks'),
  offerMinor: Price.nullable().default(null),
});

export const SoldSchema = z.object({
  finalMinor: Price,
  feesMinor: z.number().int().min(0).max(Number.MAX_SAFE_INTEGER).nullable().default(null),
});
