import { z } from 'zod';
import { DILIGENCE_KEYS, type DiligenceItem } from '../core/verdict/diligence';
import { MARK_VERDICTS } from '../core/verdict/mark-verdicts';

export const MarkReviewSchema = z.object({
  verdict: z.enum(MARK_VERDICTS),
  note: z.string().trim().max(2000).default(''),
});

export const NoteSchema = z.object({ text: z.string().trim().min(1).max(10_000) });

/** A point of due diligence as the person answers it. */
export const TickSchema = z.object({
  item: z.enum(DILIGENCE_KEYS as [DiligenceItem, ...DiligenceItem[]]),
  state: z.enum(['fine', 'look', 'bad']),
  note: z.string().trim().max(2000).default(''),
});

export const TableAskSchema = z.object({
  sort: z.string().max(40).nullable().default(null),
  order: z.enum(['up', 'down']).default('up'),
  filter: z.string().max(200).default(''),
  offset: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(1000).default(25),
  format: z.enum(['json', 'csv', 'jsonl']).default('json'),
});
