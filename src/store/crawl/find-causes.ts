import { z } from 'zod';
import { LEAVE_OUT, LEFT_OUT_AT_FIRST, type LeaveOut, maskOf, type NamedBefore } from '../../core/crawl/leave-out';
import { type Store, statement } from '../base/database';
import { readSource } from '../sources/sources';

/** What is known of a domain before a source names it. Call before it is put. */
export function namedBefore(store: Store, name: string): NamedBefore & { id: number | null } {
  const row = statement(store.raw, 'SELECT id, in_pool, judged, referring_domains FROM domains WHERE name = ?').get(
    name,
  ) as { id: number; in_pool: 0 | 1; judged: string | null; referring_domains: number | null } | undefined;
  return {
    id: row?.id ?? null,
    isKnown: row?.in_pool === 1,
    isJudged: row !== undefined && row.judged !== null,
    referringDomains: row?.referring_domains ?? null,
  };
}

/** Whether a source has named a domain already, as a find or left out. */
export function isNamed(store: Store, sourceId: number, domainId: number): boolean {
  return (
    statement(
      store.raw,
      `SELECT 1 FROM sightings WHERE domain_id = @domain AND source_id = @source
       UNION ALL SELECT 1 FROM find_causes WHERE domain_id = @domain AND source_id = @source`,
    ).get({ domain: domainId, source: sourceId }) !== undefined
  );
}

/** Notes why a domain could be left out; with `isOut` it is, and what the source said is kept here. Call inside a write transaction. */
export function putCauses(
  store: Store,
  find: {
    sourceId: number;
    domainId: number;
    causes: number;
    isOut: boolean;
    at: number;
    line: number | null;
    said: object;
  },
): void {
  const { sourceId, domainId, causes, isOut, at, line, said } = find;
  statement(store.raw, 'INSERT OR IGNORE INTO find_causes VALUES (?, ?, ?, ?, ?, ?, ?)').run(
    sourceId,
    domainId,
    causes,
    isOut ? 1 : 0,
    at,
    line,
    isOut ? JSON.stringify(said) : null,
  );
}

/** Of one switch: whether it is on, how many domains it would keep out by itself, and how many are out that no other switch keeps out. */
export interface SwitchCount {
  cause: LeaveOut;
  isOn: boolean;
  would: number;
  alone: number;
}

/** How many domains each switch of a source would keep out. */
export function switchCounts(store: Store, sourceId: number): { switches: SwitchCount[]; out: number } {
  const on = switchesOf(store, sourceId);
  const mask = maskOf(on);
  const rows = statement(
    store.raw,
    'SELECT causes, sum(is_out) AS out, count(*) AS domains FROM find_causes WHERE source_id = ? GROUP BY causes',
  ).all(sourceId) as { causes: number; out: number; domains: number }[];
  const sum = (is: (row: { causes: number }) => boolean) =>
    rows.reduce((total, row) => total + (is(row) ? row.domains : 0), 0);
  const switches = LEAVE_OUT.map((cause, place) => {
    const bit = 1 << place;
    return {
      cause,
      isOn: on.includes(cause),
      would: sum(({ causes }) => (causes & bit) !== 0),
      alone: sum(({ causes }) => (causes & bit) !== 0 && (causes & mask & ~bit) === 0),
    };
  });
  return { switches, out: rows.reduce((total, row) => total + row.out, 0) };
}

/** The switches of a source that are on. */
export function switchesOf(store: Store, sourceId: number): LeaveOut[] {
  const detail = readSource(store, sourceId)?.detail ?? {};
  return z
    .array(z.enum(LEAVE_OUT))
    .catch([...LEFT_OUT_AT_FIRST])
    .parse(detail.leaveOut);
}

const WAS_KNOWN = maskOf(['known']);

/** A part of the work of changed switches. `last`: the domain it came to; null: there is no more. */
export interface MovedPart {
  last: number | null;
  /** In the finds again. */
  back: number[];
  /** Left out now. */
  out: number[];
}

/**
 * Moves the next `limit` domains after one, by id, out of a source's finds or back into them, as its switches are. What nobody else names
 * and no shortlist holds leaves the pool. Call inside a write transaction; doing it twice is harmless.
 */
export function moveFinds(store: Store, sourceId: number, mask: number, after: number, limit: number): MovedPart {
  const { raw } = store;
  const rows = statement(
    raw,
    `SELECT domain_id AS id, causes, is_out AS isOut FROM find_causes
     WHERE source_id = ? AND domain_id > ? AND is_out <> ((causes & ?) <> 0) ORDER BY domain_id LIMIT ?`,
  ).all(sourceId, after, mask, limit) as { id: number; causes: number; isOut: 0 | 1 }[];
  const part: MovedPart = { last: rows.at(-1)?.id ?? null, back: [], out: [] };
  const comeBack = statement(
    raw,
    `INSERT OR IGNORE INTO sightings SELECT domain_id, source_id, at, line, said FROM find_causes WHERE source_id = ? AND domain_id = ?`,
  );
  const isBack = statement(raw, 'UPDATE find_causes SET is_out = 0, said = NULL WHERE source_id = ? AND domain_id = ?');
  const intoPool = statement(raw, 'UPDATE domains SET in_pool = 1, added_at = ? WHERE id = ? AND in_pool = 0');
  const goOut = statement(
    raw,
    `UPDATE find_causes SET is_out = 1, said = (SELECT said FROM sightings s WHERE s.domain_id = find_causes.domain_id AND
       s.source_id = find_causes.source_id) WHERE source_id = ? AND domain_id = ?`,
  );
  const unsee = statement(raw, 'DELETE FROM sightings WHERE source_id = ? AND domain_id = ?');
  const leavePool = statement(
    raw,
    `UPDATE domains SET in_pool = 0 WHERE id = @id AND NOT EXISTS (SELECT 1 FROM sightings WHERE domain_id = @id)
       AND NOT EXISTS (SELECT 1 FROM shortlist WHERE domain_id = @id)`,
  );
  for (const { id, causes, isOut } of rows) {
    if (isOut) {
      comeBack.run(sourceId, id);
      isBack.run(sourceId, id);
      intoPool.run(store.now(), id);
      part.back.push(id);
    } else {
      goOut.run(sourceId, id);
      unsee.run(sourceId, id);
      // what was in the pool before came there some other way
      if ((causes & WAS_KNOWN) === 0) leavePool.run({ id });
      part.out.push(id);
    }
  }
  return part;
}

/** Domains that are left out of a source's finds, with the switches that would leave them out. */
export function* eachLeftOut(store: Store, sourceId: number): Generator<{ name: string; causes: LeaveOut[] }> {
  const rows = store.raw.prepare(
    `SELECT d.name, f.causes FROM find_causes f JOIN domains d ON d.id = f.domain_id WHERE f.source_id = ? AND f.is_out = 1 ORDER BY d.name`,
  );
  for (const { name, causes } of rows.iterate(sourceId) as Iterable<{ name: string; causes: number }>)
    yield { name, causes: LEAVE_OUT.filter((_, place) => causes & (1 << place)) };
}
