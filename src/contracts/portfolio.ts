import { z } from 'zod';
import { EXPORT_FORMATS } from '../core/formats/exports';
import { PLANS, STATUSES } from '../core/money/holding-kinds';
import { COST_KINDS, GROUPINGS, INCOME_KINDS } from '../core/money/profit';
import { PROSPECT_STATES } from '../core/prospecting/prospects';
import { STEP_STATES } from '../core/rebuild/checklist';
import { RESALE_STATES } from '../core/selling/resale';
import type { Calls } from './call';
import { EXPORT_MEDIA } from './exports';
import { CsvProblemSchema } from './formats';
import { ProfitLineSchema } from './money';
import { MostMinor } from './parts';
import { choiceOf } from './query';

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

/** A domain that the person owns. Amounts in minor units of `currency`, but the renewal and fees, which are in the brief's. */
export const HoldingSchema = z
  .object({
    domainId: z.number(),
    name: z.string(),
    briefId: z.number().nullable(),
    briefName: z.string().nullable(),
    briefCurrency: z.string().nullable(),
    orderId: z.number().nullable(),
    boughtAt: z.number(),
    costMinor: z.number(),
    feesMinor: z.number(),
    currency: z.string(),
    seller: z.string(),
    /** When it is to be paid for again; null: not known. */
    renewsAt: z.number().nullable(),
    renewalMinor: z.number().nullable(),
    note: z.string(),
    plan: z.enum(PLANS),
    status: z.enum(STATUSES),
    /** Steps of its rebuild that are done. */
    stepsDone: z.number(),
  })
  .meta({ id: 'Holding' });
export type Holding = z.infer<typeof HoldingSchema>;

export const OwnSourceSchema = z.object({
  source: z.string(),
  pages: z.number(),
  takenAt: z.number(),
});

/** A page that links to a dead target, on the work list. Times in ms since 1970 UTC. */
export const ProspectSchema = z.object({
  target: z.string(),
  domain: z.string(),
  page: z.string(),
  title: z.string().nullable(),
  anchor: z.string(),
  /** How to reach whoever runs the page: as it said itself, or as was found out. */
  contact: z.string().nullable(),
  state: z.enum(PROSPECT_STATES),
  note: z.string(),
  writtenAt: z.number().nullable(),
  answeredAt: z.number().nullable(),
  addedAt: z.number(),
  /** The own page that is offered; null: none is chosen. */
  standIn: z.string().nullable(),
});

export const KeptProspectSchema = z.object({
  note: z.string(),
  state: z.enum(PROSPECT_STATES),
  /** How to reach whoever runs the page: as it said itself, or as was found out. */
  contact: z.string().nullable(),
  writtenAt: z.number().nullable(),
  answeredAt: z.number().nullable(),
});

export const ResaleLineSchema = z.object({
  at: z.number(),
  who: z.string(),
  words: z.string(),
});

/** An owned domain that is offered at a venue. Amounts in minor units of `currency`; times in ms since 1970 UTC. */
export const StoredResaleSchema = z
  .object({
    id: z.number(),
    key: z.string(),
    domainId: z.number(),
    name: z.string(),
    venue: z.string(),
    askMinor: z.number(),
    /** The least it is let go for; the venue is not told. */
    floorMinor: z.number(),
    currency: z.string(),
    text: z.string(),
    state: z.enum(RESALE_STATES),
    finalMinor: z.number().nullable(),
    feesMinor: z.number().nullable(),
    reason: z.string().nullable(),
    attempts: z.number(),
    createdAt: z.number(),
    answeredAt: z.number().nullable(),
    endedAt: z.number().nullable(),
  })
  .meta({ id: 'Sale' });
export type StoredResale = z.infer<typeof StoredResaleSchema>;

/** A decision on a step; null takes it back to what is suggested, and removes an own step. */
export const StepChangeSchema = z.object({
  key: z.string(),
  state: z.enum(STEP_STATES).nullable(),
  words: z.string().nullable().optional(),
});
export type StepChange = z.infer<typeof StepChangeSchema>;

/** A page that links to a target. */
export const TargetLinkSchema = z.object({
  page: z.string(),
  title: z.string().nullable(),
  anchor: z.string(),
  nofollow: z.number(),
  contact: z.string().nullable(),
  /** Of the domain that links, 0 to 100; null: not measured. */
  strength: z.number().nullable(),
  sourceId: z.number(),
});

/** A decision on an old address; undecided takes it back. */
export const RuleChangeSchema = z.object({
  from: z.string(),
  to: z.string().nullable().optional(),
});
export type RuleChange = z.infer<typeof RuleChangeSchema>;

export const portfolioCalls = {
  'GET /holdings': {
    summary: 'What is owned, with cost and renewal',
    answer: z.object({
      holdings: z.array(HoldingSchema),
    }),
  },
  'POST /holdings': {
    summary: 'Take a list of what one owns already',
    file: true,
    status: 201,
    answer: z.object({
      taken: z.number(),
      known: z.number(),
      setAside: z.number(),
      aside: z.array(CsvProblemSchema),
      act: z.number().nullable(),
    }),
  },
  'GET /holdings/profit': {
    media: EXPORT_MEDIA,
    summary: 'Profit and loss of what is owned, every sum with its entries',
    query: {
      by: choiceOf('What sums are of', GROUPINGS),
      format: choiceOf('What is answered', ['json', ...EXPORT_FORMATS]),
    },
    answer: z.object({
      currency: z.string(),
      by: z.string(),
      lines: z.array(ProfitLineSchema),
    }),
  },
  'POST /holdings/{name}/entries': {
    summary: 'Enter what a domain cost or brought',
    body: EntrySchema,
    status: 201,
    answer: z.object({
      id: z.number(),
      act: z.number().nullable(),
    }),
  },
  'PATCH /holdings/{name}/entries': {
    summary: 'Take an entry back, or let it stand again',
    body: EntryUndoSchema,
    answer: z.object({}),
  },
  'PATCH /holdings/{name}': {
    summary: 'Change renewal or note of what is owned',
    body: HoldingChangeSchema,
    answer: z.object({
      before: z.object({
        renewalMinor: z.number().nullable().optional(),
        note: z.string().optional(),
        renewsAt: z.number().nullable().optional(),
        plan: z.enum(PLANS).optional(),
        status: z.enum(STATUSES).optional(),
      }),
      act: z.number().nullable(),
    }),
  },
} satisfies Calls;
