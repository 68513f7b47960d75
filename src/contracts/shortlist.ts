import { z } from 'zod';
import { ShortlistEntry } from '../core/bids/shortlist-entry';
import { STAGES } from '../core/bids/stages';
import type { Calls } from './call';
import { Minor } from './parts';
import { DomainViewSchema } from './pool';
import { idOf } from './query';

export const ShortlistAddSchema = z.object({
  briefId: z.number().int().positive(),
  names: z.array(z.string()).min(1).max(100_000),
});

export const ShortlistChangeSchema = z.object({
  briefId: z.number().int().positive(),
  stage: z.enum(STAGES).optional(),
  maximumBidMinor: Minor.nullable().optional(),
  worthLowMinor: Minor.nullable().optional(),
  worthHighMinor: Minor.nullable().optional(),
  feesMinor: Minor.nullable().optional(),
  note: z.string().max(5000).optional(),
});

export const ShortlistEntrySchema = ShortlistEntry.meta({ id: 'ShortlistEntry' });

export const shortlistCalls = {
  'GET /shortlist': {
    summary: 'The shortlist of a brief',
    query: { brief: idOf('Number of the brief; else the current one') },
    answer: z.object({
      entries: z.array(ShortlistEntrySchema.extend({ domain: DomainViewSchema })),
    }),
  },
  'POST /shortlist': {
    summary: 'Shortlist domains',
    body: ShortlistAddSchema,
    status: 201,
    answer: z.object({
      added: z.array(z.string()),
    }),
  },
  'PATCH /shortlist/{name}': {
    summary: 'Change stage, maximum bid or note',
    body: ShortlistChangeSchema,
    answer: z.object({
      before: ShortlistEntrySchema,
      act: z.number().nullable(),
    }),
  },
  'DELETE /shortlist/{name}': {
    summary: 'Take a domain off',
    query: { brief: z.coerce.number().int().min(0).describe('Number of the brief') },
    answer: z.object({
      before: ShortlistEntrySchema,
      action: z.number(),
    }),
  },
} satisfies Calls;
