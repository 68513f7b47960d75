import { linkingSite, registrableDomain } from '../../core/names/domain';
import { type Store, statement, write } from '../base/database';
import { findDomain, putDomain, putSighting } from '../domains/domains';
import { dropLinks, putLink } from '../links/links';
import { addSource, countRows } from '../sources/sources';

/** Name of the source that pages looked at by hand belong to. */
const HAND_SOURCE = 'Pages looked at';

/** The one source of pages looked at by hand; made at the first look. */
export function handSource(store: Store): number {
  const found = statement(store.raw, `SELECT id FROM sources WHERE kind = 'page'`).pluck().get() as number | undefined;
  return found ?? addSource(store, 'page', HAND_SOURCE, {});
}

export interface LookedPage {
  url: string;
  title: string;
  contact: string | null;
  readers: number | null;
}

export interface LookedLink {
  url: string;
  anchor: string;
  nofollow: boolean;
  before: string;
  after: string;
  domain: string | null;
  state: string;
  gone: 'page' | 'domain' | null;
  status: number | null;
}

/**
 * Keeps a page that was looked at, its links, and those of its targets that are dead. A later look replaces the page's earlier
 * one;
 *
 * @returns ids of the domains that its dead links name.
 */
export function putPageLook(store: Store, sourceId: number, page: LookedPage, links: LookedLink[]): number[] {
  return write(store, () => {
    const { raw } = store;
    const at = store.now();
    const from = linkingSite(page.url);
    const host = new URL(page.url).host;
    statement(
      raw,
      `INSERT INTO pages (source_id, url, site, host, depth, state, status, title, contact, readers, links_out, fetched_at)
       VALUES (?, ?, ?, ?, 0, 'done', 200, ?, ?, ?, ?, ?)
       ON CONFLICT (source_id, url) DO UPDATE SET title = excluded.title, contact = excluded.contact,
         readers = excluded.readers, links_out = excluded.links_out, fetched_at = excluded.fetched_at`,
    ).run(sourceId, page.url, from?.name ?? host, host, page.title, page.contact, page.readers, links.length, at);
    const pageId = statement(raw, 'SELECT id FROM pages WHERE source_id = ? AND url = ?')
      .pluck()
      .get(sourceId, page.url) as number;
    const fromId = from ? putDomain(store, from, false, at).id : null;
    const ids: number[] = [];
    let fresh = 0;
    // what the page shows now stands for what it showed before
    dropLinks(store, sourceId, pageId * 4096, (pageId + 1) * 4096);
    links.forEach((link, index) => {
      const domain = link.domain === null ? null : registrableDomain(link.domain);
      if (!domain) return;
      const isLapsing = link.state === 'dead' && link.gone === 'domain';
      const { id, isNew } = putDomain(store, domain, isLapsing, at);
      if (isLapsing) {
        const said = {
          url: page.url,
          site: from?.name ?? host,
          anchor: link.anchor,
          target: link.url,
          before: link.before,
          after: link.after,
        };
        if (putSighting(store, id, sourceId, at, null, said)) ids.push(id);
        if (isNew) fresh++;
      }
      if (fromId !== null && fromId !== id)
        putLink(store, {
          toId: id,
          sourceId,
          seq: pageId * 4096 + index,
          fromId,
          fromUrl: page.url,
          toUrl: link.url,
          anchor: link.anchor,
          nofollow: link.nofollow,
          indexable: true,
          firstSeenAt: null,
          lastSeenAt: at,
        });
    });
    countRows(store, sourceId, { rows_read: 1, rows_taken: ids.length, domains_new: fresh });
    return ids;
  });
}

