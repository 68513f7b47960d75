import { z } from 'zod';
import { LIST_FIELDS } from '../../core/formats/list-fields';
import { type ListStatement, unpackFigures } from '../../core/formats/list-figures';
import { ToldSchema } from '../../core/formats/told';
import type { Phase } from '../../core/lifecycle/phase';
import { nameFacts, type RegistrableDomain } from '../../core/names/domain';
import type { Store } from '../base/database';
import {
  all,
  camel,
  columns,
  every,
  first,
  fromJson,
  knex,
  only,
  type Picked,
  pick,
  prepared,
  run,
  sql,
  the,
} from '../base/query';
import type { NewRow, Row } from '../base/schema';
import { saidOnLine } from '../sources/raw-rows';

const DOMAINS = columns('domains', 'd');
const PAGES = columns('pages', 'p');
const SIGHTINGS = columns('sightings', 's');
const SOURCES = columns('sources', 'o');
// what is long text is read where it is wanted
const {
  domain_id: _,
  weighing: _weighing,
  subject_why: _why,
  past: _past,
  front: _front,
  ...INSPECTED
} = columns('inspections', 'i');

const MEASURED = {
  ...every(DOMAINS),
  ...every(INSPECTED),
  /** What lists state of it in figures: JSON of the source, its name, when it was read, and what is packed. */
  stated:
    sql<string>(`(SELECT json_group_array(json_array(f.source_id, o.name, coalesce(f.figures_at, f.at), f.figures))
    FROM sightings f JOIN sources o ON o.id = f.source_id WHERE f.domain_id = d.id AND f.figures IS NOT NULL)`),
  own: sql<0 | 1>("EXISTS (SELECT 1 FROM holdings h WHERE h.domain_id = d.id AND h.status = 'owned')"),
};

/** Domains `d` with their measures `i`, for conditions and an order. */
export const measuredDomains = () =>
  pick(knex('domains as d').leftJoin('inspections as i', 'i.domain_id', 'd.id'), MEASURED);
const MEASURED_BY_ID = prepared(({ id }: { id: number }) => measuredDomains().where('d.id', id));
const MEASURED_BY_NAME = prepared(({ name }: { name: string }) => measuredDomains().where('d.name', name));

/** A domain's row as it is stored, with what was measured of it, and whether the person owns it. Times in ms since 1970 UTC. */
export type DomainRow = Row<'domains'> &
  Omit<Row<'inspections'>, 'domain_id' | 'weighing' | 'subject_why' | 'past' | 'front'> & {
    own: 0 | 1;
    stated: string;
  };

const BY_NAME = prepared(({ name }: { name: string }) => knex('domains').select('id', 'in_pool').where('name', name));
const ADD = prepared(
  (
    row: Required<
      Pick<NewRow<'domains'>, 'name' | 'ending' | 'length' | 'hyphens' | 'digits' | 'in_pool' | 'added_at'>
    >,
  ) =>
    knex('domains').insert({
      name: row.name,
      ending: row.ending,
      length: row.length,
      hyphens: row.hyphens,
      digits: row.digits,
      in_pool: row.in_pool,
      added_at: row.added_at,
    }),
);

