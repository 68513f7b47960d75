import { z } from 'zod';
import { ANSWER_ACTS, type AnswerAdvice, INQUIRY_STATES, type Inquiry } from '../core/selling/talk';
import type { Calls } from './call';
import { ResaleLineSchema, StoredResaleSchema } from './portfolio';

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

export const AnswerAdviceSchema = z.object({
  act: z.enum(ANSWER_ACTS),
  amountMinor: z.number().nullable(),
  reason: z.string(),
}) satisfies z.ZodType<AnswerAdvice>;

export const StoredInquirySchema = z.object({
  inquiry: z.string(),
  buyer: z.string(),
  at: z.number(),
  words: z.string(),
  offerMinor: z.number().nullable(),
  askedMinor: z.number().nullable(),
  state: z.enum(INQUIRY_STATES),
  until: z.number().nullable(),
}) satisfies z.ZodType<Inquiry>;

/** A sale with who asked, what to answer, and what was done. */
const SaleSchema = StoredResaleSchema.omit({ key: true }).extend({
  inquiries: z.array(StoredInquirySchema.extend({ advice: AnswerAdviceSchema.nullable(), isAnswering: z.boolean() })),
  log: z.array(ResaleLineSchema),
});

export const sellingCalls = {
  'GET /resales': {
    summary: 'What is offered for sale now, with who asked',
    answer: z.object({
      sales: z.array(SaleSchema),
    }),
  },
  'POST /resales': {
    needs: 'act',
    status: 201,
    summary: 'Offer an owned domain, with a text of evidenced sentences',
    body: ResaleSchema,
    answer: z.object({
      sale: SaleSchema,
    }),
  },
  'GET /resales/{id}': {
    summary: 'A sale with who asked, what to answer, and what was done',
    answer: z.object({
      sale: SaleSchema,
    }),
  },
  'POST /resales/{id}': {
    needs: 'act',
    summary: 'Ask the venue at once how it stands',
    answer: z.object({
      sale: SaleSchema,
    }),
  },
  'DELETE /resales/{id}': {
    needs: 'act',
    summary: 'Take it off sale',
    answer: z.object({
      sale: SaleSchema,
    }),
  },
  'POST /resales/{id}/answers': {
    needs: 'act',
    summary: 'Answer who asked: accept, ask for more, decline',
    body: AnswerSchema,
    answer: z.object({
      sale: SaleSchema,
    }),
  },
  'POST /resales/{id}/inquiries': {
    needs: 'act',
    status: 201,
    summary: 'Note by hand that somebody asked',
    body: InquirySchema,
    answer: z.object({
      sale: SaleSchema,
    }),
  },
  'POST /resales/{id}/sold': {
    needs: 'act',
    summary: 'Say by hand that it is sold',
    body: SoldSchema,
    answer: z.object({
      sale: SaleSchema,
    }),
  },
} satisfies Calls;
