import { z } from 'zod';
import { STAGES } from '../core/bids/stages';
import { Minor } from './parts';

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
