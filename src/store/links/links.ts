import type { SpamLink } from '../../core/spam/input';
import type { Store } from '../base/database';
import { all, camel, columns, knex, pick, prepared, run, sql, the } from '../base/query';

const LINKS = columns('links', 'l');
const DOMAINS = columns('domains', 'd');
const SOURCES = columns('sources', 's');

export interface NewLink {
  toId: number;
  sourceId: number;
  /** Number of the link within its source: the same link written twice stands once. */
  seq: number;
  fromId: number;
  fromUrl: string;
  toUrl: string;
  anchor: string;
  nofollow: boolean;
  /** Whether a search engine could index the page it stands on. */
  indexable: boolean;
  /** What keeps the page out of an index; null when nothing does. */
  unindexed?: string | null;
  firstSeenAt: number | null;
  lastSeenAt: number | null;
}

export function putLink(store: Store, link: NewLink): boolean {
  return (
    run(
      store,
      knex('links')
        .insert({
          source_id: link.sourceId,
          seq: link.seq,
          to_id: link.toId,
          from_id: link.fromId,
          from_url: link.fromUrl,
          to_url: link.toUrl,
          anchor: link.anchor,
          nofollow: link.nofollow ? 1 : 0,
          indexable: link.indexable ? 1 : 0,
          first_seen_at: link.firstSeenAt,
          last_seen_at: link.lastSeenAt,
          unindexed: link.unindexed ?? null,
        })
        .onConflict()
        .ignore(),
    ).changes > 0
  );
}

/** Forgets links by their numbers in a source, from `first` up to but not including `end`. */
export function dropLinks(store: Store, sourceId: number, first: number, end: number): void {
  const { changes } = run(
    store,
    knex('links').where('source_id', sourceId).where('seq', '>=', first).where('seq', '<', end).delete(),
  );
  if (changes > 0) noteDrop(store);
}

/** Forgets links of a source, at most `limit` of them. @returns how many. */
export function dropSomeLinks(store: Store, sourceId: number, limit: number): number {
  const { changes } = run(
    store,
    knex('links')
      .where('source_id', sourceId)
      .whereRaw('seq IN (SELECT seq FROM links WHERE source_id = ? LIMIT ?)', [sourceId, limit])
      .delete(),
  );
  if (changes > 0) noteDrop(store);
  return changes;
}

function noteDrop(store: Store): void {
  run(store, knex('link_drops').update({ drops: sql('drops + 1') }));
}

/** How often links were forgotten so far. */
export function linkDrops(store: Store): number {
  return the(store, knex('link_drops').pluck('drops'));
}

export interface LinkTotals {
  toId: number;
  /** Pages that link, over all sources, each once. */
  backlinks: number;
  referringDomains: number;
}

const SPAM_LINKS = prepared((of: { domainId: number; limit: number }) =>
  pick(knex('links as l').join('domains as d', 'd.id', 'l.from_id'), {
    fromSite: DOMAINS.name,
    anchor: LINKS.anchor,
    nofollow: sql<0 | 1>('max(l.nofollow)'),
    firstSeenAt: sql<number | null>('min(l.first_seen_at)'),
  })
    .where('l.to_id', of.domainId)
    // the builder's own limit takes nothing but a number
    .groupByRaw('l.from_url, l.anchor LIMIT ?', [of.limit]),
);

/** Links to one domain as the spam rules read them: each linking page once. */
export function spamLinksOf(store: Store, domainId: number, limit = 20_000): SpamLink[] {
  const rows = SPAM_LINKS.all(store, { domainId, limit });
  return rows.map((row) => ({ ...row, nofollow: row.nofollow === 1 }));
}

/** Totals of some domains, as eachLinkTotal gives those of all. */
export function linkTotalsOf(store: Store, ids: readonly number[]): LinkTotals[] {
  return ids.map((id) => ({ toId: id, backlinks: 0, referringDomains: 0, ...TOTALS.first(store, { id }) }));
}
const TOTALS = prepared(({ id }: { id: number }) =>
  pick(knex('links as l'), {
    backlinks: sql<number>('count(DISTINCT l.from_url)'),
    referringDomains: sql<number>('count(DISTINCT l.from_id)'),
  }).where('l.to_id', id),
);

/** Anchor texts by how many domains use them. */
export function anchorsOf(
  store: Store,
  domainId: number,
  limit: number,
): { anchor: string; domains: number; links: number }[] {
  return all(
    store,
    pick(knex('links as l'), {
      ...camel(LINKS, 'anchor'),
      domains: sql<number>('count(DISTINCT from_id)'),
      links: sql<number>('count(DISTINCT from_url)'),
    })
      .where('to_id', domainId)
      .groupBy('anchor')
      .orderBy([{ column: 'domains', order: 'desc' }, { column: 'links', order: 'desc' }, { column: 'anchor' }])
      .limit(limit),
  );
}

/** Each source's own count, side by side. */
export function linkCountsBySource(
  store: Store,
  domainId: number,
): {
  sourceId: number;
  source: string;
  kind: string;
  at: number;
  backlinks: number;
  referringDomains: number;
  nofollow: number;
  coverage: number | null;
}[] {
  return all(
    store,
    pick(knex('links as l').join('sources as s', 's.id', 'l.source_id'), {
      ...camel(LINKS, 'source_id'),
      ...camel(SOURCES, 'kind'),
      source: SOURCES.name,
      at: sql<number>("coalesce(json_extract(s.detail, '$.asOf'), s.created_at)"),
      backlinks: sql<number>('count(DISTINCT l.from_url)'),
      referringDomains: sql<number>('count(DISTINCT l.from_id)'),
      nofollow: sql<number>('sum(l.nofollow)'),
      coverage: sql<number | null>("CASE s.kind WHEN 'links' THEN s.rows_taken END"),
    })
      .where('l.to_id', domainId)
      .groupBy('l.source_id')
      .orderBy('s.created_at'),
  );
}