/** Keeps dead pages on living domains; a page that answers again, or whose domain is gone, is no target any more. */
export function putDeadTargets(store: Store, links: (LookedLink & { detail: string })[]): void {
  write(store, () => {
    const at = store.now();
    for (const { url, domain, state, gone, status, detail } of links) {
      const row = domain === null ? null : findDomain(store, domain);
      if (row && state === 'dead' && gone === 'page')
        statement(
          store.raw,
          `INSERT INTO dead_targets VALUES (?, ?, ?, ?, ?)
           ON CONFLICT (url) DO UPDATE SET outcome = excluded.outcome, status = excluded.status, checked_at = excluded.checked_at`,
        ).run(url, row.id, detail, status, at);
      else if (state !== 'refused' && state !== 'unsure')
        statement(store.raw, 'DELETE FROM dead_targets WHERE url = ?').run(url);
    }
  });
}

/** Links known to an address and to its whole domain, over all sources: pages and domains that link. */
export function knownLinks(store: Store, url: string, domain: string | null): { toPage: number; toDomain: number } {
  const row = domain === null ? null : findDomain(store, domain);
  if (!row) return { toPage: 0, toDomain: 0 };
  return statement(
    store.raw,
    `SELECT count(DISTINCT CASE WHEN to_url = ? THEN from_url END) AS toPage, count(DISTINCT from_url) AS toDomain
     FROM links WHERE to_id = ?`,
  ).get(url, row.id) as { toPage: number; toDomain: number };
}

export interface DeadTarget {
  url: string;
  domain: string;
  status: number | null;
  /** What the server said, or that none answered. */
  outcome: string;
  checkedAt: number;
  /** Pages and domains known to link to the address. */
  pages: number;
  domains: number;
}

/** Dead pages on living domains, most linking domains first. */
export function deadTargets(store: Store, limit = 500): DeadTarget[] {
  return store.raw
    .prepare(
      `SELECT t.url, d.name AS domain, t.status, t.outcome, t.checked_at AS checkedAt, count(DISTINCT l.from_url) AS pages,
         count(DISTINCT l.from_id) AS domains
       FROM dead_targets t JOIN domains d ON d.id = t.domain_id LEFT JOIN links l ON l.to_id = t.domain_id AND l.to_url = t.url
       GROUP BY t.url ORDER BY domains DESC, pages DESC, t.url LIMIT ?`,
    )
    .all(limit) as DeadTarget[];
}

export interface LinkingPage {
  target: string;
  status: number | null;
  page: string;
  title: string | null;
  anchor: string;
  nofollow: number;
  contact: string | null;
}

/** Every known page that links to a dead target, with how to reach whoever runs it. */
export function* eachLinkingPage(store: Store, target: string | null = null): Generator<LinkingPage> {
  const rows = store.raw.prepare(
    `SELECT t.url AS target, t.status, l.from_url AS page, max(p.title) AS title, max(l.anchor) AS anchor,
       min(l.nofollow) AS nofollow, max(p.contact) AS contact
     FROM dead_targets t JOIN links l ON l.to_id = t.domain_id AND l.to_url = t.url
     LEFT JOIN pages p ON p.source_id = l.source_id AND p.url = l.from_url
     WHERE @target IS NULL OR t.url = @target GROUP BY t.url, l.from_url ORDER BY t.url, l.from_url`,
  );
  for (const row of rows.iterate({ target })) yield row as LinkingPage;
}

/** Pages that mention a domain and claim readers for themselves, the most read first. */
export function readPagesOf(
  store: Store,
  domainId: number,
  limit: number,
): { url: string; title: string | null; readers: number; at: number | null }[] {
  return statement(
    store.raw,
    `SELECT p.url, max(p.title) AS title, max(p.readers) AS readers, max(p.fetched_at) AS at
     FROM (SELECT DISTINCT source_id, from_url FROM links WHERE to_id = ?) l
       JOIN pages p ON p.source_id = l.source_id AND p.url = l.from_url
     WHERE p.readers > 0 GROUP BY p.url ORDER BY readers DESC, p.url LIMIT ?`,
  ).all(domainId, limit) as { url: string; title: string | null; readers: number; at: number | null }[];
}
