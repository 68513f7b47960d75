import type { Phase } from '../../core/lifecycle/phase';
import { nameFacts, type RegistrableDomain } from '../../core/names/domain';
import { type ColumnOf, FACT_NAMES, factSpec, type ShownNumber } from '../../core/pool/facts';
import { type Store, statement } from '../base/database';
import { saidOnLine } from '../sources/raw-rows';

/** Figures of the table of facts, by their columns; those of `inspections` are undefined where a row was read without it. */
type Figures = { [F in ShownNumber as ColumnOf<F>]: number | null };

/** A domain's row as it is stored. Times in ms since 1970 UTC. */
export interface DomainRow extends Figures {
  id: number;
  name: string;
  ending: string;
  length: number;
  hyphens: number;
  digits: number;
  in_pool: number;
  added_at: number;
  phase: Phase;
  phase_confidence: number | null;
  phase_reason: string | null;
  phase_source: string | null;
  phase_at: number | null;
  registered_at: number | null;
  expires_at: number | null;
  changed_at: number | null;
  registrar: string | null;
  statuses: string | null;
  name_servers: string | null;
  record_at: number | null;
  record_source: string | null;
  first_seen_at: number | null;
  last_seen_at: number | null;
  captures_by_year: string | null;
  past_at: number | null;
  past_source: string | null;
  /** 1: the person owns it. Absent where rows are read without it. */
  own?: number;
  links_at: number | null;
  trust_path: string | null;
  listing: string | null;
  venue: string | null;
  price_minor: number | null;
  currency: string | null;
  closing_at: number | null;
  drop_at: number | null;
  listing_url: string | null;
  listing_at: number | null;
  phase_since: number | null;
  phase_before_at: number | null;
  contradictions: string | null;
  drop_from: number | null;
  drop_to: number | null;
  drop_conditional: number | null;
  drop_reasons: string | null;
  watched_at: number | null;
  watch_reason: string | null;
  ask_at: number | null;
  ask_failures: number | null;
  judged: string | null;
  judged_reason: string | null;
  judged_at: number | null;
  snoozed_until: number | null;
  /** What was measured beyond counts of links; of a row that was read without it, undefined. */
  count_from?: string | null;
  language?: string | null;
  subject?: string | null;
  subject_confidence?: number | null;
  forward_to?: string | null;
  forward_now?: number | null;
  strength_with?: number | null;
  captures_at?: number | null;
  captures_read?: number | null;
  referrers_at?: number | null;
}

/** A domain with what was measured of it, as `domains d LEFT JOIN inspections i`. */
const MEASURED = FACT_NAMES.flatMap((fact) => factSpec(fact).column ?? []).filter((column) => column.startsWith('i.'));
export const DOMAIN_COLUMNS = `d.*, ${MEASURED.join(', ')}, i.count_from, i.forward_now, i.strength_with, i.captures_read,
  EXISTS (SELECT 1 FROM holdings h WHERE h.domain_id = d.id AND h.status = 'owned') AS own`;

/** Finds or adds a domain. `inPool` false: known only as a site that links. @returns its id, and whether it came new into the pool. */
export function putDomain(
  store: Store,
  domain: RegistrableDomain,
  inPool: boolean,
  at: number,
): { id: number; isNew: boolean } {
  const { raw } = store;
  const found = statement(raw, 'SELECT id, in_pool FROM domains WHERE name = ?').get(domain.name) as
    | { id: number; in_pool: number }
    | undefined;
  if (found) {
    if (inPool && !found.in_pool) {
      statement(raw, 'UPDATE domains SET in_pool = 1, added_at = ? WHERE id = ?').run(at, found.id);
      return { id: found.id, isNew: true };
    }
    return { id: found.id, isNew: false };
  }
  const facts = nameFacts(domain);
  const { lastInsertRowid } = statement(
    raw,
    'INSERT INTO domains (name, ending, length, hyphens, digits, in_pool, added_at) VALUES (?, ?, ?, ?, ?, ?, ?)',
  ).run(domain.name, domain.ending, facts.length, facts.hyphens, facts.digits, inPool ? 1 : 0, at);
  return { id: Number(lastInsertRowid), isNew: inPool };
}

