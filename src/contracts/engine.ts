import { z } from 'zod';

export const EngineHealthSchema = z.object({
  state: z.enum(['starting', 'ready']),
  poolSize: z.number(),
  poolVersion: z.number(),
  jobsRunning: z.number(),
  memoryBytes: z.number(),
  startedAt: z.number(),
});
export type EngineHealth = z.infer<typeof EngineHealthSchema>;
