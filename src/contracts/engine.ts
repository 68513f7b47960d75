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

/** Where the engine listens; written to `engine.json` in the data folder. */
export const EngineAddressSchema = z.object({ port: z.number(), token: z.string(), pid: z.number() });
export type EngineAddress = z.infer<typeof EngineAddressSchema>;
