import { z } from 'zod';
import type { SubjectWord } from './classifier';

export const SubjectWordSchema = z.object({
  word: z.string(),
  times: z.number(),
  weight: z.number(),
}) satisfies z.ZodType<SubjectWord>;
