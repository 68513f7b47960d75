import type { CrawlAddress } from '../core/crawl/address';
import { type Store, statement } from './database';

/** A page the crawl is to fetch. */
export interface QueuedPage {
  id: number;
  url: string;
  site: string;
  host: string;
  depth: number;
  /** Redirects that led here. */
  hops: number;
}

export interface PageOutcome {
  /** done: read. skipped: not wanted (robots, type). failed: no usable answer. */
  state: 'done' | 'skipped' | 'failed';
  status: number | null;
  contentType: string | null;
  charset: string | null;
  title: string | null;
  noindex: boolean;
  nofollow: boolean;
  canonical: string | null;
  /** Why it was skipped or failed, where it redirects to. */
  note: string | null;
  bytes: number;
  linksOut: number;
}

/** @returns false when the crawl knows the address. A shorter way to a queued page lowers its depth. */
export function queuePage(store: Store, sourceId: number, address: CrawlAddress, depth: number, hops = 0): boolean {
  const { changes } = statement(
    store.raw,
    'INSERT OR IGNORE INTO pages (source_id, url, site, host, depth, hops) VALUES (?, ?, ?, ?, ?, ?)',
  ).run(sourceId, address.url, address.site, address.host, depth, hops);
  return changes > 0;
}

/** The next pages of one site, lowest depth first, then in the order found. */
export function nextPages(store: Store, sourceId: number, site: string, limit: number): QueuedPage[] {
  return statement(
    store.raw,
    `SELECT id, url, site, host, depth, hops FROM pages
     WHERE source_id = ? AND site = ? AND state = 'queued' ORDER BY depth, id LIMIT ?`,
  ).all(sourceId, site, limit) as QueuedPage[];
}

export function queuedSites(store: Store, sourceId: number): string[] {
  return store.raw
    .prepare(`SELECT DISTINCT site FROM pages WHERE source_id = ? AND state = 'queued' ORDER BY site`)
    .pluck()
    .all(sourceId) as string[];
}

export function savePage(store: Store, pageId: number, at: number, outcome: PageOutcome): void {
  statement(
    store.raw,
    `UPDATE pages SET state = ?, status = ?, content_type = ?, charset = ?, title = ?, noindex = ?, nofollow = ?,
     canonical = ?, note = ?, bytes = ?, links_out = ?, fetched_at = ? WHERE id = ?`,
  ).run(
    outcome.state,
    outcome.status,
    outcome.contentType,
    outcome.charset,
    outcome.title,
    outcome.noindex ? 1 : 0,
    outcome.nofollow ? 1 : 0,
    outcome.canonical,
    outcome.note,
    outcome.bytes,
    outcome.linksOut,
    at,
    pageId,
  );
}

export interface CrawlCounts {
  queued: number;
  done: number;
  skipped: number;
  failed: number;
}

export function countPages(store: Store, sourceId: number): CrawlCounts {
  const counts: CrawlCounts = { queued: 0, done: 0, skipped: 0, failed: 0 };
  const rows = statement(
    store.raw,
    'SELECT state, count(*) AS pages FROM pages WHERE source_id = ? GROUP BY state',
  ).all(sourceId);
  for (const { state, pages } of rows as { state: keyof CrawlCounts; pages: number }[]) counts[state] = pages;
  return counts;
}

export interface SiteYield {
  site: string;
  pages: number;
  failed: number;
  queued: number;
  /** Outside domains first found here, and how many of them are free or about to be. */
  domains: number;
  lapsed: number;
}

/** What each site of a crawl gave. */
export function siteYields(store: Store, sourceId: number): SiteYield[] {
  return store.raw
    .prepare(
      `WITH finds AS (
         SELECT json_extract(s.said, '$.site') AS site, count(*) AS domains,
           sum(d.phase IN ('free', 'pending-delete', 'redemption')) AS lapsed
         FROM sightings s JOIN domains d ON d.id = s.domain_id WHERE s.source_id = @source GROUP BY 1)
       SELECT p.site, sum(p.state = 'done') AS pages, sum(p.state = 'failed') AS failed, sum(p.state = 'queued') AS queued,
         coalesce(f.domains, 0) AS domains, coalesce(f.lapsed, 0) AS lapsed
       FROM pages p LEFT JOIN finds f ON f.site = p.site WHERE p.source_id = @source GROUP BY p.site ORDER BY lapsed DESC, domains DESC, p.site`,
    )
    .all({ source: sourceId }) as SiteYield[];
}

/** Why pages were skipped or failed, commonest first, with an example. */
export function pageTroubles(
  store: Store,
  sourceId: number,
): { state: string; note: string; pages: number; example: string }[] {
  return store.raw
    .prepare(
      `SELECT state, coalesce(note, 'no reason kept') AS note, count(*) AS pages, min(url) AS example FROM pages
       WHERE source_id = ? AND state IN ('failed', 'skipped') GROUP BY state, note ORDER BY pages DESC LIMIT 40`,
    )
    .all(sourceId) as { state: string; note: string; pages: number; example: string }[];
}
