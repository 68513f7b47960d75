import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { type CaptureKind, isPassedOn } from '../../core/history/capture';
import type { PageBlock } from '../../core/history/outline';
import type { Past, ReadCapture } from '../../core/history/past';
import type { EffectiveReferrers, Referring } from '../../core/links/effective';
import { MEASURES, type Measure, type MeasureCandidate } from '../../core/measures/plan';
import type { SubjectWord } from '../../core/topics/classifier';
import { type Store, statement } from '../base/database';

/** Why a domain has its subject. */
export interface SubjectReason {
  /** What was read: captures, anchors and linking pages. */
  from: string;
  words: SubjectWord[];
  runnerUp: { subject: string; confidence: number } | null;
}

/** What weighing the referrers gave, without the list of them: those are weighed again when somebody looks. */
export type Weighing = Pick<EffectiveReferrers, 'effective' | 'pages' | 'siteWide' | 'taken' | 'networks'>;

/** What the front page of a domain answers. */
export interface FrontAnswer {
  status: number | null;
  /** Domain that it sends its visitors to; null: none. */
  to: string | null;
  note: string;
}

/** What was measured of a domain beyond counts. Times in ms since 1970 UTC; null: not measured. */
export interface InspectionRow {
  domain_id: number;
  strength_rank: number | null;
  trust_rank: number | null;
  strength_with: number | null;
  spam_mass: number | null;
  effective: number | null;
  weighing: string | null;
  count_from: string | null;
  count_factor: number | null;
  captures_at: number | null;
  captures_read: number | null;
  captures_partial: number | null;
  content_years: number | null;
  gaps: number | null;
  drops: number | null;
  drift: number | null;
  subject: string | null;
  subject_confidence: number | null;
  subject_why: string | null;
  language: string | null;
  past: string | null;
  forwarding_at: number | null;
  forward_to: string | null;
  forward_now: number | null;
  front: string | null;
  referrers_at: number | null;
  marks_at: number | null;
  marks_found: number | null;
}

type Column = Exclude<keyof InspectionRow, 'domain_id'>;

export function readInspection(store: Store, domainId: number): InspectionRow | null {
  return (
    (statement(store.raw, 'SELECT * FROM inspections WHERE domain_id = ?').get(domainId) as
      | InspectionRow
      | undefined) ?? null
  );
}

/** Writes some of the columns. Call inside a write transaction. */
export function putInspection(
  store: Store,
  domainId: number,
  values: Partial<Record<Column, string | number | null>>,
): void {
  const columns = Object.keys(values) as Column[];
  if (columns.length === 0) return;
  const names = columns.join(', ');
  const marks = columns.map((column) => `@${column}`).join(', ');
  const changes = columns.map((column) => `${column} = excluded.${column}`).join(', ');
  statement(
    store.raw,
    `INSERT INTO inspections (domain_id, ${names}) VALUES (@domain_id, ${marks}) ON CONFLICT(domain_id) DO UPDATE SET ${changes}`,
  ).run({ ...values, domain_id: domainId });
}

/** A capture that was read, as it is kept. */
export interface StoredCapture extends ReadCapture {
  url: string;
  status: number;
  marks: string[];
  subjectConfidence: number | null;
  links: string[];
  fingerprint: string | null;
}

const KEPT_TERMS = 60;

/** Call inside a write transaction. */
export function putCapture(store: Store, domainId: number, capture: StoredCapture, at: number): void {
  const terms = [...capture.terms].sort((a, b) => b[1] - a[1]).slice(0, KEPT_TERMS);
  statement(store.raw, 'INSERT OR REPLACE INTO captures VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)').run(
    domainId,
    capture.at,
    capture.url,
    capture.status,
    capture.kind,
    JSON.stringify(capture.marks),
    capture.title,
    capture.language,
    capture.subject,
    capture.subjectConfidence,
    JSON.stringify(terms),
    JSON.stringify(capture.links),
    capture.redirectTo,
    capture.fingerprint,
    at,
  );
}

/** Keeps what a capture shows, as plain blocks. Call inside a write transaction. */
export function putCapturePage(store: Store, domainId: number, at: number, blocks: readonly PageBlock[]): void {
  statement(store.raw, 'INSERT OR REPLACE INTO capture_pages VALUES (?, ?, ?)').run(
    domainId,
    at,
    deflateRawSync(JSON.stringify(blocks)),
  );
}

