import { z } from 'zod';
/** A server with what it bears and when its questions will be through. Times in ms; moments since 1970 UTC. */
export const ServerQueueSchema = z.object({
  server: z.string(),
  waiting: z.number(),
  intervalMs: z.number(),
  declaredMs: z.number(),
  isLearned: z.boolean(),
  reason: z.string(),
  refusedTimes: z.number(),
  refusedAt: z.number().nullable(),
  /** It wants to be left alone until then; null: it does not. */
  pausedUntil: z.number().nullable(),
  /** When the last of its questions is asked; null: none waits. */
  throughAt: z.number().nullable(),
});
export type ServerQueue = z.infer<typeof ServerQueueSchema>;