/** What a list or a feed says of a domain beside its offer, for the current values. Times in ms since 1970 UTC. */
export interface SaidValues {
  phase: Phase | null;
  dropAt: number | null;
  registeredAt: number | null;
  /** Who says so. */
  source: string;
}

const LIST_REASON = 'A list says so; not yet checked.';

/** Why the phase is what it is, in words; null: nobody was asked and nobody said. */
export function phaseReasonOf(row: Pick<DomainRow, 'phase_reason' | 'phase_source'>): string | null {
  return row.phase_reason ?? (row.phase_source?.startsWith('source ') ? LIST_REASON : null);
}

/** Fills the current values of a domain by what is said of it; that never replaces what was asked of a server. */
export function takeSaid(store: Store, domainId: number, values: SaidValues): void {
  const { raw } = store;
  if (values.dropAt !== null)
    statement(raw, 'UPDATE domains SET drop_at = ? WHERE id = ?').run(values.dropAt, domainId);
  if (values.phase)
    statement(
      raw,
      'UPDATE domains SET phase = ?, phase_reason = NULL, phase_source = ? WHERE id = ? AND phase_at IS NULL',
    ).run(values.phase, values.source, domainId);
  if (values.registeredAt !== null)
    statement(raw, 'UPDATE domains SET registered_at = ? WHERE id = ? AND record_at IS NULL').run(
      values.registeredAt,
      domainId,
    );
}

/** @returns false when the source had named the domain before: the first sighting stays. */
export function putSighting(
  store: Store,
  domainId: number,
  sourceId: number,
  at: number,
  line: number | null,
  said: object,
): boolean {
  return (
    statement(store.raw, 'INSERT OR IGNORE INTO sightings VALUES (?, ?, ?, ?, ?)').run(
      domainId,
      sourceId,
      at,
      line,
      JSON.stringify(said),
    ).changes > 0
  );
}

const POOL_FROM = 'FROM domains d LEFT JOIN inspections i ON i.domain_id = d.id';

/** Domains of the pool with a price, by id, after one. */
export function pricedAfter(store: Store, after: number, limit: number): number[] {
  return statement(
    store.raw,
    'SELECT id FROM domains WHERE id > ? AND price_minor IS NOT NULL AND in_pool = 1 ORDER BY id LIMIT ?',
  )
    .pluck()
    .all(after, limit) as number[];
}

/** Sources and the domains they named, with the time in ms since 1970. */
export function* eachMembership(store: Store): Generator<[source: number, domain: number, at: number]> {
  const rows = store.raw.prepare('SELECT source_id, domain_id, at FROM sightings').raw();
  for (const entry of rows.iterate()) yield entry as [number, number, number];
}

export function membershipsOf(store: Store, domainId: number): number[] {
  return statement(store.raw, 'SELECT source_id FROM sightings WHERE domain_id = ?').pluck().all(domainId) as number[];
}

/** Rows in the order of the given ids. */
export function readDomains(store: Store, ids: number[]): DomainRow[] {
  const read = statement(store.raw, `SELECT ${DOMAIN_COLUMNS} ${POOL_FROM} WHERE d.id = ?`);
  return ids.flatMap((id) => (read.get(id) as DomainRow | undefined) ?? []);
}

export function findDomain(store: Store, name: string): DomainRow | null {
  return (
    (statement(store.raw, `SELECT ${DOMAIN_COLUMNS} ${POOL_FROM} WHERE d.name = ?`).get(name) as
      | DomainRow
      | undefined) ?? null
  );
}

/** Phase that a server's answer from after `since` gave; null when there is none so fresh. */
export function freshPhase(store: Store, domainId: number, since: number): Phase | null {
  const found = statement(store.raw, 'SELECT phase FROM domains WHERE id = ? AND phase_at >= ?').pluck();
  return (found.get(domainId, since) as Phase | undefined) ?? null;
}

