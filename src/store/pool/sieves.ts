import { SIEVE_DEPTHS, type SIEVE_RUNS } from '../../core/pool/sieve-kinds';
import { type Store, statement, write } from '../base/database';

export type SieveDepth = (typeof SIEVE_DEPTHS)[number];

export type SieveRuns = (typeof SIEVE_RUNS)[number];

export interface SieveOptions {
  runs: SieveRuns;
  /** Daily: minutes after midnight, UTC. */
  runMinute: number;
  /** Whether what is new goes into the daily digest. */
  inDigest: boolean;
  /** Brief whose shortlist takes what is new; null: none. */
  shortlistBrief: number | null;
  /** How far what is new is checked and measured. */
  depth: SieveDepth;
}

/** A kept stack of conditions with its sort and columns, as the query text of a pool address. */
export interface Sieve extends SieveOptions {
  id: number;
  name: string;
  view: string;
  createdAt: number;
  /** Times in ms since 1970; null: never, or not by itself. */
  nextAt: number | null;
  lastAt: number | null;
  /** Of the last run. */
  lastTotal: number | null;
  lastNew: number | null;
  /** Domains that are new since the person saw them. */
  fresh: number;
}

/** So long a view that was changed or deleted can come back with what it has let through. */
const FORGOTTEN_MS = 30 * 86_400_000;

const COLUMNS = `id, name, view, created_at AS createdAt, runs, run_minute AS runMinute, in_digest AS inDigest,
  shortlist_brief AS shortlistBrief, depth, next_at AS nextAt, last_at AS lastAt, last_total AS lastTotal, last_new AS lastNew,
  (SELECT count(*) FROM sieve_hits h WHERE h.sieve_id = sieves.id AND h.fresh = 1) AS fresh`;

type Packed = Omit<Sieve, 'inDigest' | 'depth'> & { inDigest: number; depth: number };
const unpack = (row: Packed): Sieve => ({ ...row, inDigest: row.inDigest === 1, depth: SIEVE_DEPTHS[row.depth] });

export function listSieves(store: Store): Sieve[] {
  return (statement(store.raw, `SELECT ${COLUMNS} FROM sieves ORDER BY name`).all() as Packed[]).map(unpack);
}

export function readSieve(store: Store, id: number): Sieve | null {
  const row = statement(store.raw, `SELECT ${COLUMNS} FROM sieves WHERE id = ?`).get(id) as Packed | undefined;
  return row ? unpack(row) : null;
}

/** Adds a sieve or replaces what the one of that name shows; its schedule stays. */
export function saveSieve(store: Store, name: string, view: string): number {
  return write(store, () => {
    const isKnown = statement(store.raw, 'SELECT 1 FROM sieves WHERE name = ?').get(name) !== undefined;
    const { id } = statement(
      store.raw,
      `INSERT INTO sieves (name, view, created_at) VALUES (?, ?, ?)
       ON CONFLICT(name) DO UPDATE SET view = excluded.view RETURNING id`,
    ).get(name, view, store.now()) as { id: number };
    // one that had its number before is not to be mistaken for it
    if (!isKnown) statement(store.raw, 'DELETE FROM forgotten_hits WHERE sieve_id = ?').run(id);
    return id;
  });
}

/** Changes name, view or options. Another view forgets what the old one has let through. @throws when the name is taken. */
export function changeSieve(
  store: Store,
  id: number,
  change: Partial<SieveOptions & { name: string; view: string }>,
): Sieve | null {
  return write(store, () => {
    const before = readSieve(store, id);
    if (!before) return null;
    const after = { ...before, ...change };
    statement(
      store.raw,
      `UPDATE sieves SET name = ?, view = ?, runs = ?, run_minute = ?, in_digest = ?, shortlist_brief = ?, depth = ?, next_at = ?
       WHERE id = ?`,
    ).run(
      after.name,
      after.view,
      after.runs,
      after.runMinute,
      after.inDigest ? 1 : 0,
      after.shortlistBrief,
      SIEVE_DEPTHS.indexOf(after.depth),
      after.runs === 'daily' ? nextDaily(after.runMinute, store.now()) : null,
      id,
    );
    if (after.view !== before.view) {
      forgetHits(store, before);
      statement(store.raw, 'UPDATE sieves SET last_at = NULL, last_total = NULL, last_new = NULL WHERE id = ?').run(id);
    }
    return readSieve(store, id);
  });
}

/** The next moment at so many minutes after midnight UTC, after `now`; ms since 1970. */
export function nextDaily(minute: number, now: number): number {
  const day = 86_400_000;
  const today = Math.floor(now / day) * day + minute * 60_000;
  return today > now ? today : today + day;
}

export function deleteSieve(store: Store, id: number): Sieve | null {
  return write(store, () => {
    const sieve = readSieve(store, id);
    if (sieve) forgetHits(store, sieve);
    statement(store.raw, 'DELETE FROM sieves WHERE id = ?').run(id);
    return sieve;
  });
}

