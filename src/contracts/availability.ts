import { z } from 'zod';
import { EXPORT_FORMATS } from '../core/formats/exports';
import { LIFE_EVENTS } from '../core/lifecycle/life-events';
import { QUESTION_DEPTHS } from '../core/lifecycle/question-depths';
import type { Calls } from './call';
import { EXPORT_MEDIA } from './exports';
import { JobViewSchema } from './jobs';
import { ConfirmedSchema, FunnelCellSchema } from './lifecycle';
import { ServerQueueSchema } from './lookups';
import { choiceOf } from './query';
import { StoredBatchSchema } from './sources';

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

export const StoredEventSchema = z.object({
  id: z.number(),
  domainId: z.number(),
  name: z.string(),
  at: z.number(),
  kind: z.enum(LIFE_EVENTS),
  words: z.string(),
});

/** Where a question stands. */
export const QuestionPlaceSchema = z.object({
  step: z.enum(['record', 'registrar', 'dns']),
  server: z.string(),
  /** How many stand before it in its lane. */
  before: z.number(),
  /** Why it cannot be put now, and when it is put again at the latest, where that is known; null: its turn comes. */
  waits: z
    .object({
      words: z.string(),
      until: z.number().nullable(),
    })
    .nullable(),
});

/** One answer of one server. */
export const CheckEntrySchema = z.object({
  step: z.enum(['registrar', 'dns', 'whois', 'rdap']),
  server: z.string(),
  outcome: z.string(),
  detail: z.string(),
  elapsedMs: z.number(),
  /** When it came, ms since 1970 UTC; absent: when the verdict was made. */
  at: z.number().optional(),
  /** The answer itself, where it could not be understood. */
  text: z.string().nullable().optional(),
  /** Until the verdict is made: the words that decided, and how it is known that the server can know. */
  words: z.string().nullable().optional(),
  proof: z.string().nullable().optional(),
  /** Of a registrar: what it asks, in minor units, and in which currency. */
  priceMinor: z.number().nullable().optional(),
  currency: z.string().nullable().optional(),
});

export const StoredCheckSchema = CheckEntrySchema.extend({
  at: z.number(),
});

export const availabilityCalls = {
  'POST /checks': {
    summary: 'Check and measure the domains of a source, or some by id or name',
    body: CheckSchema,
    status: 202,
    answer: z.object({
      job: JobViewSchema,
    }),
  },
  'GET /batches': {
    summary: 'Batches of names that were checked',
    answer: z.object({
      batches: z.array(StoredBatchSchema),
    }),
  },
  'POST /batches': {
    summary: 'Check names or addresses in a text',
    body: BatchSchema,
    status: 202,
    answer: z.object({
      id: z.number(),
      pieces: z.number(),
      job: JobViewSchema,
    }),
  },
  'GET /batches/{id}': {
    summary: 'How far the names of a batch have come, and when the rest will be through',
    answer: z.object({
      id: z.number(),
      name: z.string(),
      at: z.number(),
      depth: z.enum(QUESTION_DEPTHS),
      read: z.number(),
      repeated: z.number(),
      setAside: z.number(),
      domains: z.number(),
      cells: z.array(FunnelCellSchema),
      waiting: z.array(
        z.object({
          waitsFor: z.string(),
          words: z.string(),
          names: z.number(),
          nextAt: z.number().nullable(),
        }),
      ),
      lanes: z.array(ServerQueueSchema.extend({ mine: z.number() })),
    }),
  },
  'GET /batches/{id}/file': {
    media: EXPORT_MEDIA,
    summary: 'The names of a batch with verdict and evidence, streamed',
    query: { format: choiceOf('What is answered', EXPORT_FORMATS) },
  },
  'GET /registries': {
    summary: 'Servers with what they bear, what they taught, and when their questions will be through',
    answer: z.object({
      registries: z.array(ServerQueueSchema),
    }),
  },
  'DELETE /registries/{server}': {
    summary: 'Forget what a server taught',
    status: 204,
  },
  'POST /domains/{name}/confirm': {
    summary: 'Take the verdict again now, down to the registrar',
    answer: ConfirmedSchema,
  },
  'POST /domains/{name}/raise': {
    needs: 'act',
    summary: 'Ask about a domain before all others',
    status: 202,
    answer: z.object({
      place: QuestionPlaceSchema.nullable(),
    }),
  },
} satisfies Calls;
