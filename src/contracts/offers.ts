import { z } from 'zod';
import { LISTING_KINDS } from '../core/formats/list-fields';
import { CHANGE_KINDS } from '../core/listings/changes';
import { ListingChangeSchema } from './listings';

export const SalesKnownSchema = z.object({
  count: z.number(),
  /** When the first and the last was; null: none is known. */
  from: z.number().nullable(),
  to: z.number().nullable(),
});

export const StoredChangeSchema = ListingChangeSchema.extend({
  what: z.enum(CHANGE_KINDS),
  at: z.number(),
  kind: z.enum(LISTING_KINDS),
  name: z.string(),
  venue: z.string().nullable(),
  currency: z.string().nullable(),
});