/** What a capture showed; null: it was read before pages were kept, or not at all. */
export function capturePage(store: Store, domainId: number, at: number): PageBlock[] | null {
  const packed = statement(store.raw, 'SELECT blocks FROM capture_pages WHERE domain_id = ? AND at = ?')
    .pluck()
    .get(domainId, at) as Buffer | undefined;
  return packed ? JSON.parse(inflateRawSync(packed).toString('utf8')) : null;
}

/** Times of captures whose pages are kept. */
export function capturePageTimes(store: Store, domainId: number): number[] {
  return statement(store.raw, 'SELECT at AS pageAt FROM capture_pages WHERE domain_id = ? ORDER BY at')
    .pluck()
    .all(domainId) as number[];
}

/** Captures that were read, in their order. */
export function capturesOf(store: Store, domainId: number): StoredCapture[] {
  const rows = statement(
    store.raw,
    `SELECT at, url, status, kind, marks, title, language, subject, subject_confidence AS subjectConfidence, terms, links,
       redirect_to AS redirectTo, fingerprint FROM captures WHERE domain_id = ? ORDER BY at`,
  ).all(domainId) as (Omit<StoredCapture, 'marks' | 'terms' | 'links'> & {
    kind: CaptureKind;
    marks: string;
    terms: string;
    links: string;
  })[];
  return rows.map((row) => ({
    ...row,
    marks: JSON.parse(row.marks),
    isPassedOn: isPassedOn({ kind: row.kind, marks: JSON.parse(row.marks) }),
    terms: new Map(JSON.parse(row.terms)),
    links: JSON.parse(row.links),
  }));
}

/** Keeps the times of all captures, ms since 1970. Call inside a write transaction. */
export function putCaptureTimes(store: Store, domainId: number, times: readonly number[]): void {
  const packed = Uint32Array.from(times, (at) => Math.floor(at / 1000));
  statement(store.raw, 'INSERT OR REPLACE INTO capture_times VALUES (?, ?)').run(domainId, Buffer.from(packed.buffer));
}

export function captureTimes(store: Store, domainId: number): number[] {
  const packed = statement(store.raw, 'SELECT times FROM capture_times WHERE domain_id = ?').pluck().get(domainId) as
    | Buffer
    | undefined;
  if (!packed) return [];
  // the driver's buffer begins where it likes
  const copy = new Uint8Array(packed).buffer;
  return Array.from(new Uint32Array(copy), (seconds) => seconds * 1000);
}

export function pastOf(row: Pick<InspectionRow, 'past'> | null): Past | null {
  return row?.past ? JSON.parse(row.past) : null;
}

/** How a linking page answered when it was fetched again. */
export interface LinkLook {
  fromId: number;
  url: string;
  at: number;
  standing: Referring['standing'];
  anchor: string | null;
  rel: string | null;
  fingerprint: string | null;
  note: string;
  /** ISO 639-1, of the page; null: not told. */
  language: string | null;
}

/** Call inside a write transaction. */
export function putLinkLook(store: Store, toId: number, look: LinkLook): void {
  statement(store.raw, 'INSERT OR REPLACE INTO link_looks VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)').run(
    toId,
    look.fromId,
    look.url,
    look.at,
    look.standing,
    look.anchor,
    look.rel,
    look.fingerprint,
    look.note,
    look.language,
  );
}

export interface SiteFacts {
  nameServers: string[];
  addressBlock: string | null;
  trackingIds: string[];
}

/** Call inside a write transaction. */
export function putSiteFacts(store: Store, domainId: number, facts: SiteFacts, at: number): void {
  statement(
    store.raw,
    `INSERT INTO site_facts (domain_id, at, name_servers, address_block, tracking_ids) VALUES (?, ?, ?, ?, ?)
     ON CONFLICT(domain_id) DO UPDATE SET at = excluded.at, name_servers = excluded.name_servers,
       address_block = excluded.address_block, tracking_ids = excluded.tracking_ids`,
  ).run(domainId, at, JSON.stringify(facts.nameServers), facts.addressBlock, JSON.stringify(facts.trackingIds));
}

