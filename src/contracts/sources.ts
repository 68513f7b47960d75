import { z } from 'zod';
import { DATE_ORDERS } from '../core/formats/dates';
import { LINK_FIELDS } from '../core/formats/link-rows';
import { LIST_FORMATS, LISTING_KINDS } from '../core/formats/list-fields';
import { REFERRER_FIELDS } from '../core/formats/referrer-fields';
import { CUT_NAMES } from '../core/formats/referrers';
import { SOURCE_KINDS, WATCH_KINDS } from '../core/formats/source-kinds';
import { QUESTION_DEPTHS } from '../core/lifecycle/question-depths';
import { TriedSchema } from '../core/setup/tried';
import type { Calls } from './call';

import { ListPreviewSchema } from './formats';
import { JobViewSchema } from './jobs';
import { ListingSchema } from './listings';
import { StoredChangeSchema } from './offers';
import { countOf, listOf, textOf } from './query';
import {
  CutSchema,
  FeedSchema,
  LinksSchema,
  ListSchema,
  MailboxSchema,
  WatchChangeSchema,
  WatchSchema,
  WebAddress,
  ZonesSchema,
} from './source-forms';

export const SiteYieldSchema = z
  .object({
    site: z.string(),
    state: z.enum(['dropped', 'reading', 'blocking', 'unreachable']),
    note: z.string().nullable(),
    pages: z.number(),
    failed: z.number(),
    queued: z.number(),
    beyond: z.number(),
    challenges: z.number(),
    /** Outside domains first found here, and how many of them are free or about to be. */
    domains: z.number(),
    lapsed: z.number(),
  })
  .meta({ id: 'SiteYield' });
export type SiteYield = z.infer<typeof SiteYieldSchema>;
export const FeedLookSchema = z.object({ url: WebAddress });
export const SourceCountsSchema = z.object({
  rows_read: z.number(),
  rows_taken: z.number(),
  rows_repeated: z.number(),
  rows_excluded: z.number(),
  rows_set_aside: z.number(),
  domains_new: z.number(),
});

export const SourceRowSchema = SourceCountsSchema.extend({
  id: z.number(),
  kind: z.enum(SOURCE_KINDS),
  name: z.string(),
  detail: z.record(z.string(), z.unknown()),
  created_at: z.number(),
  undone_at: z.number().nullable(),
  /** What undoing it did. */
  undone: z
    .object({
      left: z.number(),
      named: z.number(),
      shortlisted: z.number(),
    })
    .nullable(),
}).meta({ id: 'Source' });

/** Names that were pasted to be checked: a list, with how far it is asked. */
export const StoredBatchSchema = SourceRowSchema.extend({
  detail: z.looseObject({
    isBatch: z.literal(true),
    depth: z.enum(QUESTION_DEPTHS),
    freshMs: z.number(),
  }),
});

/** Something that is looked at again and again. Times in ms since 1970 UTC. */
export const StoredWatchSchema = z
  .object({
    id: z.number(),
    kind: z.enum(WATCH_KINDS),
    /** Path of the folder, or address. */
    target: z.string(),
    name: z.string(),
    /** How its files are imported. */
    options: z.object({
      excludedEndings: z.array(z.string()),
      checkAfter: z.boolean(),
      /** Of a mail folder: what sender and subject have to hold; '': anything. */
      from: z.string(),
      subject: z.string(),
    }),
    /** Of a venue: its source. */
    sourceId: z.number().nullable(),
    everyMs: z.number(),
    isOn: z.boolean(),
    nextAt: z.number(),
    lastAt: z.number().nullable(),
    /** What the last look brought, in words. */
    outcome: z.string().nullable(),
    etag: z.string().nullable(),
    modified: z.string().nullable(),
    hash: z.string().nullable(),
  })
  .meta({ id: 'Watch' });
export type StoredWatch = z.infer<typeof StoredWatchSchema>;

/** What came of looking into a mail folder. */
export const TriedMailboxSchema = TriedSchema.omit({ ability: true });
export type TriedMailbox = z.infer<typeof TriedMailboxSchema>;

/** A row of a link export as it will be read. */
export const LinkReadingSchema = z.object({
  from: z.string().nullable(),
  to: z.string().nullable(),
  isInside: z.boolean(),
});
export type LinkReading = z.infer<typeof LinkReadingSchema>;

