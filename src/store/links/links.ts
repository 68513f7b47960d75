import type { SpamLink } from '../../core/spam/input';
import type { SpamCard } from '../../core/spam/scorecard';
import { type Store, statement, write } from '../base/database';

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
    statement(store.raw, 'INSERT OR IGNORE INTO links VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)').run(
      link.sourceId,
      link.seq,
      link.toId,
      link.fromId,
      link.fromUrl,
      link.toUrl,
      link.anchor,
      link.nofollow ? 1 : 0,
      link.indexable ? 1 : 0,
      link.firstSeenAt,
      link.lastSeenAt,
      link.unindexed ?? null,
    ).changes > 0
  );
}

/** What the links of one page have in common. */
export type PageOfLinks = Pick<
  NewLink,
  'sourceId' | 'fromId' | 'fromUrl' | 'indexable' | 'unindexed' | 'lastSeenAt'
> & {
  /** Number of its first link within the source. */
  firstSeq: number;
};
export type PageLink = Pick<NewLink, 'toId' | 'toUrl' | 'anchor' | 'nofollow'>;

/** Links written by one statement: what the page says once is bound once. */
const LINKS_AT_ONCE = [16, 4, 1];
const PAGE_STATEMENTS = new Map(
  LINKS_AT_ONCE.map((links) => [
    links,
    `WITH page(source, seq, at, url, here, indexable, unindexed) AS (VALUES (?, ?, ?, ?, ?, ?, ?)),
     link(n, target, url, anchor, nofollow) AS (VALUES ${Array.from({ length: links }, (_, n) => `(${n}, ?, ?, ?, ?)`)})
     INSERT OR IGNORE INTO links
     SELECT source, seq + n, target, here, page.url, link.url, anchor, nofollow, indexable, NULL, at, unindexed FROM page, link`,
  ]),
);

/** Writes the links of one page, numbered in their order. Those that stand already are left as they are. */
export function putPageLinks(store: Store, page: PageOfLinks, links: PageLink[]): void {
  let at = 0;
  for (const many of LINKS_AT_ONCE) {
    const insert = statement(store.raw, PAGE_STATEMENTS.get(many) ?? '');
    for (; at + many <= links.length; at += many) {
      const values: (string | number | null)[] = [
        page.sourceId,
        page.firstSeq + at,
        page.lastSeenAt,
        page.fromUrl,
        page.fromId,
        page.indexable ? 1 : 0,
        page.unindexed ?? null,
      ];
      for (let i = at; i < at + many; i++) {
        const { toId, toUrl, anchor, nofollow } = links[i];
        values.push(toId, toUrl, anchor, nofollow ? 1 : 0);
      }
      insert.run(values);
    }
  }
}

/** Forgets links by their numbers in a source, from `first` up to but not including `end`. */
export function dropLinks(store: Store, sourceId: number, first: number, end: number): void {
  const { changes } = statement(store.raw, 'DELETE FROM links WHERE source_id = ? AND seq >= ? AND seq < ?').run(
    sourceId,
    first,
    end,
  );
  if (changes > 0) noteDrop(store);
}

/** Forgets links of a source, at most `limit` of them. @returns how many. */
export function dropSomeLinks(store: Store, sourceId: number, limit: number): number {
  const { changes } = statement(
    store.raw,
    'DELETE FROM links WHERE source_id = ? AND seq IN (SELECT seq FROM links WHERE source_id = ? LIMIT ?)',
  ).run(sourceId, sourceId, limit);
  if (changes > 0) noteDrop(store);
  return changes;
}

function noteDrop(store: Store): void {
  statement(store.raw, 'UPDATE link_drops SET drops = drops + 1').run();
}

/** How often links were forgotten so far. */
export function linkDrops(store: Store): number {
  return statement(store.raw, 'SELECT drops FROM link_drops').pluck().get() as number;
}

/** The last number of a link of each source. */
export function lastLinks(store: Store): Map<number, number> {
  // a step a source along the key, instead of a walk over all links
  const next = statement(
    store.raw,
    'SELECT source_id AS source, max(seq) AS last FROM links WHERE source_id = (SELECT min(source_id) FROM links WHERE source_id > ?)',
  );
  const found = new Map<number, number>();
  for (let after = -1; ; ) {
    const row = next.get(after) as { source: number | null; last: number | null };
    if (row.source === null || row.last === null) return found;
    found.set(row.source, row.last);
    after = row.source;
  }
}

