/**
 * The walk over all links of a domain. Hand-written SQL: one statement that groups while it reads and joins five tables; what a builder
 * would be told of it is this text, expression by expression. 40,000 links of 20,000 sites take 0.26 s.
 */
import { z } from 'zod';
import type { Referring } from '../../core/links/effective';
import type { Store } from '../base/database';
import { fromJson, knex, pick, readSql, sql, the } from '../base/query';
import type { StoredReferring } from './stored-referring';

interface WalkedReferring {
  fromId: number;
  site: string;
  pages: number;
  isFollowed: 0 | 1;
  isIndexable: 0 | 1;
  standing: Referring['standing'] | null;
  registrant: string | null;
  servers: string | null;
  ownServers: string | null;
  addressBlock: string | null;
  trackingIds: string | null;
  fingerprint: string | null;
  unindexed: string | null;
  exampleUrl: string;
  targetUrl: string;
  anchor: string;
  firstSeenAt: number | null;
  lastSeenAt: number | null;
  indexedAt: number | null;
  language: string | null;
  strength: number | null;
  trust: number | null;
  lookedAt: number | null;
  lookNote: string | null;
  lookAnchor: string | null;
  lookRel: string | null;
}
const REFERRING = `WITH x AS MATERIALIZED (
    SELECT id, coalesce(json_extract(detail, '$.asOf'), created_at) AS at FROM sources WHERE kind = 'links')
  SELECT l.from_id AS fromId, d.name AS site, count(DISTINCT l.from_url) AS pages, min(l.nofollow) = 0 AS isFollowed,
    max(CASE WHEN l.nofollow = 0 THEN l.indexable ELSE 0 END) AS isIndexable, k.standing, f.registrant, f.name_servers AS servers,
    d.name_servers AS ownServers, f.address_block AS addressBlock, f.tracking_ids AS trackingIds, k.fingerprint,
    CASE WHEN max(l.indexable) = 0 THEN max(l.unindexed) END AS unindexed, min(l.from_url) AS exampleUrl, min(l.to_url) AS targetUrl,
    min(l.anchor) AS anchor, min(l.first_seen_at) AS firstSeenAt,
    max(CASE WHEN x.id IS NOT NULL THEN l.last_seen_at END) AS lastSeenAt, max(x.at) AS indexedAt,
    coalesce(k.language, i.language) AS language, d.strength, d.trust, k.at AS lookedAt, k.note AS lookNote,
    k.anchor AS lookAnchor, k.rel AS lookRel
  FROM links l JOIN domains d ON d.id = l.from_id
    LEFT JOIN x ON x.id = l.source_id
    LEFT JOIN inspections i ON i.domain_id = l.from_id
    LEFT JOIN site_facts f ON f.domain_id = l.from_id
    LEFT JOIN link_looks k ON k.to_id = l.to_id AND k.from_id = l.from_id
  WHERE l.to_id = ? AND l.from_id > ? AND l.from_id <= ? GROUP BY l.from_id`;

/** Links with these are no votes (HTML standard 4.6.6.13 and the search engines' own). */
const NO_VOTE = /nofollow|ugc|sponsored/;

/** Those referring domains whose ids lie over `after` and up to `last`, in no order. */
export function referringBetween(
  store: Store,
  domainId: number,
  lapsedTargets: (fromId: number) => number,
  after: number,
  last: number,
): StoredReferring[] {
  const rows = readSql<WalkedReferring>(store, REFERRING, [domainId, after, last]);
  const serverSites = serverCounter(store);
  return rows.map((row) => {
    const followed = row.isFollowed === 1 && !NO_VOTE.test(row.lookRel ?? '');
    // field by field: to take some out of so many rows costs more than all the rest
    return {
      fromId: row.fromId,
      site: row.site,
      pages: row.pages,
      followed,
      // where all is nofollow, that is the reason; whether it could be indexed does not matter then
      indexable: row.isIndexable === 1 || !followed,
      standing: row.standing ?? 'unknown',
      registrant: row.registrant,
      nameServers: listOf(row.servers ?? row.ownServers),
      addressBlock: row.addressBlock,
      trackingIds: listOf(row.trackingIds),
      fingerprint: row.fingerprint,
      serverSites: serverSites(row.servers, row.addressBlock),
      unindexed: row.unindexed,
      exampleUrl: row.exampleUrl,
      targetUrl: row.targetUrl,
      anchor: row.anchor,
      firstSeenAt: row.firstSeenAt,
      lastSeenAt: row.lastSeenAt,
      indexedAt: row.indexedAt,
      language: row.language,
      strength: row.strength,
      trust: row.trust,
      lookedAt: row.lookedAt,
      lookNote: row.lookNote,
      lookAnchor: row.lookAnchor,
      lapsedTargets: lapsedTargets(row.fromId),
    };
  });
}

/** More are not counted: a host of so many says nothing. */
const MOST_SERVER_SITES = 2000;

/** Counts the domains that are known to stand on the same servers; null: not known where it stands. */
function serverCounter(store: Store): (servers: string | null, block: string | null) => number | null {
  const counted = new Map<string, number>();
  return (servers, block) => {
    if (servers === null || block === null) return null;
    const key = `${servers} ${block}`;
    let count = counted.get(key);
    if (count === undefined) {
      const stands = knex('site_facts')
        .select('domain_id')
        .where({ address_block: block, name_servers: servers })
        .limit(MOST_SERVER_SITES);
      count = the(store, pick(knex(stands.as('s')), { sites: sql<number>('count(*)') })).sites;
      counted.set(key, count);
    }
    return count;
  };
}

const listOf = (json: string | null): string[] => (json === null ? [] : fromJson(z.array(z.string()), json));

const LAPSED = `('free', 'pending-delete', 'redemption')`;

/** How many lapsed domains each site links to, for all sites. */
export function lapsedTargetsOfAll(store: Store): Map<number, number> {
  const rows = store.raw
    .prepare(
      `SELECT l.from_id, count(DISTINCT l.to_id) FROM links l JOIN domains d ON d.id = l.to_id WHERE d.phase IN ${LAPSED} GROUP BY l.from_id`,
    )
    .raw()
    .all() as [number, number][];
  return new Map(rows);
}