export const CutLookSchema = z.object({
  columns: z.array(z.enum(LINK_FIELDS)),
  header: z.array(z.string()).nullable(),
  rows: z.array(z.array(z.string())),
  readings: z.array(LinkReadingSchema),
  remembered: z.boolean(),
  charset: z.string(),
  gzip: z.boolean(),
  format: z.enum(LIST_FORMATS),
  /** Of JSON Lines: the key of each column. */
  keys: z.array(z.string()),
  delimiter: z.string(),
  hasHeader: z.boolean(),
});
export type CutLook = z.infer<typeof CutLookSchema>;

export const ListLookSchema = ListPreviewSchema.extend({
  charset: z.string(),
  gzip: z.boolean(),
  /** Whether the columns are those of an earlier file with the same header. */
  remembered: z.boolean(),
  /** Sheets, arrays or files of the file that could be the list, and the one that was taken; empty where there is one. */
  sheets: z.array(z.string()),
  sheet: z.string().nullable(),
});
export type ListLook = z.infer<typeof ListLookSchema>;

/** What is found at the address of a venue: a feed of our kind, or a table whose columns are to be mapped. */
export const VenueLookSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('feed'),
    venue: z.string(),
    currency: z.string(),
    listings: z.number(),
  }),
  z.object({
    kind: z.literal('table'),
    upload: z.string(),
    look: ListLookSchema,
  }),
]);
export type VenueLook = z.infer<typeof VenueLookSchema>;

export const ReferrerPreviewSchema = z.object({
  header: z.array(z.string()),
  columns: z.array(z.enum(REFERRER_FIELDS)),
  /** Whether the columns were remembered from a file with the same header. */
  remembered: z.boolean(),
  rows: z.array(z.array(z.string())),
  read: z.number(),
  /** Rows set aside, by reason; bare addresses among them. */
  aside: z.array(
    z.object({
      reason: z.string(),
      rows: z.number(),
      example: z.string(),
    }),
  ),
  repeated: z.number(),
  /** What each cut keeps out, in their order. */
  cuts: z.array(
    z.object({
      cut: z.enum(CUT_NAMES),
      removes: z.number(),
    }),
  ),
  kept: z.number(),
  sample: z.array(z.string()),
});
export type ReferrerPreview = z.infer<typeof ReferrerPreviewSchema>;

/** A source that was begun, with the job that reads it. */
export const StartedSchema = z.object({ source: SourceRowSchema, job: JobViewSchema });

/** What corrects how a table was read. */
const LOOK_AGAIN = {
  upload: z.uuid().optional().describe('Look again at a file sent before'),
  delimiter: z.string().optional().describe('One character'),
  header: z.enum(['1', '0']).optional().describe('Whether there is a header'),
  headRows: z.coerce
    .number()
    .int()
    .min(0)
    .max(1000)
    .optional()
    .describe('Rows before the first that counts, the header the last of them'),
  order: z.enum(DATE_ORDERS).optional().describe('Which comes first in dates of numbers, day or month'),
  sheet: z.string().max(200).optional().describe('Which sheet, array or file of it is the list'),
  columns: z
    .string()
    .transform((text) => text.split(','))
    .optional()
    .describe('Meaning of each column, by commas'),
};