/** When a site was looked at last; null: never. */
export function siteLookedAt(store: Store, domainId: number): number | null {
  const at = statement(store.raw, 'SELECT at FROM site_facts WHERE domain_id = ?').pluck().get(domainId);
  return (at as number | null | undefined) ?? null;
}

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

/** A row of `referringBetween`, as the driver gives it quickest. */
type PackedReferring = [
  fromId: number, site: string, pages: number, followed: number, indexable: number, standing: Referring['standing'] | null,
  registrant: string | null, nameServers: string | null, ownServers: string | null, addressBlock: string | null,
  trackingIds: string | null, fingerprint: string | null, unindexed: string | null, exampleUrl: string, targetUrl: string,
  anchor: string, firstSeenAt: number | null, lastSeenAt: number | null, indexedAt: number | null, language: string | null,
  strength: number | null, trust: number | null, lookedAt: number | null, lookNote: string | null, lookAnchor: string | null,
  lookRel: string | null,
]; // biome-ignore format: one row
/** Links with these are no votes (HTML standard 4.6.6.13 and the search engines' own). */
const NO_VOTE = /nofollow|ugc|sponsored/;

/**
 * All referring domains of a domain with what is known of them, strongest first.
 *
 * @param lapsedTargets how many lapsed domains each site links to, by its id.
 */
export function referringOf(
  store: Store,
  domainId: number,
  lapsedTargets: (fromId: number) => number,
): StoredReferring[] {
  return referringBetween(store, domainId, lapsedTargets, -1, Number.MAX_SAFE_INTEGER).sort(strongerFirst);
}

/** The order of referring domains: by strength, those that are not measured last, then by name. */
export function strongerFirst(a: StoredReferring, b: StoredReferring): number {
  return (b.strength ?? -1) - (a.strength ?? -1) || (a.site < b.site ? -1 : 1);
}

/** Id of the last of the next `many` referring domains after one, by id; null: there are fewer. */
export function lastReferring(store: Store, domainId: number, after: number, many: number): number | null {
  const last = statement(
    store.raw,
    'SELECT from_id AS lastFrom FROM links WHERE to_id = ? AND from_id > ? GROUP BY from_id ORDER BY from_id LIMIT 1 OFFSET ?',
  )
    .pluck()
    .get(domainId, after, many - 1) as number | undefined;
  return last ?? null;
}

