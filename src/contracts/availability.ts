import { z } from 'zod';
import { QUESTION_DEPTHS } from '../core/lifecycle/question-depths';

const MOST_TEXT = 8_000_000;

export const BatchSchema = z.object({
  text: z.string().max(MOST_TEXT, 'at most 8 million characters; import a list for more'),
  name: z.string().trim().min(1).max(120).optional(),
  /** How far: until it is known whether a name is taken, its free ones down to the registrar, or records of taken names as well. */
  depth: z.enum(QUESTION_DEPTHS).default('record'),
  /** Verdicts that are no older are taken as they are. */
  freshMinutes: z.number().min(0).max(525_600).default(60),
});

export const CheckSchema = z
  .object({
    sourceId: z.number().int().positive().optional(),
    ids: z.array(z.number().int().positive()).max(100_000).optional(),
    names: z.array(z.string()).max(100_000).optional(),
  })
  .refine((which) => [which.sourceId, which.ids, which.names].filter((given) => given !== undefined).length === 1, {
    error: 'name a source, ids or names',
  });
