import { z } from 'zod';
import { Description } from '../core/connections/connection';
import { ConnectionTriedSchema, LaidOutSchema } from '../core/connections/tried';
import type { Calls } from './call';

/** A connection as it is shown: of its key and password only whether there are any. */
export const ConnectionViewSchema = z.object({
  id: z.string(),
  isOn: z.boolean(),
  isDry: z.boolean(),
  user: z.string(),
  hasKey: z.boolean(),
  hasPassword: z.boolean(),
  description: Description,
  /** The server that it asks. */
  server: z.string(),
  /** Whether it is the one of its use that is asked. */
  isAsked: z.boolean(),
  state: z.enum(['works', 'fails', 'untried', 'off']),
  /** Why, in a sentence. */
  words: z.string(),
  /** When it was tried as it is now, ms since 1970 UTC; null: it was not. */
  at: z.number().nullable(),
});
export type ConnectionView = z.infer<typeof ConnectionViewSchema>;

/** What belongs to who uses it. A key or password that is left empty stays what it is, as long as the same server is asked. */
const Own = z.object({
  isOn: z.boolean().default(true),
  /** Of what takes orders: whether they are only written down, with all that would be sent. */
  isDry: z.boolean().default(true),
  key: z.string().max(2000).default(''),
  user: z.string().max(200).default(''),
  password: z.string().max(500).default(''),
});

/** A description as it is handed on. Whoever takes it enters a key of their own. */
export const ConnectionFileSchema = Description.and(z.object({ jamLadleConnection: z.literal(1) }));

const Kept = z.object({ connection: ConnectionViewSchema, act: z.number().nullable() });

export const TriedConnectionSchema = z.object({ tried: ConnectionTriedSchema, laidOut: LaidOutSchema.nullable() });

export const connectionsCalls = {
  'GET /connections': {
    summary: 'Services that are described, and how each stands',
    answer: z.object({ connections: z.array(ConnectionViewSchema) }),
  },
  'POST /connections': {
    needs: 'act',
    summary: 'Describe a service; a description that was handed on is taken as it is',
    body: Description.and(Own),
    status: 201,
    answer: Kept,
  },
  'PUT /connections/{id}': {
    needs: 'act',
    summary: 'Describe a service otherwise',
    body: Description.and(Own),
    answer: Kept,
  },
  'DELETE /connections/{id}': {
    needs: 'act',
    summary: 'Take a service away; its key is forgotten',
    answer: z.object({ act: z.number().nullable() }),
  },
  'GET /connections/{id}/file': {
    summary: 'The description of a service as a file to hand on, without keys',
    answer: ConnectionFileSchema,
  },
  'POST /connections/try': {
    needs: 'act',
    summary: 'Ask a service one real question, by a description that need not be kept, and lay its answer out',
    body: z.object({
      /** The one whose kept key is sent, where none is given; null: a new one. */
      id: z.string().nullable().default(null),
      connection: Description.and(Own),
      /** A domain, words, or the number of an order; of listings nothing; of what takes orders an answer as its documentation writes it. */
      question: z.string().max(20_000).default(''),
    }),
    answer: TriedConnectionSchema,
  },
} satisfies Calls;
