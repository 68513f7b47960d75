import type { CrawlAddress } from '../../core/crawl/address';
import type { PageKind } from '../../core/crawl/content';
import type { ClassState } from '../../core/crawl/find-model';
import type { PageClass } from '../../core/crawl/page-class';
import type { NotFollowed } from '../../core/crawl/scope';
import type { UnreadCause } from '../../core/crawl/unread';
import { type Store, statement } from '../base/database';
import { type SwitchCount, switchCounts } from './find-causes';

/** A page the crawl is to fetch. */
export interface QueuedPage {
  id: number;
  url: string;
  site: string;
  host: string;
  depth: number;
  /** Redirects that led here. */
  hops: number;
  classId: number;
  /** Class of the page that led here first; 0 for a seed. */
  viaClass: number;
  /** Times it was asked for and could not be reached. */
  attempts: number;
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
  /** Why it was skipped or failed, where it redirects to, what decided its kind. */
  note: string | null;
  /** The same as a kind, of what was not read. */
  cause: UnreadCause | null;
  bytes: number;
  linksOut: number;
  kind: PageKind | null;
  mark: number | null;
  letters: number | null;
  readers: number | null;
  contact: string | null;
}

export interface NewPage {
  address: CrawlAddress;
  depth: number;
  hops: number;
  classId: number;
  viaClass: number;
  /** beyond: known, but deeper than the crawl goes. */
  state: 'queued' | 'beyond';
}

