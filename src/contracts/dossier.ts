import { z } from 'zod';
import { LIST_FIGURES } from '../core/formats/list-figures';
import { PHASES } from '../core/lifecycle/phases';
import { EvidenceRowSchema, TableColumnSchema } from './evidence';
import { DiscountSchema } from './links';

/** Something that was said of a domain, or changed, and by whom. */
export const HistoryEntrySchema = z.object({
  /** ms since 1970 UTC; null: nobody kept when. */
  at: z.number().nullable(),
  what: z.string(),
  was: z.string().nullable(),
  becomes: z.string(),
  who: z.string(),
  /** Address of ours that tells more. */
  href: z.string().optional(),
});
export type HistoryEntry = z.infer<typeof HistoryEntrySchema>;

export const ReferrerSchema = z.object({
  fromId: z.number(),
  /** A page of it that links, and where to. */
  exampleUrl: z.string(),
  targetUrl: z.string(),
  /** What keeps all its linking pages out of an index; null when one may be indexed. */
  unindexed: z.string().nullable(),
  anchor: z.string(),
  firstSeenAt: z.number().nullable(),
  strength: z.number().nullable(),
  trust: z.number().nullable(),
  /** When its linking page was looked at again, and what was found; null: not. */
  lookedAt: z.number().nullable(),
  lookNote: z.string().nullable(),
  lookAnchor: z.string().nullable(),
  /** ISO 639-1, of the linking page or else of the site; null: neither was read. */
  language: z.string().nullable(),
  /** When an index saw its last link; and the youngest date of an index that lists it. */
  lastSeenAt: z.number().nullable(),
  indexedAt: z.number().nullable(),
  site: z.string(),
  /** Pages of it that link. */
  pages: z.number(),
  /** Whether at least one of its links is followed, stands on a page that may be indexed, and is still there. */
  followed: z.boolean(),
  indexable: z.boolean(),
  /** Links that were looked for again: all gone, some there, or nobody looked. */
  standing: z.enum(['unknown', 'gone', 'there']),
  /** Lapsed domains that it links to, as far as known. */
  lapsedTargets: z.number(),
  /** Handle or name of the registrant; null: hidden or not known. */
  registrant: z.string().nullable(),
  nameServers: z.array(z.string()),
  /** First three bytes of its IPv4 address, or first six of its IPv6 address, as text; null: not known. */
  addressBlock: z.string().nullable(),
  trackingIds: z.array(z.string()),
  /** Fingerprint of the linking page (`templatePrint`); null: not read. */
  fingerprint: z.string().nullable(),
  /** How many domains are known to stand on the same name servers and addresses; absent: nobody counted. */
  serverSites: z.number().nullable().optional(),
  /** Product of the factors of its discounts. */
  weight: z.number(),
  discounts: z.array(DiscountSchema),
  lostAt: z.number().nullable(),
});
export type Referrer = z.infer<typeof ReferrerSchema>;

/** A figure that lists state, with all who state it, the one that counts first; a click's price in minor units, times in ms since 1970 UTC. */
export const StatementSchema = z.object({
  figure: z.enum(LIST_FIGURES),
  /** Of a score. */
  name: z.string().nullable(),
  by: z.array(
    z.object({
      sourceId: z.number(),
      source: z.string(),
      at: z.number(),
      value: z.number(),
      currency: z.string().nullable(),
    }),
  ),
});

/** The same label under another ending, or its twin in the other number; phase null: not known here. */
export const SiblingSchema = z.object({
  name: z.string(),
  phase: z.enum(PHASES).nullable(),
  phaseAt: z.number().nullable(),
});
export type Sibling = z.infer<typeof SiblingSchema>;

/** A domain of the pool whose name is like another's. */
export const SimilarNameSchema = z.object({
  name: z.string(),
  why: z.string(),
  phase: z.string(),
  strength: z.number().nullable(),
  referringDomains: z.number().nullable(),
});
export type SimilarName = z.infer<typeof SimilarNameSchema>;

export const TableViewSchema = z.object({
  columns: z.array(TableColumnSchema),
  rows: z.array(EvidenceRowSchema),
  /** Rows that hold what was looked for, of how many. */
  found: z.number(),
  total: z.number(),
});
export type TableView = z.infer<typeof TableViewSchema>;
