import { z } from 'zod';
import type { CsvProblem } from '../core/formats/csv';
import { LIST_PHASES } from '../core/formats/list-batch';
import type { ListPreview, ListShape } from '../core/formats/list-columns';
import { LIST_FIELDS, LIST_FORMATS, LISTING_KINDS } from '../core/formats/list-fields';
import type { ListRow } from '../core/formats/list-row';
import type { ColumnTally } from '../core/formats/tally';
import { ToldSchema } from '../core/formats/told';
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
  /** Rows before the first that counts. */
  headRows: z.number(),
  columns: z.array(z.enum(LIST_FIELDS)),
  /** How the values of each column are written. */
  told: z.array(ToldSchema),
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
  expiresAt: z.number().nullable(),
  firstSeenAt: z.number().nullable(),
  registrar: z.string().nullable(),
  backlinks: z.number().nullable(),
  referringDomains: z.number().nullable(),
  traffic: z.number().nullable(),
  keywords: z.number().nullable(),
  position: z.number().nullable(),
  cpcMinor: z.number().nullable(),
  cpcCurrency: z.string().nullable(),
  scores: z.array(z.object({ name: z.string(), value: z.number(), of: z.number().nullable() })),
  language: z.string().nullable(),
  country: z.string().nullable(),
}) satisfies z.ZodType<ListRow>;

export const ColumnTallySchema = z.object({
  column: z.number(),
  read: z.number(),
  empty: z.number(),
  notUnderstood: z.number(),
  examples: z.array(z.string()),
}) satisfies z.ZodType<ColumnTally>;

export const ListPreviewSchema = ListShapeSchema.extend({
  tally: z.array(ColumnTallySchema),
  untold: z.array(z.number()),
  header: z.array(z.string()).nullable(),
  rows: z.array(z.array(z.string())),
  readings: z.array(z.union([z.string(), ListRowSchema])),
}) satisfies z.ZodType<ListPreview>;
