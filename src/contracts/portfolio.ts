import { z } from 'zod';
import { PLANS, STATUSES } from '../core/money/holding-kinds';
import { COST_KINDS, INCOME_KINDS } from '../core/money/profit';
import { MostMinor } from './parts';

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
