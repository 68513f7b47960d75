import { z } from 'zod';
import type { SubjectVerdict } from '../core/topics/classifier';
import { SubjectWordSchema } from '../core/topics/subject-schema';
export const SubjectVerdictSchema = z.object({
  subject: z.string().nullable(),
  confidence: z.number(),
  runnerUp: z
    .object({
      subject: z.string(),
      confidence: z.number(),
    })
    .nullable(),
  words: z.array(SubjectWordSchema),
  known: z.number(),
}) satisfies z.ZodType<SubjectVerdict>;
