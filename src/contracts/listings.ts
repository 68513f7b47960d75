import { z } from 'zod';
import { LISTING_KINDS } from '../core/formats/list-fields';
import { CHANGE_KINDS, type ListingChange } from '../core/listings/changes';
import { LISTING_STATES, type Listing, type PriceStep, RESERVES } from '../core/listings/listing';

export const PriceStepSchema = z.object({
  at: z.number(),
  priceMinor: z.number(),
}) satisfies z.ZodType<PriceStep>;

export const ListingSchema = z.object({
  kind: z.enum(LISTING_KINDS),
  venue: z.string().nullable(),
  state: z.enum(LISTING_STATES),
  priceMinor: z.number().nullable(),
  currency: z.string().nullable(),
  reserve: z.enum(RESERVES).nullable(),
  bids: z.number().nullable(),
  watchers: z.number().nullable().optional(),
  closingAt: z.number().nullable(),
  steps: z.array(PriceStepSchema),
  url: z.string().nullable(),
}) satisfies z.ZodType<Listing>;

export const ListingChangeSchema = z.object({
  what: z.enum(CHANGE_KINDS),
  was: z.union([z.string(), z.number()]).nullable(),
  is: z.union([z.string(), z.number()]).nullable(),
}) satisfies z.ZodType<ListingChange>;