/** Edges that count, of links with a number over `after` in a source; and all domains that such links lead to. */
export function edgesAfter(
  store: Store,
  sourceId: number,
  after: number,
): { edges: [number, number][]; targets: number[] } {
  const edges = statement(
    store.raw,
    'SELECT DISTINCT from_id, to_id FROM links WHERE source_id = ? AND seq > ? AND nofollow = 0 AND indexable = 1 AND from_id <> to_id',
  )
    .raw()
    .all(sourceId, after) as [number, number][];
  const targets = statement(store.raw, 'SELECT DISTINCT to_id AS target FROM links WHERE source_id = ? AND seq > ?')
    .pluck()
    .all(sourceId, after) as number[];
  return { edges, targets };
}

/** Edges that count: followed links from indexable pages, once per pair of domains. Domain ids, in parallel arrays. */
export function readEdges(store: Store): { from: Uint32Array; to: Uint32Array } {
  let from = new Uint32Array(1 << 16);
  let to = new Uint32Array(1 << 16);
  let count = 0;
  const rows = store.raw
    .prepare('SELECT DISTINCT from_id, to_id FROM links WHERE nofollow = 0 AND indexable = 1')
    .raw()
    .iterate();
  for (const [a, b] of rows as Iterable<[number, number]>) {
    if (count === from.length) {
      const [wideFrom, wideTo] = [new Uint32Array(count * 2), new Uint32Array(count * 2)];
      wideFrom.set(from);
      wideTo.set(to);
      [from, to] = [wideFrom, wideTo];
    }
    from[count] = a;
    to[count++] = b;
  }
  return { from: from.slice(0, count), to: to.slice(0, count) };
}

export interface LinkTotals {
  toId: number;
  /** Pages that link, over all sources, each once. */
  backlinks: number;
  referringDomains: number;
}

export function* eachLinkTotal(store: Store): Generator<LinkTotals> {
  const rows = store.raw.prepare(
    `SELECT l.to_id AS toId, count(DISTINCT l.from_url) AS backlinks, count(DISTINCT l.from_id) AS referringDomains
     FROM links l GROUP BY l.to_id ORDER BY l.to_id`,
  );
  for (const row of rows.all() as LinkTotals[]) yield row;
}

/** Links to one domain as the spam rules read them: each linking page once. */
export function spamLinksOf(store: Store, domainId: number, limit = 20_000): SpamLink[] {
  const rows = statement(
    store.raw,
    `SELECT d.name AS fromSite, l.anchor, max(l.nofollow) AS nofollow, min(l.first_seen_at) AS firstSeenAt
     FROM links l JOIN domains d ON d.id = l.from_id WHERE l.to_id = ? GROUP BY l.from_url, l.anchor LIMIT ?`,
  ).all(domainId, limit) as (Omit<SpamLink, 'nofollow'> & { nofollow: number })[];
  return rows.map((row) => ({ ...row, nofollow: row.nofollow === 1 }));
}

/**
 * Sums, for every domain, the readers that pages linking to it claim for themselves; each page once, by its largest claim.
 * Domains that no such page links to are not in the answer.
 */
export function readersByDomain(store: Store): Map<number, number> {
  const claims = new Map<string, number>();
  const pages = store.raw.prepare('SELECT url, max(readers) FROM pages WHERE readers > 0 GROUP BY url').raw();
  for (const [url, readers] of pages.iterate() as Iterable<[string, number]>) claims.set(url, readers);
  const sums = new Map<number, number>();
  if (claims.size === 0) return sums;
  const links = store.raw
    .prepare(
      `SELECT DISTINCT to_id, from_url FROM links
       WHERE source_id IN (SELECT id FROM sources WHERE kind IN ('crawl', 'page'))`,
    )
    .raw();
  for (const [to, url] of links.iterate() as Iterable<[number, string]>) {
    const readers = claims.get(url);
    if (readers !== undefined) sums.set(to, (sums.get(to) ?? 0) + readers);
  }
  return sums;
}