/** Finds or adds a domain. `inPool` false: known only as a site that links. @returns its id, and whether it came new into the pool. */
export function putDomain(
  store: Store,
  domain: RegistrableDomain,
  inPool: boolean,
  at: number,
): { id: number; isNew: boolean } {
  const found = BY_NAME.first(store, { name: domain.name });
  if (found) {
    if (inPool && !found.in_pool) {
      run(store, knex('domains').where('id', found.id).update({ in_pool: 1, added_at: at }));
      return { id: found.id, isNew: true };
    }
    return { id: found.id, isNew: false };
  }
  const facts = nameFacts(domain);
  const { lastInsertRowid } = ADD.run(store, {
    name: domain.name,
    ending: domain.ending,
    length: facts.length,
    hyphens: facts.hyphens,
    digits: facts.digits,
    in_pool: inPool ? 1 : 0,
    added_at: at,
  });
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

const Words = z.array(z.string());

/** Sites from a trusted one to the domain, by which trust came; null: none did. */
export function trustPathOf(row: Pick<DomainRow, 'trust_path'>): string[] | null {
  return row.trust_path ? fromJson(Words, row.trust_path) : null;
}

/** What those who were asked said against each other. */
export function contradictionsOf(row: Pick<DomainRow, 'contradictions'>): string[] {
  return row.contradictions ? fromJson(Words, row.contradictions) : [];
}

const ByYear = z.array(z.object({ year: z.number(), captures: z.number() }));

const Stated = z.array(z.tuple([z.number(), z.string(), z.number(), z.string()]));

/** What lists state of the domain in figures. */
export function statementsIn(row: Pick<DomainRow, 'stated'>): ListStatement[] {
  if (row.stated === '[]') return [];
  return fromJson(Stated, row.stated).map(([sourceId, source, at, figures]) => ({
    sourceId,
    source,
    at,
    figures: unpackFigures(figures),
  }));
}

/** Captures of each year; null: the archives were not asked. */
export function capturesByYearOf(row: Pick<DomainRow, 'captures_by_year'>): z.infer<typeof ByYear> | null {
  return row.captures_by_year ? fromJson(ByYear, row.captures_by_year) : null;
}

const LIST_REASON = 'A list says so; not yet checked.';

/** Why the phase is what it is, in words; null: nobody was asked and nobody said. */
export function phaseReasonOf(row: Pick<DomainRow, 'phase_reason' | 'phase_source'>): string | null {
  return row.phase_reason ?? (row.phase_source?.startsWith('source ') ? LIST_REASON : null);
}

/** Fills the current values of a domain by what is said of it; that never replaces what was asked of a server. */
export function takeSaid(store: Store, domainId: number, values: SaidValues): void {
  const { dropAt, phase, registeredAt, source } = values;
  if (dropAt !== null) SAID_DROP.run(store, { id: domainId, at: dropAt });
  if (phase) SAID_PHASE.run(store, { id: domainId, phase, source });
  if (registeredAt !== null) SAID_REGISTERED.run(store, { id: domainId, at: registeredAt });
}
const SAID_DROP = prepared(({ id, at }: { id: number; at: number }) =>
  knex('domains').where('id', id).update({ drop_at: at }),
);
const SAID_PHASE = prepared(({ id, phase, source }: { id: number; phase: Phase; source: string }) =>
  knex('domains').where('id', id).whereNull('phase_at').update({ phase, phase_reason: null, phase_source: source }),
);
const SAID_REGISTERED = prepared(({ id, at }: { id: number; at: number }) =>
  knex('domains').where('id', id).whereNull('record_at').update({ registered_at: at }),
);

/** @returns false when the source had named the domain before: the first sighting stays. */
export function putSighting(
  store: Store,
  domainId: number,
  sourceId: number,
  at: number,
  line: number | null,
  said: object,
): boolean {
  return SIGHT.run(store, { domainId, sourceId, at, line, said: JSON.stringify(said) }).changes > 0;
}

const SIGHT = prepared((row: { domainId: number; sourceId: number; at: number; line: number | null; said: string }) =>
  knex('sightings')
    .insert({ domain_id: row.domainId, source_id: row.sourceId, at: row.at, line: row.line, said: row.said })
    .onConflict()
    .ignore(),
);

/** The last number that a domain was given; 0: there is none. */
export function greatestId(store: Store): number {
  return the(store, pick(knex('domains'), { id: sql<number>('coalesce(max(id), 0)') })).id;
}

/** Domains of the pool with a price, by id, after one. */
export function pricedAfter(store: Store, after: number, limit: number): number[] {
  return all(
    store,
    knex('domains')
      .where('id', '>', after)
      .whereNotNull('price_minor')
      .where('in_pool', 1)
      .orderBy('id')
      .limit(limit)
      .pluck('id'),
  );
}

const SOURCES_OF = prepared(({ domainId }: { domainId: number }) =>
  knex('sightings').where('domain_id', domainId).pluck('source_id'),
);

export function membershipsOf(store: Store, domainId: number): number[] {
  return SOURCES_OF.all(store, { domainId });
}

/** Orders of columns that statements are kept for; who asks for more different ones than that is read whole rows. */
const MOST_SETS = 200;
const setsRead = new Set<string>();

/** Rows with some of their columns, `id` among them, in the order of the given ids. */
export function readDomainColumns<C extends keyof DomainRow>(
  store: Store,
  ids: readonly number[],
  names: readonly C[],
): Picked<Pick<typeof MEASURED, C | 'id'>>[] {
  const key = names.join();
  const isKept = setsRead.has(key) || setsRead.size < MOST_SETS;
  if (isKept) setsRead.add(key);
  const read = isKept ? names : (Object.keys(MEASURED) as C[]);
  const isMeasured = read.some((name) => name in INSPECTED);
  const domains = knex(knex.raw('json_each(?) as j', [JSON.stringify(ids)])).join('domains as d', 'd.id', 'j.value');
  const rows = isMeasured ? domains.leftJoin('inspections as i', 'i.domain_id', 'd.id') : domains;
  return all(store, pick(rows, only(MEASURED, ['id', ...read])).orderBy('j.key'));
}

/** Rows in the order of the given ids. */
export function readDomains(store: Store, ids: number[]): DomainRow[] {
  return ids.flatMap((id) => MEASURED_BY_ID.first(store, { id }) ?? []);
}

/** A domain that is registered, one with a past before others; null: none is known. */
export function registeredName(store: Store): string | null {
  const active = knex('domains').where('phase', 'active').orderBy('id').limit(1).pluck('name');
  // by way of what was looked at closely: few domains have a past that was read
  const withPast = knex('inspections as i')
    .crossJoin('domains as d', 'd.id', 'i.domain_id')
    .where('d.phase', 'active')
    .where('d.captures', '>', 0)
    .orderBy('i.domain_id')
    .limit(1)
    .pluck('d.name');
  return first(store, withPast) ?? first(store, active) ?? null;
}

export function findDomain(store: Store, name: string): DomainRow | null {
  return MEASURED_BY_NAME.first(store, { name }) ?? null;
}

/** Phase that a server's answer from after `since` gave; null when there is none so fresh. */
export function freshPhase(store: Store, domainId: number, since: number): Phase | null {
  return first(store, knex('domains').where('id', domainId).where('phase_at', '>=', since).pluck('phase')) ?? null;
}

/** Domains that a crawl found and that have no verdict from after `since`, with the page where each was found first. */
export function unsettledFinds(
  store: Store,
  sourceId: number,
  since: number,
): { id: number; name: string; ending: string; pageId: number; classId: number; viaClass: number }[] {
  return all(
    store,
    pick(
      knex('sightings as s')
        .join('domains as d', 'd.id', 's.domain_id')
        .join('pages as p', (on) => on.on(knex.raw("p.id = json_extract(s.said, '$.page')"))),
      { ...camel(DOMAINS, 'id', 'name', 'ending'), ...camel(PAGES, 'class_id', 'via_class'), pageId: PAGES.id },
    )
      .where('s.source_id', sourceId)
      .whereRaw('(d.phase_at IS NULL OR d.phase_at < ?)', [since])
      .whereRaw('NOT EXISTS (SELECT 1 FROM set_aside a WHERE a.source_id = s.source_id AND a.name = d.name)')
      .orderBy('d.id'),
  );
}

export interface StoredSighting {
  sourceId: number;
  sourceKind: string;
  sourceName: string;
  at: number;
  line: number | null;
  said: Record<string, unknown>;
}

const Said = z.record(z.string(), z.unknown());
const Columns = z.array(z.enum(LIST_FIELDS));
const SIGHTINGS_OF = prepared(({ domainId }: { domainId: number }) =>
  pick(knex('sightings as s').join('sources as o', 'o.id', 's.source_id').join('domains as d', 'd.id', 's.domain_id'), {
    ...camel(SIGHTINGS, 'source_id', 'at', 'line', 'said'),
    sourceKind: SOURCES.kind,
    sourceName: SOURCES.name,
    columns: sql<string | null>("json_extract(o.detail, '$.columns')"),
    listVenue: sql<string | null>("json_extract(o.detail, '$.venue')"),
    delimiter: sql<string | null>("json_extract(o.detail, '$.delimiter')"),
    told: sql<string | null>("json_extract(o.detail, '$.told')"),
    countedFrom: sql<number | null>("json_extract(o.detail, '$.now')"),
    name: DOMAINS.name,
  })
    .where('s.domain_id', domainId)
    .orderBy('s.at', 'desc'),
);

export function sightingsOf(store: Store, domainId: number): StoredSighting[] {
  const rows = SIGHTINGS_OF.all(store, { domainId });
  return rows.map(({ columns, listVenue, delimiter, told, countedFrom, name, ...row }) => ({
    ...row,
    said:
      row.said === ''
        ? {
            ...(listVenue && { venue: listVenue }),
            ...saidOnLine(store, row.sourceId, row.line ?? 0, name, {
              columns: columns ? fromJson(Columns, columns) : [],
              delimiter: delimiter ?? ',',
              told: told ? fromJson(z.array(ToldSchema), told) : [],
              now: countedFrom,
            }),
          }
        : fromJson(Said, row.said),
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
    : all(
        store,
        pick(knex('domains as d').join('sightings as s', 's.domain_id', 'd.id'), { ...every(DOMAINS) })
          .where('s.source_id', which.sourceId ?? 0)
          .whereIn('d.phase', ['free', 'pending-delete', 'redemption', 'auto-renew'])
          .whereNotNull('d.phase_at')
          .orderBy('d.id'),
      );
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
  run(
    store,
    knex('domains')
      .where('id', domainId)
      .update({
        first_seen_at: past.firstSeenAt,
        last_seen_at: past.lastSeenAt,
        captures: past.captures,
        captures_by_year: JSON.stringify(past.byYear),
        past_at: at,
        past_source: past.source,
      }),
  );
}

/** Ids of those of some names that are in the pool, in the order of the names. */
export function idsInPool(store: Store, names: readonly string[]): number[] {
  return names.flatMap((name) => {
    const found = BY_NAME.first(store, { name });
    return found?.in_pool === 1 ? [found.id] : [];
  });
}