export const sourcesCalls = {
  'GET /sources': {
    summary: 'All sources',
    answer: z.object({
      sources: z.array(SourceRowSchema),
    }),
  },
  'GET /sources/{id}': {
    summary: 'One source with its jobs, phases and, for a crawl, its sites',
    answer: SourceRowSchema.extend({
      jobs: z.array(JobViewSchema),
      phases: z.array(z.object({ phase: z.string(), domains: z.number() })),
      /** Of a crawl. */
      sites: z.array(SiteYieldSchema).optional(),
      troubles: z
        .array(z.object({ state: z.string(), note: z.string(), pages: z.number(), example: z.string() }))
        .optional(),
    }),
  },
  'GET /sources/{id}/rejects': {
    media: ['text/csv'],
    summary: 'Rows that were set aside, with line and reason, as CSV',
  },
  'POST /sources/lists/preview': {
    summary: 'How a list would be read',
    file: true,
    query: LOOK_AGAIN,
    answer: ListLookSchema.extend({ upload: z.string() }),
  },
  'POST /sources/lists': {
    summary: 'Import a list: JSON that names a previewed upload, or the file itself',
    body: ListSchema,
    file: true,
    query: {
      name: textOf('Name of the source, with a file', 'List'),
      columns: LOOK_AGAIN.columns,
      delimiter: LOOK_AGAIN.delimiter,
      headRows: LOOK_AGAIN.headRows,
      order: LOOK_AGAIN.order,
      sheet: LOOK_AGAIN.sheet,
      exclude: listOf('Endings that are out, by commas'),
      check: z.enum(['0', '1']).default('0').describe('1: check and measure afterwards'),
    },
    status: 202,
    answer: StartedSchema,
  },
  'POST /uploads': {
    summary: 'Send a file that a later call names',
    file: true,
    status: 201,
    answer: z.object({
      upload: z.string(),
    }),
  },
  'POST /sources/zones': {
    summary: 'Compare two copies of a zone file: names that are gone, names that moved to parking servers',
    body: ZonesSchema,
    status: 202,
    answer: StartedSchema,
  },
  'POST /sources/links': {
    summary:
      'Import the export of a link index: the file itself, or JSON that names an upload and what its columns mean',
    body: LinksSchema,
    file: true,
    query: {
      name: textOf('Name of the source', 'Link index'),
      asOf: z.string().optional().describe('Date of its figures'),
    },
    status: 202,
    answer: StartedSchema,
  },
  'POST /sources/feeds/preview': {
    summary: 'What a venue hands out: a feed of our kind, or a table and how it would be read',
    body: FeedLookSchema,
    answer: VenueLookSchema,
  },
  'POST /sources/feeds': {
    summary: 'Read a venue, once or again and again',
    body: FeedSchema,
    status: 202,
    answer: StartedSchema,
  },
  'POST /sources/{id}/refresh': {
    summary: 'Read a venue again now',
    status: 202,
    answer: z.object({
      job: JobViewSchema,
    }),
  },
  'GET /sources/{id}/listings': {
    summary: 'Open offers of a venue and what its readings changed',
    query: {
      kind: z.enum(LISTING_KINDS).nullable().default(null).describe('One kind of listing; else all'),
      offset: countOf('Offers to pass over', 0),
    },
    answer: z.object({
      listings: z.array(
        ListingSchema.extend({
          sourceId: z.number(),
          sourceName: z.string(),
          firstAt: z.number(),
          seenAt: z.number(),
          endedAt: z.number().nullable(),
          name: z.string(),
        }),
      ),
      kinds: z.array(
        z.object({
          kind: z.enum(LISTING_KINDS),
          listings: z.number(),
        }),
      ),
      changes: z.array(StoredChangeSchema),
    }),
  },
  'POST /sources/{id}/undo': {
    summary: 'Take back an import as a whole',
    status: 202,
    answer: z.object({
      job: JobViewSchema,
    }),
  },
  'POST /sources/cuts/preview': {
    summary: 'How a link export would be read',
    file: true,
    query: LOOK_AGAIN,
    answer: CutLookSchema.extend({ upload: z.string() }),
  },
  'POST /sources/cuts': {
    summary: 'Cut a link export to outside domains',
    body: CutSchema,
    status: 202,
    answer: StartedSchema,
  },
  'GET /watches': {
    summary: 'Folders, addresses, mail folders and venues that are looked at again and again',
    answer: z.object({
      watches: z.array(StoredWatchSchema),
    }),
  },
  'POST /watches': {
    summary: 'Watch a folder, an address or a mail folder for lists',
    body: WatchSchema,
    status: 201,
    answer: z.object({
      watch: StoredWatchSchema.nullable(),
    }),
  },
  'POST /watches/try': {
    needs: 'act',
    summary: 'Look into a mail folder without taking anything: whether one is let in, and which mails have lists',
    body: MailboxSchema,
    answer: TriedMailboxSchema,
  },
  'PATCH /watches/{id}': {
    summary: 'Stop or resume watching, or change how often',
    body: WatchChangeSchema,
    answer: z.object({
      watch: StoredWatchSchema.nullable(),
      act: z.number().nullable(),
    }),
  },
  'DELETE /watches/{id}': {
    summary: 'Forget a watch; what it brought in stays',
    answer: z.object({
      act: z.number().nullable(),
    }),
  },
  'POST /watches/{id}/look': {
    summary: 'Look now',
    status: 202,
    answer: z.object({}),
  },
} satisfies Calls;
