import { z } from 'zod';

export const EngineHealthSchema = z.object({
  state: z.enum(['starting', 'ready']),
  poolSize: z.number(),
  poolVersion: z.number(),
  jobsRunning: z.number(),
  memoryBytes: z.number(),
  startedAt: z.number(),
  /** What is damaged in the database, in words, and since when it is known; null: nothing is known to be. */
  damage: z.object({ at: z.number(), found: z.array(z.string()) }).nullable(),
  /** What was found damaged at the start and made anew from the database, in words; null: nothing. */
  mended: z.string().nullable(),
});
export type EngineHealth = z.infer<typeof EngineHealthSchema>;

/** Where the engine listens; written to `engine.json` in the data folder. */
export const EngineAddressSchema = z.object({ port: z.number(), token: z.string(), pid: z.number() });
export type EngineAddress = z.infer<typeof EngineAddressSchema>;