/** Adds a page to a crawl. @returns its id, and whether the crawl did not know it. */
export function queuePage(store: Store, sourceId: number, page: NewPage): { id: number; isNew: boolean } {
  const { address, depth, hops, classId, viaClass, state } = page;
  const { changes, lastInsertRowid } = statement(
    store.raw,
    `INSERT OR IGNORE INTO pages (source_id, url, site, host, depth, hops, class_id, via_class, state)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  ).run(sourceId, address.url, address.site, address.host, depth, hops, classId, viaClass, state);
  if (changes > 0) return { id: Number(lastInsertRowid), isNew: true };
  const id = statement(store.raw, 'SELECT id FROM pages WHERE source_id = ? AND url = ?')
    .pluck()
    .get(sourceId, address.url) as number;
  return { id, isNew: false };
}

/** Waiting pages of one class, lowest depth first, then in the order found. */
export function waitingPages(store: Store, classId: number, limit: number): QueuedPage[] {
  return statement(
    store.raw,
    `SELECT id, url, site, host, depth, hops, class_id AS classId, via_class AS viaClass, attempts FROM pages
     WHERE class_id = ? AND state = 'queued' ORDER BY depth, id LIMIT ?`,
  ).all(classId, limit) as QueuedPage[];
}

export function waitingByClass(store: Store, sourceId: number): { classId: number; pages: number }[] {
  return store.raw
    .prepare(
      `SELECT class_id AS classId, count(*) AS pages FROM pages
       WHERE class_id IN (SELECT id FROM crawl_classes WHERE source_id = ?) AND state = 'queued' GROUP BY class_id`,
    )
    .all(sourceId) as { classId: number; pages: number }[];
}

export function noteAttempt(store: Store, pageId: number): void {
  statement(store.raw, 'UPDATE pages SET attempts = attempts + 1 WHERE id = ?').run(pageId);
}

export function savePage(store: Store, pageId: number, at: number, outcome: PageOutcome): void {
  statement(
    store.raw,
    `UPDATE pages SET state = ?, status = ?, content_type = ?, charset = ?, title = ?, noindex = ?, nofollow = ?,
     canonical = ?, note = ?, cause = ?, bytes = ?, links_out = ?, kind = ?, mark = ?, letters = ?, readers = ?, contact = ?, fetched_at = ?
     WHERE id = ?`,
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
    outcome.cause,
    outcome.bytes,
    outcome.linksOut,
    outcome.kind,
    outcome.mark,
    outcome.letters,
    outcome.readers,
    outcome.contact,
    at,
    pageId,
  );
}

/** How often each text was met on each site, for telling copies. */
export function eachMark(store: Store, sourceId: number): { site: string; mark: number; pages: number }[] {
  return store.raw
    .prepare(
      'SELECT site, mark, count(*) AS pages FROM pages WHERE source_id = ? AND mark IS NOT NULL GROUP BY site, mark',
    )
    .all(sourceId) as { site: string; mark: number; pages: number }[];
}

export function classesOf(store: Store, sourceId: number): ClassState[] {
  return store.raw
    .prepare('SELECT id, site, shape, word, cue, pages, gave FROM crawl_classes WHERE source_id = ?')
    .all(sourceId) as ClassState[];
}

/** Finds or adds a class of pages. */
export function putClass(store: Store, sourceId: number, site: string, kind: PageClass): number {
  const found = statement(
    store.raw,
    'SELECT id FROM crawl_classes WHERE source_id = ? AND site = ? AND shape = ?',
  ).pluck();
  const known = found.get(sourceId, site, kind.shape) as number | undefined;
  if (known !== undefined) return known;
  return Number(
    statement(store.raw, 'INSERT INTO crawl_classes (source_id, site, shape, word, cue) VALUES (?, ?, ?, ?, ?)').run(
      sourceId,
      site,
      kind.shape,
      kind.word,
      kind.cue,
    ).lastInsertRowid,
  );
}

export function countInClass(store: Store, classId: number, pages: number, gave: number): void {
  statement(store.raw, 'UPDATE crawl_classes SET pages = pages + ?, gave = gave + ? WHERE id = ?').run(
    pages,
    gave,
    classId,
  );
}

/** Counts a lapsed domain for the page where it was found first. */
export function countFind(store: Store, pageId: number): void {
  statement(store.raw, 'UPDATE pages SET finds = finds + 1 WHERE id = ?').run(pageId);
}

/** Lapsed domains that the pages of a crawl were the first to name. */
export function sumOfFinds(store: Store, sourceId: number): number {
  const sum = store.raw.prepare('SELECT coalesce(sum(finds), 0) FROM pages WHERE source_id = ? AND finds > 0').pluck();
  return sum.get(sourceId) as number;
}

/** Page ids as ascending differences of seven bits a byte, the high bit saying that more follows. */
export function packIds(ids: readonly number[]): Buffer {
  const sorted = new Float64Array(ids).sort();
  // a difference of 53 bits takes at most 8 bytes
  const bytes = Buffer.allocUnsafe(sorted.length * 8);
  let length = 0;
  let before = 0;
  for (const id of sorted) {
    let difference = id - before;
    if (difference === 0) continue;
    before = id;
    for (; difference > 127; difference = Math.floor(difference / 128)) bytes[length++] = (difference % 128) | 128;
    bytes[length++] = difference;
  }
  return bytes.subarray(0, length);
}

export function unpackIds(bytes: Uint8Array): number[] {
  const ids: number[] = [];
  let before = 0;
  let value = 0;
  let factor = 1;
  for (const byte of bytes) {
    value += (byte & 127) * factor;
    if (byte & 128) {
      factor *= 128;
      continue;
    }
    before += value;
    ids.push(before);
    value = 0;
    factor = 1;
  }
  return ids;
}

export function putEdges(
  store: Store,
  sourceId: number,
  pageId: number,
  targets: readonly number[],
  isRedirect: boolean,
): void {
  const packed = packIds(targets);
  if (packed.length === 0) return;
  statement(store.raw, 'INSERT OR REPLACE INTO page_edges VALUES (?, ?, ?, ?)').run(
    pageId,
    sourceId,
    isRedirect ? 1 : 0,
    packed,
  );
}

/**
 * Gives every page of a crawl its true depth, the fewest links from a seed, whatever the order was in which pages were read;
 * pages that turn out to be within `depth` and were set aside as too deep join the queue. A redirect's target is as deep as
 * the redirect. Depths of seeds are 0; `seedDepths` names how deep each site may be read where that is not `depth`.
 *
 * @returns how many pages joined the queue.
 */
export function settleDepths(
  store: Store,
  sourceId: number,
  depth: number,
  seedDepths: ReadonlyMap<string, number>,
): number {
  const rows = store.raw
    .prepare('SELECT id, site, depth, state FROM pages WHERE source_id = ?')
    .raw()
    .all(sourceId) as [number, string, number, string][];
  const place = new Map(rows.map(([id], index) => [id, index]));
  const shortest = new Int32Array(rows.length).fill(-1);
  const edges = new Map<number, { redirect: number; targets: Uint8Array }>();
  for (const [page, redirect, targets] of store.raw
    .prepare('SELECT page_id, redirect, targets FROM page_edges WHERE source_id = ?')
    .raw()
    .iterate(sourceId) as Iterable<[number, number, Uint8Array]>)
    edges.set(page, { redirect, targets });
  let level = rows.flatMap(([, , at], index) => (at === 0 ? [index] : []));
  for (let at = 0; level.length > 0; at++) {
    const next: number[] = [];
    // redirects lead to pages of the same level, so it grows while it is walked
    for (let i = 0; i < level.length; i++) {
      const index = level[i];
      if (shortest[index] >= 0) continue;
      shortest[index] = at;
      const found = edges.get(rows[index][0]);
      if (!found) continue;
      for (const target of unpackIds(found.targets)) {
        const to = place.get(target);
        if (to !== undefined && shortest[to] < 0) (found.redirect ? level : next).push(to);
      }
    }
    level = next;
  }
  const change = statement(store.raw, 'UPDATE pages SET depth = ?, state = ? WHERE id = ?');
  let joined = 0;
  rows.forEach(([id, site, before, state], index) => {
    const now = shortest[index];
    if (now < 0 || (now >= before && state !== 'beyond')) return;
    const isWithin = now <= (seedDepths.get(site) ?? depth);
    const joins = state === 'beyond' && isWithin;
    if (!joins && now === before) return;
    if (joins) joined++;
    change.run(now, joins ? 'queued' : state, id);
  });
  return joined;
}

/** Whether a crawl has a site among those that it reads or read. */
export function isSiteRead(store: Store, site: string): boolean {
  return statement(store.raw, 'SELECT 1 FROM crawl_sites WHERE site = ? LIMIT 1').get(site) !== undefined;
}

export const SITE_STATES = ['reading', 'dropped', 'blocking', 'unreachable'] as const;
export type SiteState = (typeof SITE_STATES)[number];

export interface CrawlSite {
  site: string;
  /** Address of the first seed there. */
  seed: string;
  /** How deep the site is read; null: as the crawl says. */
  depth: number | null;
  state: SiteState;
  note: string | null;
  /** Mark of what the site answers to an address that cannot exist; null: it says 404, or was not asked. */
  nonsenseMark: number | null;
  probed: 0 | 1;
}

export function putSite(store: Store, sourceId: number, site: string, seed: string, depth: number | null): void {
  statement(store.raw, 'INSERT OR IGNORE INTO crawl_sites (source_id, site, seed, depth) VALUES (?, ?, ?, ?)').run(
    sourceId,
    site,
    seed,
    depth,
  );
}

export function sitesOf(store: Store, sourceId: number): CrawlSite[] {
  return statement(
    store.raw,
    `SELECT site, seed, depth, state, note, nonsense_mark AS nonsenseMark, probed FROM crawl_sites WHERE source_id = ?
     ORDER BY site`,
  ).all(sourceId) as CrawlSite[];
}

/** @returns false when the crawl has no such site. */
export function setSiteState(
  store: Store,
  sourceId: number,
  site: string,
  state: SiteState,
  note: string | null,
): boolean {
  return (
    statement(store.raw, 'UPDATE crawl_sites SET state = ?, note = ? WHERE source_id = ? AND site = ?').run(
      state,
      note,
      sourceId,
      site,
    ).changes > 0
  );
}

export function saveProbe(store: Store, sourceId: number, site: string, mark: number | null): void {
  statement(store.raw, 'UPDATE crawl_sites SET probed = 1, nonsense_mark = ? WHERE source_id = ? AND site = ?').run(
    mark,
    sourceId,
    site,
  );
}

export interface Trap {
  site: string;
  kind: string;
  reason: string;
  example: string;
  addresses: number;
}

/** Counts an address that a rule kept the crawl from. The first example stays. */
export function putTrap(store: Store, sourceId: number, site: string, refused: NotFollowed, url: string): void {
  if (!refused.trap) return;
  statement(
    store.raw,
    `INSERT INTO crawl_traps VALUES (?, ?, ?, ?, ?, 1)
     ON CONFLICT (source_id, site, kind) DO UPDATE SET addresses = addresses + 1`,
  ).run(sourceId, site, refused.trap, refused.reason, url);
}

export function trapsOf(store: Store, sourceId: number): Trap[] {
  return statement(
    store.raw,
    'SELECT site, kind, reason, example, addresses FROM crawl_traps WHERE source_id = ? ORDER BY addresses DESC, site',
  ).all(sourceId) as Trap[];
}

export interface CrawlCounts {
  queued: number;
  beyond: number;
  done: number;
  skipped: number;
  failed: number;
}

export function countPages(store: Store, sourceId: number): CrawlCounts {
  const counts: CrawlCounts = { queued: 0, beyond: 0, done: 0, skipped: 0, failed: 0 };
  const rows = statement(
    store.raw,
    'SELECT state, count(*) AS pages FROM pages WHERE source_id = ? GROUP BY state',
  ).all(sourceId);
  for (const { state, pages } of rows as { state: keyof CrawlCounts; pages: number }[]) counts[state] = pages;
  return counts;
}

/** Pages read or failed, by site: what a budget of pages counts. */
export function readBySite(store: Store, sourceId: number): Map<string, number> {
  const rows = store.raw
    .prepare(
      `SELECT site, count(*) AS pages FROM pages WHERE source_id = ? AND state IN ('done', 'failed') GROUP BY site`,
    )
    .all(sourceId) as { site: string; pages: number }[];
  return new Map(rows.map(({ site, pages }) => [site, pages]));
}

export interface SiteYield {
  site: string;
  state: SiteState;
  note: string | null;
  pages: number;
  failed: number;
  queued: number;
  beyond: number;
  challenges: number;
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
       SELECT p.site, coalesce(c.state, 'reading') AS state, c.note, sum(p.state = 'done') AS pages,
         sum(p.state = 'failed') AS failed, sum(p.state = 'queued') AS queued, sum(p.state = 'beyond') AS beyond,
         coalesce(sum(p.kind IN ('challenge', 'consent')), 0) AS challenges,
         coalesce(f.domains, 0) AS domains, coalesce(f.lapsed, 0) AS lapsed
       FROM pages p LEFT JOIN finds f ON f.site = p.site
       LEFT JOIN crawl_sites c ON c.source_id = p.source_id AND c.site = p.site
       WHERE p.source_id = @source GROUP BY p.site ORDER BY lapsed DESC, domains DESC, p.site`,
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

/** A seed that was not read. */
export interface UnreadSeed {
  url: string;
  site: string;
  cause: UnreadCause | null;
  /** What the server said, or why it was not asked. */
  note: string;
}

/** Seeds whose page was not read, and those of sites that gave up or showed a door. */
export function unreadSeeds(store: Store, sourceId: number): UnreadSeed[] {
  return store.raw
    .prepare(
      `SELECT url, site, cause, coalesce(note, '') AS note FROM pages
       WHERE source_id = ? AND depth = 0 AND hops = 0 AND state IN ('failed', 'skipped') ORDER BY site, url`,
    )
    .all(sourceId) as UnreadSeed[];
}

/** What the pages that were read turned out to be. */
export function pageKinds(
  store: Store,
  sourceId: number,
): { kind: PageKind; pages: number; example: string; note: string | null }[] {
  return store.raw
    .prepare(
      `SELECT kind, count(*) AS pages, min(url) AS example, min(note) AS note FROM pages
       WHERE source_id = ? AND kind IS NOT NULL GROUP BY kind ORDER BY pages DESC`,
    )
    .all(sourceId) as { kind: PageKind; pages: number; example: string; note: string | null }[];
}

/** Keeps a domain from going further down the pipeline of a source. @returns whether it is new there. */
export function setAside(store: Store, sourceId: number, name: string, reason: string): boolean {
  const { changes } = statement(
    store.raw,
    'INSERT OR IGNORE INTO set_aside (source_id, name, reason) VALUES (?, ?, ?)',
  ).run(sourceId, name, reason);
  return changes > 0;
}

export function* eachSetAside(store: Store, sourceId: number): Generator<{ name: string; reason: string }> {
  const rows = store.raw.prepare('SELECT name, reason FROM set_aside WHERE source_id = ? ORDER BY reason, name');
  for (const row of rows.iterate(sourceId)) yield row as { name: string; reason: string };
}

export interface Funnel {
  pagesRead: number;
  linksOut: number;
  /** Distinct domains that the pages name: in the pool, left out and set aside. */
  named: number;
  /** Left out by a switch, and what each switch would keep out. */
  leftOut: number;
  switches: SwitchCount[];
  setAside: { reason: string; domains: number; example: string }[];
  inPool: number;
  /** In the pool before this source named them. */
  knownBefore: number;
  askedDns: number;
  delegated: number;
  askedRegistry: number;
  lapsed: number;
  /** Of the lapsed, those of which only a list says so yet. */
  lapsedByList: number;
  waiting: number;
  measured: number;
}

/** Stages of the way from a page to a measured find, each with what it let through. */
export function crawlFunnel(store: Store, sourceId: number): Funnel {
  const pages = store.raw
    .prepare(
      `SELECT sum(state = 'done') AS pagesRead, coalesce(sum(links_out), 0) AS linksOut FROM pages WHERE source_id = ?`,
    )
    .get(sourceId) as { pagesRead: number | null; linksOut: number };
  const aside = store.raw
    .prepare(
      'SELECT reason, count(*) AS domains, min(name) AS example FROM set_aside WHERE source_id = ? GROUP BY reason ORDER BY domains DESC',
    )
    .all(sourceId) as Funnel['setAside'];
  const domains = store.raw
    .prepare(
      `SELECT count(*) AS inPool, coalesce(sum(d.added_at < s.at), 0) AS knownBefore,
         coalesce(sum(d.phase_at IS NOT NULL), 0) AS askedDns,
         coalesce(sum(d.phase_at IS NOT NULL AND d.phase_source LIKE 'dns%'), 0) AS delegated,
         coalesce(sum(d.phase_at IS NOT NULL AND d.phase_source NOT LIKE 'dns%'), 0) AS askedRegistry,
         coalesce(sum(d.phase IN ('free', 'pending-delete', 'redemption')), 0) AS lapsed,
         coalesce(sum(d.phase_at IS NULL AND d.phase IN ('free', 'pending-delete', 'redemption')), 0) AS lapsedByList,
         coalesce(sum(d.phase_at IS NULL), 0) AS waiting,
         coalesce(sum(d.links_at IS NOT NULL AND d.phase IN ('free', 'pending-delete', 'redemption')), 0) AS measured
       FROM sightings s JOIN domains d ON d.id = s.domain_id WHERE s.source_id = ?`,
    )
    .get(sourceId) as Omit<Funnel, 'pagesRead' | 'linksOut' | 'named' | 'leftOut' | 'switches' | 'setAside'>;
  const cut = aside.reduce((sum, { domains: count }) => sum + count, 0);
  const { switches, out } = switchCounts(store, sourceId);
  return {
    pagesRead: pages.pagesRead ?? 0,
    linksOut: pages.linksOut,
    named: domains.inPool + out + cut,
    leftOut: out,
    switches,
    setAside: aside,
    ...domains,
  };
}

export interface CrawlSample {
  at: number;
  pages: number;
  queued: number;
  domains: number;
  finds: number;
}

export function addSample(store: Store, sourceId: number, sample: CrawlSample): void {
  statement(store.raw, 'INSERT OR REPLACE INTO crawl_samples VALUES (?, ?, ?, ?, ?, ?)').run(
    sourceId,
    sample.at,
    sample.pages,
    sample.queued,
    sample.domains,
    sample.finds,
  );
}

/** Samples of a crawl, evenly thinned to at most `most`. */
export function samplesOf(store: Store, sourceId: number, most = 240): CrawlSample[] {
  const all = store.raw
    .prepare('SELECT at, pages, queued, domains, finds FROM crawl_samples WHERE source_id = ? ORDER BY at')
    .all(sourceId) as CrawlSample[];
  const step = Math.ceil(all.length / most);
  return all.filter((_, index) => index % step === 0 || index === all.length - 1);
}
