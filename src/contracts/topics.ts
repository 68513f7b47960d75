import { z } from 'zod';
import type { SubjectVerdict, SubjectWord } from '../core/topics/classifier';

export const SubjectWordSchema = z.object({
  word: z.string(),
  times: z.number(),
  weight: z.number(),
}) satisfies z.ZodType<SubjectWord>;

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
