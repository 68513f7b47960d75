import type { Referring } from '../../core/links/effective';

/** A referring domain as it is weighed and shown. */
export interface StoredReferring extends Referring {
  fromId: number;
  /** A page of it that links, and where to. */
  exampleUrl: string;
  targetUrl: string;
  /** What keeps all its linking pages out of an index; null when one may be indexed. */
  unindexed: string | null;
  anchor: string;
  firstSeenAt: number | null;
  strength: number | null;
  trust: number | null;
  /** When its linking page was looked at again, and what was found; null: not. */
  lookedAt: number | null;
  lookNote: string | null;
  lookAnchor: string | null;
  /** ISO 639-1, of the linking page or else of the site; null: neither was read. */
  language: string | null;
  /** When an index saw its last link; and the youngest date of an index that lists it. */
  lastSeenAt: number | null;
  indexedAt: number | null;
}

/** The order of referring domains: by strength, those that are not measured last, then by name. */
export function strongerFirst(a: StoredReferring, b: StoredReferring): number {
  return (b.strength ?? -1) - (a.strength ?? -1) || (a.site < b.site ? -1 : 1);
}
