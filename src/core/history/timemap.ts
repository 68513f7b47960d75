import { parseLinkFormat } from '../formats/link-format';

export interface Memento {
  url: string;
  /** ms since 1970, UTC. */
  at: number;
}

export interface TimeMap {
  mementos: Memento[];
  /** Further pages of the same TimeMap (RFC 7089 section 5.2, rel="timemap" with from or rel="next"). */
  next: string[];
  skipped: number;
  /** Whether it names what a TimeMap does: an original, itself, or captures. Something else that has angle brackets does not. */
  isTimeMap: boolean;
}

const TIMEMAP_RELS = new Set(['original', 'self', 'timemap', 'timegate', 'memento']);

export interface PastSummary {
  firstSeenAt: number;
  lastSeenAt: number;
  captures: number;
  /** Captures by calendar year, UTC. */
  byYear: { year: number; captures: number }[];
}

/** Reads a TimeMap (RFC 7089 section 5): entries whose rel has the word "memento" and whose datetime can be read. */
export function readTimeMap(text: string): TimeMap {
  const { entries, skipped } = parseLinkFormat(text);
  const map: TimeMap = { mementos: [], next: [], skipped, isTimeMap: false };
  for (const { url, parameters } of entries) {
    const rel = (parameters.rel ?? '').toLowerCase().split(/\s+/);
    map.isTimeMap ||= rel.some((word) => TIMEMAP_RELS.has(word));
    if (rel.includes('memento')) {
      const at = Date.parse(parameters.datetime ?? '');
      if (Number.isNaN(at)) map.skipped++;
      else map.mementos.push({ url, at });
    } else if (rel.includes('next')) map.next.push(url);
  }
  map.mementos.sort((a, b) => a.at - b.at);
  return map;
}

/** @returns null when nothing was captured. */
export function summarizePast(times: number[]): PastSummary | null {
  if (times.length === 0) return null;
  const years = new Map<number, number>();
  let first = Number.POSITIVE_INFINITY;
  let last = Number.NEGATIVE_INFINITY;
  for (const at of times) {
    first = Math.min(first, at);
    last = Math.max(last, at);
    const year = new Date(at).getUTCFullYear();
    years.set(year, (years.get(year) ?? 0) + 1);
  }
  const byYear = [...years].map(([year, captures]) => ({ year, captures })).sort((a, b) => a.year - b.year);
  return { firstSeenAt: first, lastSeenAt: last, captures: times.length, byYear };
}