/** Domains that a crawl found and that have no verdict from after `since`, with the page where each was found first. */
export function unsettledFinds(
  store: Store,
  sourceId: number,
  since: number,
): { id: number; name: string; ending: string; pageId: number; classId: number; viaClass: number }[] {
  return store.raw
    .prepare(
      `SELECT d.id, d.name, d.ending, p.id AS pageId, p.class_id AS classId, p.via_class AS viaClass
       FROM sightings s JOIN domains d ON d.id = s.domain_id JOIN pages p ON p.id = json_extract(s.said, '$.page')
       WHERE s.source_id = ? AND (d.phase_at IS NULL OR d.phase_at < ?)
         AND NOT EXISTS (SELECT 1 FROM set_aside a WHERE a.source_id = s.source_id AND a.name = d.name)
       ORDER BY d.id`,
    )
    .all(sourceId, since) as never;
}

export interface StoredSighting {
  sourceId: number;
  sourceKind: string;
  sourceName: string;
  at: number;
  line: number | null;
  said: Record<string, unknown>;
}

export function sightingsOf(store: Store, domainId: number): StoredSighting[] {
  const rows = statement(
    store.raw,
    `SELECT s.source_id AS sourceId, o.kind AS sourceKind, o.name AS sourceName, s.at, s.line, s.said,
       json_extract(o.detail, '$.columns') AS columns, json_extract(o.detail, '$.venue') AS listVenue,
       json_extract(o.detail, '$.delimiter') AS delimiter
     FROM sightings s JOIN sources o ON o.id = s.source_id WHERE s.domain_id = ? ORDER BY s.at DESC`,
  ).all(domainId) as (Omit<StoredSighting, 'said'> & {
    said: string;
    columns: string | null;
    listVenue: string | null;
    delimiter: string | null;
  })[];
  return rows.map(({ columns, listVenue, delimiter, ...row }) => ({
    ...row,
    said:
      row.said === ''
        ? {
            ...(listVenue && { venue: listVenue }),
            ...saidOnLine(store, row.sourceId, row.line ?? 0, {
              columns: columns ? JSON.parse(columns) : [],
              delimiter: delimiter ?? ',',
            }),
          }
        : JSON.parse(row.said),
  }));
}

/** Domains whose past is worth asking for: lapsed or lapsing, not asked since. */
export function pendingPasts(
  store: Store,
  which: { sourceId?: number; ids?: number[] },
  since: number,
): { id: number; name: string }[] {
  const rows = which.ids
    ? readDomains(store, which.ids)
    : (store.raw
        .prepare(
          `SELECT d.* FROM domains d JOIN sightings s ON s.domain_id = d.id
           WHERE s.source_id = ? AND d.phase IN ('free', 'pending-delete', 'redemption', 'auto-renew') AND d.phase_at IS NOT NULL
           ORDER BY d.id`,
        )
        .all(which.sourceId ?? 0) as DomainRow[]);
  return rows.flatMap(({ id, name, past_at }) => (past_at !== null && past_at >= since ? [] : [{ id, name }]));
}

export interface PastEntry {
  firstSeenAt: number | null;
  lastSeenAt: number | null;
  captures: number;
  byYear: { year: number; captures: number }[];
  source: string;
}

/** Call inside a write transaction. */
export function putPast(store: Store, domainId: number, at: number, past: PastEntry): void {
  statement(
    store.raw,
    `UPDATE domains SET first_seen_at = ?, last_seen_at = ?, captures = ?, captures_by_year = ?, past_at = ?, past_source = ?
     WHERE id = ?`,
  ).run(past.firstSeenAt, past.lastSeenAt, past.captures, JSON.stringify(past.byYear), at, past.source, domainId);
}

/** Ids of those of some names that are in the pool, in the order of the names. */
export function idsInPool(store: Store, names: readonly string[]): number[] {
  const find = statement(store.raw, 'SELECT id AS pooledId FROM domains WHERE name = ? AND in_pool = 1').pluck();
  return names.flatMap((name) => (find.get(name) as number | undefined) ?? []);
}
