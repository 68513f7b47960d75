import { z } from 'zod';
import type { MoneyEntry, ProfitLine } from '../core/money/profit';

export const MoneyEntrySchema = z.object({
  id: z.number().nullable(),
  domain: z.string(),
  brief: z.string().nullable(),
  venue: z.string().nullable(),
  at: z.number(),
  kind: z.enum(['purchase', 'fees', 'renewal', 'other cost', 'sale', 'income']),
  amountMinor: z.number(),
  words: z.string(),
  orderId: z.number().nullable(),
}) satisfies z.ZodType<MoneyEntry>;

export const ProfitLineSchema = z.object({
  key: z.string(),
  costMinor: z.number(),
  incomeMinor: z.number(),
  resultMinor: z.number(),
  entries: z.array(MoneyEntrySchema),
}) satisfies z.ZodType<ProfitLine>;