/** Puts aside what a view has let through. Call inside a write transaction. */
function forgetHits(store: Store, { id, view }: Pick<Sieve, 'id' | 'view'>): void {
  const now = store.now();
  statement(store.raw, 'DELETE FROM forgotten_hits WHERE (sieve_id = ? AND view = ?) OR forgotten_at < ?').run(
    id,
    view,
    now - FORGOTTEN_MS,
  );
  statement(
    store.raw,
    `INSERT INTO forgotten_hits (sieve_id, view, domain_id, at, fresh, forgotten_at)
     SELECT sieve_id, ?, domain_id, at, fresh, ? FROM sieve_hits WHERE sieve_id = ?`,
  ).run(view, now, id);
  statement(store.raw, 'DELETE FROM sieve_hits WHERE sieve_id = ?').run(id);
}

/** A view came back: so does what it has let through, instead of what another let through since. Call inside a write transaction. */
export function recallHits(store: Store, id: number, view: string): void {
  statement(store.raw, 'DELETE FROM sieve_hits WHERE sieve_id = ?').run(id);
  statement(
    store.raw,
    `INSERT INTO sieve_hits (sieve_id, domain_id, at, fresh)
     SELECT sieve_id, domain_id, at, fresh FROM forgotten_hits WHERE sieve_id = ? AND view = ?`,
  ).run(id, view);
  statement(store.raw, 'DELETE FROM forgotten_hits WHERE sieve_id = ? AND view = ?').run(id, view);
}

/** Sieves whose time has come. */
export function dueSieves(store: Store, at: number): number[] {
  return statement(store.raw, 'SELECT id FROM sieves WHERE next_at <= ?').pluck().all(at) as number[];
}

/**
 * Notes domains that a sieve let through. The first run only notes what is there; later ones mark what they let through for the
 * first time as new.
 *
 * @returns those that are new.
 */
export function noteHits(
  store: Store,
  sieveId: number,
  domainIds: Iterable<number>,
  at: number,
  isFirst: boolean,
): number[] {
  return write(store, () => {
    const insert = statement(store.raw, 'INSERT OR IGNORE INTO sieve_hits VALUES (?, ?, ?, ?)');
    const fresh: number[] = [];
    for (const id of domainIds)
      if (insert.run(sieveId, id, at, isFirst ? 0 : 1).changes > 0 && !isFirst) fresh.push(id);
    return fresh;
  });
}

export function endRun(store: Store, id: number, at: number, total: number, fresh: number): void {
  write(store, () => {
    const sieve = readSieve(store, id);
    if (!sieve) return;
    statement(store.raw, 'UPDATE sieves SET last_at = ?, last_total = ?, last_new = ?, next_at = ? WHERE id = ?').run(
      at,
      total,
      fresh,
      sieve.runs === 'daily' ? nextDaily(sieve.runMinute, at) : null,
      id,
    );
  });
}

/** What is new in a sieve has been seen: all, or some domains. */
export function markSeen(store: Store, sieveId: number, domainIds: number[] | null): void {
  write(store, () => {
    if (domainIds === null)
      statement(store.raw, 'UPDATE sieve_hits SET fresh = 2 WHERE sieve_id = ? AND fresh = 1').run(sieveId);
    else
      for (const id of domainIds)
        statement(store.raw, 'UPDATE sieve_hits SET fresh = 2 WHERE sieve_id = ? AND domain_id = ? AND fresh = 1').run(
          sieveId,
          id,
        );
  });
}

export interface FreshHit {
  domainId: number;
  at: number;
}

/** Domains that are new in a sieve since the person saw them. */
export function freshIn(store: Store, sieveId: number): number[] {
  return statement(store.raw, 'SELECT domain_id FROM sieve_hits WHERE sieve_id = ? AND fresh = 1')
    .pluck()
    .all(sieveId) as number[];
}

/** What came new since a moment, the latest first; what the first run found is not new. */
export function newHits(store: Store, sieveId: number, since: number, limit: number): FreshHit[] {
  return statement(
    store.raw,
    `SELECT domain_id AS domainId, at FROM sieve_hits
     WHERE sieve_id = ? AND at > ? AND fresh > 0 ORDER BY at DESC, domain_id LIMIT ?`,
  ).all(sieveId, since, limit) as FreshHit[];
}

/** Of some domains, the sieves in which each is new. */
export function freshSieves(store: Store, domainIds: number[]): Map<number, number[]> {
  const found = new Map<number, number[]>();
  const sieves = listSieves(store).filter(({ fresh }) => fresh > 0);
  const isFresh = statement(store.raw, 'SELECT fresh FROM sieve_hits WHERE sieve_id = ? AND domain_id = ?').pluck();
  for (const { id } of sieves)
    for (const domain of domainIds)
      if (isFresh.get(id, domain) === 1) found.set(domain, [...(found.get(domain) ?? []), id]);
  return found;
}

export interface DigestState {
  /** When the last digest was made; what came after it goes into the next. */
  at: number;
  nextAt: number;
  /** What went wrong with the last one, in words. */
  problem: string | null;
  /** File of the last one, in the outbox. */
  file: string | null;
}

export function readDigest(store: Store): DigestState | null {
  const text = statement(store.raw, `SELECT value FROM settings WHERE key = 'digest'`).pluck().get() as
    | string
    | undefined;
  return text === undefined ? null : JSON.parse(text);
}

export function keepDigest(store: Store, state: DigestState): void {
  write(store, () =>
    statement(
      store.raw,
      `INSERT INTO settings VALUES ('digest', ?) ON CONFLICT(key) DO UPDATE SET value = excluded.value`,
    ).run(JSON.stringify(state)),
  );
}
