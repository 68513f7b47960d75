import { z } from 'zod';
import { STEP_STATES } from '../core/rebuild/checklist';

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
