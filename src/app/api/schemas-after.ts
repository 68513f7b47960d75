import { z } from 'zod';
import { COST_KINDS, INCOME_KINDS } from '../../core/money/profit';
import { PROSPECT_STATES } from '../../core/prospecting/prospects';
import { STEP_STATES } from '../../core/rebuild/checklist';
import { ANSWER_ACTS } from '../../core/selling/talk';
import { PLANS, STATUSES } from '../../store/holdings';

/** What requests say of what comes after a purchase: holdings, redirects, rebuilding, prospecting, selling on. */

const MostMinor = z.number().int().min(1).max(1e12);
const MoveTo = z
  .string()
  .max(2000)
  .refine((text) => /^https?:\/\/[^\s"]+$/.test(text) && URL.canParse(text), 'an http address without spaces');
export const RuleChangesSchema = z.object({
  rules: z
    .array(
      z.object({
        from: z
          .string()
          .regex(/^\/[^\s"\\]*$/, 'a path begins with a slash')
          .max(2000),
        to: MoveTo.nullable().optional(),
      }),
    )
    .max(5000),
});

export const StepChangesSchema = z.object({
  steps: z
    .array(
      z.object({
        key: z
          .string()
          .regex(/^(page:\/|step:|own:).+|^page:\/$/, 'a step is a page, a common step or an own one')
          .max(2000),
        state: z.enum(STEP_STATES).nullable(),
        words: z.string().trim().min(1).max(300).nullable().optional(),
      }),
    )
    .min(1)
    .max(1000),
});

const Address = z.url({ protocol: /^https?$/ }).max(4000);
const ProspectKey = { target: z.string().min(1).max(4000) };

export const ProspectsSchema = z.object({
  ...ProspectKey,
  domain: z.string().max(253),
  /** Which of the pages that link to it; left out: all. */
  pages: z.array(z.string().max(4000)).max(2000).optional(),
  standIn: Address.nullable().optional(),
});

const ProspectFields = {
  state: z.enum(PROSPECT_STATES),
  contact: z.string().trim().max(500).nullable(),
  note: z.string().max(2000),
};
const Moment = z.number().int().nullable();

export const ProspectChangeSchema = z.object({
  ...ProspectKey,
  page: z.string().max(4000).optional(),
  ...z.object(ProspectFields).partial().shape,
  standIn: Address.nullable().optional(),
  isDropped: z.boolean().optional(),
  /** The row as it was, to take a change back. */
  before: z.object({ ...ProspectFields, writtenAt: Moment, answeredAt: Moment }).optional(),
});

export const ProspectLookSchema = z.object({ ...ProspectKey, page: Address });

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

export const HoldingChangeSchema = z.object({
  renewsAt: z.number().nullable().optional(),
  renewalMinor: z.number().int().min(0).max(1e12).nullable().optional(),
  note: z.string().max(2000).optional(),
  plan: z.enum(PLANS).optional(),
  status: z.enum(STATUSES).optional(),
});

export const EntrySchema = z.object({
  at: z.number(),
  kind: z.enum([...COST_KINDS, ...INCOME_KINDS]),
  /** Without a sign: its kind says which way it goes. */
  amountMinor: MostMinor,
  currency: z.string().regex(/^[A-Z]{3}$/, 'a currency is written like EUR'),
  words: z.string().max(500).default(''),
});
export const EntryUndoSchema = z.object({ id: z.number().int(), isRemoved: z.boolean() });
