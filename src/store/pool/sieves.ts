import { z } from 'zod';
import { SIEVE_DEPTHS, type SIEVE_RUNS } from '../../core/pool/sieve-kinds';
import { nextDaily } from '../../core/time/daily';
import { type Store, write } from '../base/database';
import {
  all,
  camel,
  columns,
  constant,
  copyRows,
  exists,
  first,
  knex,
  pick,
  prepared,
  run,
  sql,
  the,
} from '../base/query';
import { keepValue, readKept } from '../base/settings';

const SIEVES = columns('sieves');
const SIEVE_HITS = columns('sieve_hits');
const FORGOTTEN_HITS = columns('forgotten_hits');

const sieves = () =>
  pick(knex('sieves'), {
    ...camel(
      SIEVES,
      'id',
      'name',
      'view',
      'created_at',
      'runs',
      'run_minute',
      'in_digest',
      'shortlist_brief',
      'depth',
      'next_at',
      'last_at',
      'last_total',
      'last_new',
    ),
    fresh: sql<number>('(SELECT count(*) FROM sieve_hits h WHERE h.sieve_id = sieves.id AND h.fresh = 1)'),
  });

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

/** Not seen yet, as the index over those has it. */
const NEW = constant(1);

/** So long a view that was changed or deleted can come back with what it has let through. */
const FORGOTTEN_MS = 30 * 86_400_000;

type Packed = Omit<Sieve, 'inDigest' | 'depth'> & { inDigest: number; depth: number };
const unpack = (row: Packed): Sieve => ({ ...row, inDigest: row.inDigest === 1, depth: SIEVE_DEPTHS[row.depth] });

export function listSieves(store: Store): Sieve[] {
  return all(store, sieves().orderBy('name')).map(unpack);
}

export function readSieve(store: Store, id: number): Sieve | null {
  const row = first(store, sieves().where('id', id));
  return row ? unpack(row) : null;
}

/** Adds a sieve or replaces what the one of that name shows; its schedule stays. */
export function saveSieve(store: Store, name: string, view: string): number {
  return write(store, () => {
    const isKnown = exists(store, knex('sieves').where('name', name));
    run(store, knex('sieves').insert({ name, view, created_at: store.now() }).onConflict('name').merge(['view']));
    const id = the(store, knex('sieves').where('name', name).pluck('id'));
    // one that had its number before is not to be mistaken for it
    if (!isKnown) run(store, knex('forgotten_hits').where('sieve_id', id).delete());
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
    run(
      store,
      knex('sieves')
        .where('id', id)
        .update({
          name: after.name,
          view: after.view,
          runs: after.runs,
          run_minute: after.runMinute,
          in_digest: after.inDigest ? 1 : 0,
          shortlist_brief: after.shortlistBrief,
          depth: SIEVE_DEPTHS.indexOf(after.depth),
          next_at: after.runs === 'daily' ? nextDaily(after.runMinute, store.now()) : null,
        }),
    );
    if (after.view !== before.view) {
      forgetHits(store, before);
      run(store, knex('sieves').where('id', id).update({ last_at: null, last_total: null, last_new: null }));
    }
    return readSieve(store, id);
  });
}

export function deleteSieve(store: Store, id: number): Sieve | null {
  return write(store, () => {
    const sieve = readSieve(store, id);
    if (sieve) forgetHits(store, sieve);
    run(store, knex('sieves').where('id', id).delete());
    return sieve;
  });
}

/** Puts aside what a view has let through. Call inside a write transaction. */
function forgetHits(store: Store, { id, view }: Pick<Sieve, 'id' | 'view'>): void {
  const now = store.now();
  run(
    store,
    knex('forgotten_hits')
      .whereRaw('(sieve_id = ? AND view = ?) OR forgotten_at < ?', [id, view, now - FORGOTTEN_MS])
      .delete(),
  );
  copyRows(store, 'forgotten_hits', knex('sieve_hits').where('sieve_id', id), {
    sieve_id: SIEVE_HITS.sieve_id,
    view: sql('?', [view]),
    domain_id: SIEVE_HITS.domain_id,
    at: SIEVE_HITS.at,
    fresh: SIEVE_HITS.fresh,
    forgotten_at: sql('?', [now]),
  });
  run(store, knex('sieve_hits').where('sieve_id', id).delete());
}

