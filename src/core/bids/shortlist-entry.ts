import { z } from 'zod';
import { YOU } from '../work/you';
import { STAGES } from './stages';

/** What was said of a domain on the shortlist of a brief. */
export const ShortlistEntry = z.object({
  domainId: z.number(),
  briefId: z.number(),
  stage: z.enum(STAGES),
  maximumBidMinor: z.number().nullable(),
  /** What it is worth to the person, in minor units of the brief's currency; the range is meant to hold six times in ten. */
  worthLowMinor: z.number().nullable(),
  worthHighMinor: z.number().nullable(),
  /** Paid beside the price; null: as the brief says. */
  feesMinor: z.number().nullable(),
  note: z.string(),
  addedAt: z.number(),
  /** Who put it there: the name that somebody signed in by, a script's, a sieve's, or `you`. */
  addedBy: z.string().default(YOU),
  changedAt: z.number(),
});
export type ShortlistEntry = z.infer<typeof ShortlistEntry>;
