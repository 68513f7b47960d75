import { z } from 'zod';
import { MAX_PARTS } from '../core/pool/conditions';
import { SIEVE_DEPTHS, SIEVE_RUNS } from '../core/pool/sieve-kinds';

export const SieveSchema = z.object({
  name: z.string().trim().min(1, 'a sieve needs a name').max(120),
  view: z.string().max(20_000),
});

export const SieveChangeSchema = SieveSchema.partial().extend({
  runs: z.enum(SIEVE_RUNS).optional(),
  /** Daily: minutes after midnight, UTC. */
  runMinute: z.number().int().min(0).max(1439).optional(),
  inDigest: z.boolean().optional(),
  shortlistBrief: z.number().int().positive().nullable().optional(),
  depth: z.enum(SIEVE_DEPTHS).optional(),
});

export const SieveViewSchema = z.looseObject({ id: z.number(), name: z.string(), view: z.string(), fresh: z.number() });

/** A sieve to be shared: sources, tags and the like by name, long lists in full. */
export const SieveFileSchema = z.object({
  kind: z.literal('sieve'),
  version: z.literal(1),
  name: SieveSchema.shape.name,
  conditions: z.array(z.string().max(20_000)).max(MAX_PARTS),
  sort: z.string().max(500).default(''),
  columns: z.string().max(2000).default(''),
  names: z.record(z.string(), z.record(z.string(), z.string().max(200))).default({}),
  lists: z.record(z.string(), z.array(z.string().max(253)).max(200_000)).default({}),
});
