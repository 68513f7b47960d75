import { z } from 'zod';

export const ClockSchema = z.object({
  forwardMs: z
    .number()
    .int()
    .min(1)
    .max(366 * 86_400_000),
});

export const ProblemSchema = z.looseObject({
  type: z.string(),
  status: z.number(),
  title: z.string(),
  detail: z.string(),
});
