import { z } from 'zod';
import { REFUSALS, type RefusalCode } from '../core/refusal';

export const ClockSchema = z.object({
  forwardMs: z
    .number()
    .int()
    .min(1)
    .max(366 * 86_400_000),
});

/** Problem details (RFC 9457): `code` says for programs why, `issues` what is wrong with which field. */
export const ProblemSchema = z.object({
  type: z.string(),
  status: z.number(),
  title: z.string(),
  detail: z.string(),
  code: z.enum(Object.keys(REFUSALS) as [RefusalCode, ...RefusalCode[]]),
  advice: z.string().optional(),
  issues: z.array(z.object({ at: z.string(), message: z.string() })).optional(),
});
