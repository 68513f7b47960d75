import { z } from 'zod';
import { FindSwitchFields } from '../core/crawl/params';
import { DATE_ORDERS } from '../core/formats/dates';
import { LINK_FIELDS } from '../core/formats/link-rows';
import { LIST_FIELDS } from '../core/formats/list-fields';
import { Endings, Sites, Upload } from './parts';

const Delimiter = z.string().regex(/^[\t -!#-~]$/, 'a delimiter is one character of ASCII, and no quote');

export const ListSchema = z.object({
  upload: Upload,
  name: z.string().trim().min(1).max(120),
  delimiter: Delimiter,
  hasHeader: z.boolean(),
  /** Rows before the first that counts; absent: they are looked for. */
  headRows: z.number().int().min(0).max(1000).optional(),
  /** Which comes first in dates of numbers; null: as the columns tell. */
  order: z.enum(DATE_ORDERS).nullable().default(null),
  /** Which sheet, array or file of it is the list; null: the likeliest. */
  sheet: z.string().max(200).nullable().default(null),
  columns: z.array(z.enum(LIST_FIELDS)).min(1).max(2000),
  venue: z.string().trim().max(80).nullable().default(null),
  excludedEndings: Endings.default([]),
  checkAfter: z.boolean().default(false),
});

export const ZonesSchema = z.object({
  name: z.string().trim().min(1).max(120),
  /** Uploads; plain or gzipped zone files in master format. */
  older: Upload,
  newer: Upload,
  origin: z.string().trim().max(253).default(''),
  parking: z.array(z.string().trim().min(1).max(253)).max(1000).default([]),
  excludedEndings: Endings.default([]),
  checkAfter: z.boolean().default(false),
});

export const LinksSchema = z.object({
  upload: Upload,
  name: z.string().trim().min(1).max(120),
  delimiter: Delimiter.optional(),
  hasHeader: z.boolean().optional(),
  columns: z.array(z.enum(LINK_FIELDS)).min(2).max(500).optional(),
  /** When its counts are from; absent: now. */
  asOf: z.iso.date().optional(),
});

export const WebAddress = z.url({ protocol: /^https?$/, error: 'an address begins with http:// or https://' });

/** Minutes between two looks; null: only when asked to. */
const EveryMinutes = z
  .number()
  .int()
  .min(1)
  .max(60 * 24 * 31);

export const FeedSchema = z.object({
  name: z.string().trim().max(120).optional(),
  url: WebAddress.nullable().default(null),
  /** The described service that is asked instead of an address. */
  connection: z.string().max(40).nullable().default(null),
  everyMinutes: EveryMinutes.nullable().default(null),
  /** How the table of a venue without a feed of our kind is read; absent: it has one. */
  table: z
    .object({
      upload: Upload,
      delimiter: Delimiter,
      hasHeader: z.boolean(),
      headRows: z.number().int().min(0).max(1000).optional(),
      order: z.enum(DATE_ORDERS).nullable().default(null),
      sheet: z.string().max(200).nullable().default(null),
      columns: z.array(z.enum(LIST_FIELDS)).min(1).max(2000),
      venue: z.string().trim().min(1).max(80),
      currency: z
        .string()
        .regex(/^[A-Z]{3}$/, 'a currency is written like EUR')
        .nullable()
        .default(null),
    })
    .nullable()
    .default(null),
});

export const CutSchema = z.object({
  upload: Upload,
  name: z.string().trim().min(1).max(120),
  delimiter: Delimiter,
  hasHeader: z.boolean(),
  columns: z.array(z.enum(LINK_FIELDS)).min(2).max(500),
  excludedEndings: Endings.default([]),
  ...FindSwitchFields,
  knownSites: Sites.default([]),
  leastSites: z.number().int().min(1).max(1_000_000).default(1),
  checkAfter: z.boolean().default(true),
});

/** A mail folder, and which of its mails count. */
export const MailboxSchema = z.object({
  /** `imaps://login@host:port/folder`. */
  target: z.string().trim().min(1).max(2000),
  /** Empty: the one that is kept. */
  password: z.string().max(500).default(''),
  from: z.string().trim().max(200).default(''),
  subject: z.string().trim().max(200).default(''),
});

export const WatchSchema = MailboxSchema.extend({
  kind: z.enum(['folder', 'address', 'mail']),
  /** An absolute path, an address, or that of a mail folder. */
  target: z.string().trim().min(1).max(2000),
  name: z.string().trim().min(1).max(120),
  everyMinutes: EveryMinutes,
  excludedEndings: Endings.default([]),
  checkAfter: z.boolean().default(false),
});

export const WatchChangeSchema = z.object({ isOn: z.boolean().optional(), everyMinutes: EveryMinutes.optional() });
