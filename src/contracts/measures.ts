import { z } from 'zod';

export const MeasureSchema = z
  .object({
    ids: z.array(z.number().int().positive()).max(100_000),
    names: z.array(z.string().max(253)).max(1000),
    /** Waits for its turn behind the gate and within the day's budget, as what sieves let through does. */
    withinBudget: z.boolean(),
  })
  .partial()
  .refine(({ ids, names }) => (ids?.length ?? 0) + (names?.length ?? 0) > 0, 'give ids or names');
