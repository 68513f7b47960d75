import { z } from 'zod';
import type { Calls } from './call';
import { DoneActSchema } from './domains';

/** Something that was done by hand, whatever it was about. */
export const LastActSchema = z.object({
  /** `act 12`, `action 7`: what undoes it, and how it is told from others. */
  key: z.string(),
  at: z.number(),
  words: z.string(),
  undoneAt: z.number().nullable(),
  /** The name that somebody signed in by, a script's, or `you`. */
  who: z.string(),
  /** What it is undone as, and under which number. */
  kind: z.enum(['act', 'action']),
  id: z.number(),
});
export type LastAct = z.infer<typeof LastActSchema>;

export const actsCalls = {
  'GET /acts': {
    summary: 'What was changed by hand lately, each with what undoes it',
    answer: z.object({
      acts: z.array(LastActSchema),
    }),
  },
  'POST /acts/{id}/undo': {
    needs: 'act',
    summary: 'Give back what an act changed',
    answer: DoneActSchema,
  },
} satisfies Calls;