/** A view came back: so does what it has let through, instead of what another let through since. Call inside a write transaction. */
export function recallHits(store: Store, id: number, view: string): void {
  run(store, knex('sieve_hits').where('sieve_id', id).delete());
  copyRows(store, 'sieve_hits', knex('forgotten_hits').where({ sieve_id: id, view }), {
    sieve_id: FORGOTTEN_HITS.sieve_id,
    domain_id: FORGOTTEN_HITS.domain_id,
    at: FORGOTTEN_HITS.at,
    fresh: FORGOTTEN_HITS.fresh,
  });
  run(store, knex('forgotten_hits').where({ sieve_id: id, view }).delete());
}

/** Sieves whose time has come. */
export function dueSieves(store: Store, at: number): number[] {
  return all(store, knex('sieves').where('next_at', '<=', at).pluck('id'));
}

const HIT = prepared((hit: { sieveId: number; id: number; at: number; fresh: number }) =>
  knex('sieve_hits')
    .insert({ sieve_id: hit.sieveId, domain_id: hit.id, at: hit.at, fresh: hit.fresh })
    .onConflict()
    .ignore(),
);
const FRESH = prepared(({ id, domain }: { id: number; domain: number }) =>
  knex('sieve_hits').where({ sieve_id: id, domain_id: domain }).pluck('fresh'),
);

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
    const fresh: number[] = [];
    for (const id of domainIds)
      if (HIT.run(store, { sieveId, id, at, fresh: isFirst ? 0 : 1 }).changes > 0 && !isFirst) fresh.push(id);
    return fresh;
  });
}

export function endRun(store: Store, id: number, at: number, total: number, fresh: number): void {
  write(store, () => {
    const sieve = readSieve(store, id);
    if (!sieve) return;
    run(
      store,
      knex('sieves')
        .where('id', id)
        .update({
          last_at: at,
          last_total: total,
          last_new: fresh,
          next_at: sieve.runs === 'daily' ? nextDaily(sieve.runMinute, at) : null,
        }),
    );
  });
}

/** What is new in a sieve has been seen: all, or some domains. */
export function markSeen(store: Store, sieveId: number, domainIds: number[] | null): void {
  write(store, () => {
    if (domainIds === null)
      run(store, knex('sieve_hits').where({ sieve_id: sieveId, fresh: NEW }).update({ fresh: 2 }));
    else
      for (const id of domainIds)
        run(store, knex('sieve_hits').where({ sieve_id: sieveId, domain_id: id, fresh: NEW }).update({ fresh: 2 }));
  });
}

export interface FreshHit {
  domainId: number;
  at: number;
}

/** Domains that are new in a sieve since the person saw them. */
export function freshIn(store: Store, sieveId: number): number[] {
  return all(store, knex('sieve_hits').where({ sieve_id: sieveId, fresh: NEW }).pluck('domain_id'));
}

/** What came new since a moment, the latest first; what the first run found is not new. */
export function newHits(store: Store, sieveId: number, since: number, limit: number): FreshHit[] {
  return all(
    store,
    pick(knex('sieve_hits'), camel(SIEVE_HITS, 'domain_id', 'at'))
      .where('sieve_id', sieveId)
      .where('at', '>', since)
      .where('fresh', '>', 0)
      .orderBy([{ column: 'at', order: 'desc' }, { column: 'domain_id' }])
      .limit(limit),
  );
}

/** Of some domains, the sieves in which each is new. */
export function freshSieves(store: Store, domainIds: number[]): Map<number, number[]> {
  const found = new Map<number, number[]>();
  const sieves = listSieves(store).filter(({ fresh }) => fresh > 0);
  for (const { id } of sieves)
    for (const domain of domainIds)
      if (FRESH.first(store, { id, domain }) === 1) found.set(domain, [...(found.get(domain) ?? []), id]);
  return found;
}

const DigestState = z.object({
  /** When the last digest was made; what came after it goes into the next. */
  at: z.number(),
  nextAt: z.number(),
  /** What went wrong with the last one, in words. */
  problem: z.string().nullable(),
  /** File of the last one, in the outbox. */
  file: z.string().nullable(),
});
export type DigestState = z.infer<typeof DigestState>;

export function readDigest(store: Store): DigestState | null {
  return readKept(store, 'digest', DigestState);
}

export function keepDigest(store: Store, state: DigestState): void {
  keepValue(store, 'digest', state);
}
