import { z } from 'zod';
import type { CsvProblem } from '../core/formats/csv';
import { LIST_PHASES } from '../core/formats/list-batch';
import type { ListPreview, ListRow, ListShape } from '../core/formats/list-columns';
import { LIST_FIELDS, LIST_FORMATS, LISTING_KINDS } from '../core/formats/list-fields';
import { RESERVES } from '../core/listings/listing';

export const CsvProblemSchema = z
  .object({
    line: z.number(),
    reason: z.string(),
    sample: z.string(),
  })
  .meta({ id: 'RowProblem' }) satisfies z.ZodType<CsvProblem>;

export const ListShapeSchema = z.object({
  format: z.enum(LIST_FORMATS),
  keys: z.array(z.string()),
  delimiter: z.string(),
  hasHeader: z.boolean(),
  columns: z.array(z.enum(LIST_FIELDS)),
}) satisfies z.ZodType<ListShape>;

export const ListRowSchema = z.object({
  domain: z.string(),
  ending: z.string(),
  phase: z.enum(LIST_PHASES).nullable(),
  dropAt: z.number().nullable(),
  closingAt: z.number().nullable(),
  priceMinor: z.number().nullable(),
  currency: z.string().nullable(),
  bids: z.number().nullable(),
  kind: z.enum(LISTING_KINDS).nullable(),
  venue: z.string().nullable(),
  reserve: z.enum(RESERVES).nullable(),
  url: z.string().nullable(),
  registeredAt: z.number().nullable(),
  backlinks: z.number().nullable(),
  referringDomains: z.number().nullable(),
}) satisfies z.ZodType<ListRow>;

export const ListPreviewSchema = ListShapeSchema.extend({
  header: z.array(z.string()).nullable(),
  rows: z.array(z.array(z.string())),
  readings: z.array(z.union([z.string(), ListRowSchema])),
}) satisfies z.ZodType<ListPreview>;