/** Those referring domains whose ids lie over `after` and up to `last`, in no order. */
export function referringBetween(
  store: Store,
  domainId: number,
  lapsedTargets: (fromId: number) => number,
  after: number,
  last: number,
): StoredReferring[] {
  const rows = statement(
    store.raw,
    `WITH x AS MATERIALIZED (SELECT id, coalesce(json_extract(detail, '$.asOf'), created_at) AS at FROM sources WHERE kind = 'links')
     SELECT l.from_id, d.name, count(DISTINCT l.from_url), min(l.nofollow) = 0,
       max(CASE WHEN l.nofollow = 0 THEN l.indexable ELSE 0 END), k.standing, f.registrant, f.name_servers, d.name_servers,
       f.address_block, f.tracking_ids, k.fingerprint, CASE WHEN max(l.indexable) = 0 THEN max(l.unindexed) END,
       min(l.from_url), min(l.to_url), min(l.anchor), min(l.first_seen_at),
       max(CASE WHEN x.id IS NOT NULL THEN l.last_seen_at END), max(x.at), coalesce(k.language, i.language),
       d.strength, d.trust, k.at, k.note, k.anchor, k.rel
     FROM links l JOIN domains d ON d.id = l.from_id
       LEFT JOIN x ON x.id = l.source_id
       LEFT JOIN inspections i ON i.domain_id = l.from_id
       LEFT JOIN site_facts f ON f.domain_id = l.from_id
       LEFT JOIN link_looks k ON k.to_id = l.to_id AND k.from_id = l.from_id
     WHERE l.to_id = ? AND l.from_id > ? AND l.from_id <= ? GROUP BY l.from_id`,
  )
    .raw()
    .all(domainId, after, last) as PackedReferring[];
  const serverSites = serverCounter(store);
  return rows.map((row) => {
    const [fromId, site, pages, isFollowed, isIndexable, standing, registrant, servers, ownServers] = row;
    const followed = isFollowed === 1 && !NO_VOTE.test(row[25] ?? '');
    return {
      fromId,
      site,
      pages,
      followed,
      // where all is nofollow, that is the reason; whether it could be indexed does not matter then
      indexable: isIndexable === 1 || !followed,
      standing: standing ?? 'unknown',
      registrant,
      nameServers: listOf(servers ?? ownServers),
      addressBlock: row[9],
      trackingIds: listOf(row[10]),
      fingerprint: row[11],
      serverSites: serverSites(servers, row[9]),
      unindexed: row[12],
      exampleUrl: row[13],
      targetUrl: row[14],
      anchor: row[15],
      firstSeenAt: row[16],
      lastSeenAt: row[17],
      indexedAt: row[18],
      language: row[19],
      strength: row[20],
      trust: row[21],
      lookedAt: row[22],
      lookNote: row[23],
      lookAnchor: row[24],
      lapsedTargets: lapsedTargets(fromId),
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
      count = statement(
        store.raw,
        `SELECT count(*) AS many FROM (SELECT 1 FROM site_facts WHERE address_block = ? AND name_servers = ? LIMIT ${MOST_SERVER_SITES})`,
      )
        .pluck()
        .get(block, servers) as number;
      counted.set(key, count);
    }
    return count;
  };
}

/** Differs when links to a domain came or went, or were looked at again. */
export function linksStamp(store: Store, domainId: number): string {
  const links = statement(store.raw, 'SELECT count(*) AS linksTo FROM links WHERE to_id = ?').pluck().get(domainId);
  const looks = statement(store.raw, 'SELECT count(*), max(at) FROM link_looks WHERE to_id = ?')
    .raw()
    .get(domainId) as number[];
  return `${links} ${looks.join(' ')}`;
}

const listOf = (json: string | null): string[] => (json === null ? [] : JSON.parse(json));

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

/** The same as it was when all links were last measured; 0 for a site that is not known. */
export function keptLapsedTargets(store: Store): (fromId: number) => number {
  const read = statement(store.raw, 'SELECT targets FROM lapsed_targets WHERE domain_id = ?').pluck();
  return (fromId) => (read.get(fromId) as number | undefined) ?? 0;
}

/** Call inside a write transaction. */
export function keepLapsedTargets(store: Store, counts: ReadonlyMap<number, number>): void {
  statement(store.raw, 'DELETE FROM lapsed_targets').run();
  const insert = statement(store.raw, 'INSERT INTO lapsed_targets VALUES (?, ?)');
  for (const [id, count] of counts) insert.run(id, count);
}

/** The old addresses of a domain that most domains link to. */
export function oldAddresses(
  store: Store,
  domainId: number,
  limit: number,
): { url: string; domains: number; links: number }[] {
  return statement(
    store.raw,
    `SELECT to_url AS url, count(DISTINCT from_id) AS domains, count(DISTINCT from_url) AS links FROM links WHERE to_id = ?
     GROUP BY to_url ORDER BY domains DESC, links DESC, to_url LIMIT ?`,
  ).all(domainId, limit) as { url: string; domains: number; links: number }[];
}

/** Puts domains into the queue of what is to be measured; whoever is in it by a sieve's wish goes ahead by hand. @returns how many came new. */
export function wantMeasured(
  store: Store,
  ids: Iterable<number>,
  wantedBy: string,
  isByHand: boolean,
  at: number,
): number {
  const insert = statement(
    store.raw,
    `INSERT INTO measure_queue VALUES (@id, @at, @wantedBy, @byHand) ON CONFLICT(domain_id) DO UPDATE SET
       by_hand = max(by_hand, excluded.by_hand), wanted_by = CASE WHEN excluded.by_hand > by_hand THEN excluded.wanted_by ELSE wanted_by END`,
  );
  const known = statement(store.raw, 'SELECT count(*) AS waiting FROM measure_queue').pluck();
  const before = known.get() as number;
  for (const id of ids) insert.run({ id, at, wantedBy, byHand: isByHand ? 1 : 0 });
  return (known.get() as number) - before;
}

export function doneMeasured(store: Store, domainId: number): void {
  statement(store.raw, 'DELETE FROM measure_queue WHERE domain_id = ?').run(domainId);
}

export interface QueuedCandidate extends MeasureCandidate {
  id: number;
  wantedBy: string;
  since: number;
}

const CANDIDATE = `d.id, d.name, d.referring_domains AS referringDomains, d.strength, d.spam_risk AS spamRisk, d.captures,
  EXISTS (SELECT 1 FROM shortlist s WHERE s.domain_id = d.id) AS shortlisted, i.captures_at, i.forwarding_at, i.referrers_at, i.marks_at`;

type PackedCandidate = Omit<QueuedCandidate, 'shortlisted' | 'isByHand' | 'takenAt'> & {
  shortlisted: number;
  byHand: number;
} & Record<`${Measure}_at`, number | null>;

/** Domains that wait to be measured, those asked for by hand first, then the strongest. */
export function queuedCandidates(store: Store, limit: number): QueuedCandidate[] {
  const rows = statement(
    store.raw,
    `SELECT ${CANDIDATE}, q.wanted_by AS wantedBy, q.since, q.by_hand AS byHand
     FROM measure_queue q JOIN domains d ON d.id = q.domain_id LEFT JOIN inspections i ON i.domain_id = d.id
     ORDER BY q.by_hand DESC, d.strength IS NULL, d.strength DESC, d.id LIMIT ?`,
  ).all(limit) as PackedCandidate[];
  return rows.map(unpackCandidate);
}

function unpackCandidate({ shortlisted, byHand, ...row }: PackedCandidate): QueuedCandidate {
  const takenAt = Object.fromEntries(
    MEASURES.map((measure) => [measure, row[`${measure}_at`]]),
  ) as MeasureCandidate['takenAt'];
  return { ...row, shortlisted: shortlisted === 1, isByHand: byHand === 1, takenAt };
}

export function queueLength(store: Store): number {
  return statement(store.raw, 'SELECT count(*) AS queued FROM measure_queue').pluck().get() as number;
}

const dayOf = (at: number) => new Date(at).toISOString().slice(0, 10);

/** Requests that measuring has cost today (UTC). */
export function spentToday(store: Store, at: number): number {
  const spent = statement(store.raw, 'SELECT requests FROM measure_spend WHERE day = ?').pluck().get(dayOf(at));
  return (spent as number | undefined) ?? 0;
}

/** Call inside a write transaction. */
export function spend(store: Store, requests: number, at: number): void {
  statement(
    store.raw,
    'INSERT INTO measure_spend VALUES (?, ?) ON CONFLICT(day) DO UPDATE SET requests = requests + excluded.requests',
  ).run(dayOf(at), requests);
}

/** Domains that send, or sent, their visitors to another, which may be known. */
export function forwarders(store: Store): { id: number; targetId: number | null; isReckoned: boolean }[] {
  const rows = statement(
    store.raw,
    `SELECT i.domain_id AS id, t.id AS targetId, t.id IS NULL OR i.strength_with IS NOT NULL AS reckoned FROM inspections i LEFT JOIN domains t ON t.name = i.forward_to
     WHERE i.forward_to IS NOT NULL`,
  ).all() as { id: number; targetId: number | null; reckoned: number }[];
  return rows.map(({ reckoned, ...row }) => ({ ...row, isReckoned: reckoned === 1 }));
}

/** Pages of a site that are known to link to a domain. */
export function pagesLinking(store: Store, toId: number, fromId: number, limit: number): string[] {
  return statement(
    store.raw,
    'SELECT DISTINCT from_url FROM links WHERE to_id = ? AND from_id = ? ORDER BY nofollow, from_url LIMIT ?',
  )
    .pluck()
    .all(toId, fromId, limit) as string[];
}

/** Whether something waits to be measured that may be measured now. */
export function isMeasureDue(store: Store, budget: number, at: number): boolean {
  const waiting = statement(
    store.raw,
    'SELECT by_hand AS hand FROM measure_queue ORDER BY by_hand DESC LIMIT 1',
  ).pluck();
  const byHand = waiting.get() as number | undefined;
  return byHand !== undefined && (byHand === 1 || spentToday(store, at) < budget);
}

/** Inspected domains that are linked and were never walked for: those out of the pool. */
export function withoutRanks(store: Store): number[] {
  return statement(
    store.raw,
    `SELECT i.domain_id FROM inspections i JOIN domains d ON d.id = i.domain_id
     WHERE i.strength_rank IS NULL AND d.links_at IS NOT NULL AND i.captures_at IS NOT NULL AND d.strength > 0 LIMIT 10000`,
  )
    .pluck()
    .all() as number[];
}
