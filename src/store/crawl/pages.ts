import { linkingSite, registrableDomain } from '../../core/names/domain';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, knex, pick, run, sql, the } from '../base/query';

const DEAD_TARGETS = columns('dead_targets', 't');
const DOMAINS = columns('domains', 'd');

import { findDomain, putDomain, putSighting } from '../domains/domains';
import { dropLinks, putLink } from '../links/links';
import { addSource, countRows } from '../sources/sources';

/** Name of the source that pages looked at by hand belong to. */
const HAND_SOURCE = 'Pages looked at';

/** The one source of pages looked at by hand; made at the first look. */
export function handSource(store: Store): number {
  const found = first(store, knex('sources').where('kind', 'page').pluck('id'));
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
    const at = store.now();
    const linking = linkingSite(page.url);
    const host = new URL(page.url).host;
    run(
      store,
      knex('pages')
        .insert({
          source_id: sourceId,
          url: page.url,
          site: linking?.name ?? host,
          host,
          depth: 0,
          state: 'done',
          status: 200,
          title: page.title,
          contact: page.contact,
          readers: page.readers,
          links_out: links.length,
          fetched_at: at,
        })
        .onConflict(['source_id', 'url'])
        .merge(['title', 'contact', 'readers', 'links_out', 'fetched_at']),
    );
    const pageId = the(store, knex('pages').where({ source_id: sourceId, url: page.url }).pluck('id'));
    const fromId = linking ? putDomain(store, linking, false, at).id : null;
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
          site: linking?.name ?? host,
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
        run(
          store,
          knex('dead_targets')
            .insert({ url, domain_id: row.id, outcome: detail, status, checked_at: at })
            .onConflict('url')
            .merge(['outcome', 'status', 'checked_at']),
        );
      else if (state !== 'refused' && state !== 'unsure') run(store, knex('dead_targets').where('url', url).delete());
    }
  });
}

/** Links known to an address and to its whole domain, over all sources: pages and domains that link. */
export function knownLinks(store: Store, url: string, domain: string | null): { toPage: number; toDomain: number } {
  const row = domain === null ? null : findDomain(store, domain);
  if (!row) return { toPage: 0, toDomain: 0 };
  return the(
    store,
    pick(knex('links'), {
      toPage: sql<number>('count(DISTINCT CASE WHEN to_url = ? THEN from_url END)', [url]),
      toDomain: sql<number>('count(DISTINCT from_url)'),
    }).where('to_id', row.id),
  );
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
  return all(
    store,
    pick(
      knex('dead_targets as t')
        .join('domains as d', 'd.id', 't.domain_id')
        .leftJoin('links as l', (on) => on.on('l.to_id', 't.domain_id').on('l.to_url', 't.url')),
      {
        ...camel(DEAD_TARGETS, 'url', 'status', 'outcome', 'checked_at'),
        domain: DOMAINS.name,
        pages: sql<number>('count(DISTINCT l.from_url)'),
        domains: sql<number>('count(DISTINCT l.from_id)'),
      },
    )
      .groupBy('t.url')
      .orderByRaw('domains DESC, pages DESC, t.url')
      .limit(limit),
  );
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
export function linkingPages(store: Store, target: string): LinkingPage[] {
  const linking = knex('dead_targets as t')
    .join('links as l', (on) => on.on('l.to_id', 't.domain_id').on('l.to_url', 't.url'))
    .leftJoin('pages as p', (on) => on.on('p.source_id', 'l.source_id').on('p.url', 'l.from_url'));
  return all(
    store,
    pick(linking.where('t.url', target), {
      target: DEAD_TARGETS.url,
      status: DEAD_TARGETS.status,
      page: sql<string>('l.from_url'),
      title: sql<string | null>('max(p.title)'),
      anchor: sql<string>('max(l.anchor)'),
      nofollow: sql<number>('min(l.nofollow)'),
      contact: sql<string | null>('max(p.contact)'),
    })
      .groupBy('t.url', 'l.from_url')
      .orderBy('l.from_url'),
  );
}

/** Pages that mention a domain and claim readers for themselves, the most read first. */
export function readPagesOf(
  store: Store,
  domainId: number,
  limit: number,
): { url: string; title: string | null; readers: number; at: number | null }[] {
  const linking = knex('links').distinct('source_id', 'from_url').where('to_id', domainId);
  return all(
    store,
    pick(
      knex(linking.as('l')).join('pages as p', (on) => on.on('p.source_id', 'l.source_id').on('p.url', 'l.from_url')),
      {
        url: sql<string>('p.url'),
        title: sql<string | null>('max(p.title)'),
        readers: sql<number>('max(p.readers)'),
        at: sql<number | null>('max(p.fetched_at)'),
      },
    )
      .where('p.readers', '>', 0)
      .groupBy('p.url')
      .orderByRaw('readers DESC, p.url')
      .limit(limit),
  );
}