/** Totals of some domains, as eachLinkTotal gives those of all. */
export function linkTotalsOf(store: Store, ids: readonly number[]): LinkTotals[] {
  const read = statement(
    store.raw,
    `SELECT l.to_id AS toId, count(DISTINCT l.from_url) AS backlinks, count(DISTINCT l.from_id) AS referringDomains
     FROM links l WHERE l.to_id = ?`,
  );
  return ids.map((id) => ({ ...(read.get(id) as LinkTotals), toId: id }));
}

export interface DomainMeasure {
  id: number;
  backlinks: number;
  referringDomains: number;
  strength: number | null;
  trust: number | null;
  trustPath: string[] | null;
  readers: number | null;
}

/** Writes measured values. Call inside a write transaction. */
export function putMeasure(store: Store, measure: DomainMeasure, at: number): void {
  statement(
    store.raw,
    `UPDATE domains SET backlinks = ?, referring_domains = ?, strength = ?, trust = ?, trust_path = ?, readers = ?, links_at = ?
     WHERE id = ?`,
  ).run(
    measure.backlinks,
    measure.referringDomains,
    measure.strength,
    measure.trust,
    measure.trustPath ? JSON.stringify(measure.trustPath) : null,
    measure.readers,
    at,
    measure.id,
  );
}

/** Keeps a scorecard and its risk. Call inside a write transaction. */
export function putSpamCard(store: Store, domainId: number, card: SpamCard, at: number): void {
  statement(store.raw, 'UPDATE domains SET spam_risk = ? WHERE id = ?').run(card.risk, domainId);
  statement(
    store.raw,
    'INSERT INTO spam_cards VALUES (?, ?, ?) ON CONFLICT(domain_id) DO UPDATE SET at = excluded.at, card = excluded.card',
  ).run(domainId, at, JSON.stringify(card));
}

export interface Measurement {
  at: number;
  nodes: number;
  edges: number;
  steps: number;
  change: number;
  trusted: string[];
  floor: number;
}

export function addMeasurement(store: Store, measurement: Measurement): void {
  write(store, () =>
    statement(
      store.raw,
      'INSERT INTO measurements (at, nodes, edges, steps, change, trusted, floor) VALUES (?, ?, ?, ?, ?, ?, ?)',
    ).run(
      measurement.at,
      measurement.nodes,
      measurement.edges,
      measurement.steps,
      measurement.change,
      JSON.stringify(measurement.trusted),
      measurement.floor,
    ),
  );
}

export function lastMeasurement(store: Store): Measurement | null {
  const row = statement(
    store.raw,
    'SELECT at, nodes, edges, steps, change, trusted, floor FROM measurements ORDER BY id DESC LIMIT 1',
  ).get() as (Omit<Measurement, 'trusted'> & { trusted: string }) | undefined;
  return row ? { ...row, trusted: JSON.parse(row.trusted) } : null;
}

/** Anchor texts by how many domains use them. */
export function anchorsOf(
  store: Store,
  domainId: number,
  limit: number,
): { anchor: string; domains: number; links: number }[] {
  return statement(
    store.raw,
    `SELECT anchor, count(DISTINCT from_id) AS domains, count(DISTINCT from_url) AS links FROM links WHERE to_id = ?
     GROUP BY anchor ORDER BY domains DESC, links DESC, anchor LIMIT ?`,
  ).all(domainId, limit) as { anchor: string; domains: number; links: number }[];
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
  return statement(
    store.raw,
    `SELECT l.source_id AS sourceId, s.name AS source, s.kind, coalesce(json_extract(s.detail, '$.asOf'), s.created_at) AS at,
       count(DISTINCT l.from_url) AS backlinks, count(DISTINCT l.from_id) AS referringDomains, sum(l.nofollow) AS nofollow,
       CASE s.kind WHEN 'links' THEN s.rows_taken END AS coverage
     FROM links l JOIN sources s ON s.id = l.source_id WHERE l.to_id = ? GROUP BY l.source_id ORDER BY s.created_at`,
  ).all(domainId) as never;
}

export function spamCardOf(store: Store, domainId: number): { at: number; card: SpamCard } | null {
  const row = statement(store.raw, 'SELECT at, card FROM spam_cards WHERE domain_id = ?').get(domainId) as
    | { at: number; card: string }
    | undefined;
  return row ? { at: row.at, card: JSON.parse(row.card) } : null;
}
