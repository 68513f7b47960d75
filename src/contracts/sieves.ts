import { z } from 'zod';
import { MAX_PARTS } from '../core/pool/conditions';
import { SIEVE_DEPTHS, SIEVE_RUNS } from '../core/pool/sieve-kinds';
import type { Calls } from './call';
import { SeenSchema } from './pool';
import { FEED_KEY } from './query';

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

export const DigestStateSchema = z.object({
  /** When the last digest was made; what came after it goes into the next. */
  at: z.number(),
  nextAt: z.number(),
  /** What went wrong with the last one, in words. */
  problem: z.string().nullable(),
  /** File of the last one, in the outbox. */
  file: z.string().nullable(),
});
export type DigestState = z.infer<typeof DigestStateSchema>;

export const SieveOptionsSchema = z.object({
  runs: z.enum(SIEVE_RUNS),
  /** Daily: minutes after midnight, UTC. */
  runMinute: z.number(),
  /** Whether what is new goes into the daily digest. */
  inDigest: z.boolean(),
  /** Brief whose shortlist takes what is new; null: none. */
  shortlistBrief: z.number().nullable(),
  /** How far what is new is checked and measured. */
  depth: z.enum(SIEVE_DEPTHS),
});

/** A kept stack of conditions with its sort and columns, as the query text of a pool address. */
export const StoredSieveSchema = SieveOptionsSchema.extend({
  id: z.number(),
  name: z.string(),
  view: z.string(),
  createdAt: z.number(),
  /** Times in ms since 1970; null: never, or not by itself. */
  nextAt: z.number().nullable(),
  lastAt: z.number().nullable(),
  /** Of the last run. */
  lastTotal: z.number().nullable(),
  lastNew: z.number().nullable(),
  /** Domains that are new since the person saw them. */
  fresh: z.number(),
}).meta({ id: 'Sieve' });
export type StoredSieve = z.infer<typeof StoredSieveSchema>;

export const sievesCalls = {
  'GET /sieves': {
    summary: 'Kept sieves',
    answer: z.object({
      sieves: z.array(StoredSieveSchema),
    }),
  },
  'POST /sieves': {
    summary: 'Keep a sieve',
    body: SieveSchema,
    status: 201,
    answer: z.object({
      id: z.number(),
      act: z.number().nullable(),
    }),
  },
  'PATCH /sieves/{id}': {
    summary: 'Rename a sieve, change what it shows, when it runs and what becomes of what is new',
    body: SieveChangeSchema,
    answer: StoredSieveSchema.extend({ act: z.number().nullable() }),
  },
  'DELETE /sieves/{id}': {
    summary: 'Delete a sieve',
    answer: StoredSieveSchema.extend({ act: z.number().nullable() }),
  },
  'POST /sieves/{id}/run': {
    summary: 'Run a sieve now',
    answer: z.object({
      total: z.number(),
      fresh: z.number(),
    }),
  },
  'POST /sieves/{id}/seen': {
    summary: 'What is new in a sieve has been seen',
    body: SeenSchema,
    status: 204,
  },
  'GET /sieves/{id}/file': {
    summary: 'A sieve as a file to share',
    answer: SieveFileSchema,
  },
  'POST /sieves/file': {
    summary: 'Keep a sieve from such a file',
    body: SieveFileSchema,
    status: 201,
    answer: z.object({
      id: z.number(),
      name: z.string(),
      view: z.string(),
      problems: z.array(z.string()),
    }),
  },
  'GET /sieves/{id}/feed': {
    media: ['application/atom+xml'],
    access: 'feed',
    query: { key: FEED_KEY },
    summary: 'What came new into a sieve, as an Atom feed (RFC 4287)',
  },
  'POST /digest': {
    summary: 'Make the mail digest of what is new in kept sieves now',
    answer: DigestStateSchema,
  },
} satisfies Calls;
