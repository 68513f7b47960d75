import { z } from 'zod';
import type { SOURCE_KINDS } from '../../core/formats/source-kinds';
import { type Store, write } from '../base/database';
import { all, camel, columns, each, first, fromJson, knex, pick, run, sql } from '../base/query';
import type { Row } from '../base/schema';

const DOMAINS = columns('domains', 'd');

export type SourceKind = (typeof SOURCE_KINDS)[number];

export interface SourceCounts {
  rows_read: number;
  rows_taken: number;
  rows_repeated: number;
  rows_excluded: number;
  rows_set_aside: number;
  domains_new: number;
}

export interface SourceRow extends SourceCounts {
  id: number;
  kind: SourceKind;
  name: string;
  detail: Record<string, unknown>;
  created_at: number;
  undone_at: number | null;
  /** What undoing it did. */
  undone: { left: number; named: number; shortlisted: number } | null;
}

export function addSource(store: Store, kind: SourceKind, name: string, detail: object): number {
  return write(store, () =>
    Number(
      run(store, knex('sources').insert({ kind, name, detail: JSON.stringify(detail), created_at: store.now() }))
        .lastInsertRowid,
    ),
  );
}

/** Adds to what is kept of a source. */
export function keepDetail(store: Store, id: number, detail: object): void {
  write(store, () =>
    run(
      store,
      knex('sources')
        .where('id', id)
        .update({ detail: sql('json_patch(detail, ?)', [JSON.stringify(detail)]) }),
    ),
  );
}

const Detail = z.record(z.string(), z.unknown());
const Undone = z.object({ left: z.number(), named: z.number(), shortlisted: z.number() });

export function listSources(store: Store): SourceRow[] {
  return all(store, knex('sources').select('*').orderBy('id', 'desc')).map(unpack);
}

export function readSource(store: Store, id: number): SourceRow | null {
  const row = first(store, knex('sources').select('*').where('id', id));
  return row ? unpack(row) : null;
}

/** A source that is known to be there. @throws when it is not. */
export function sourceOf(store: Store, id: number): SourceRow {
  const source = readSource(store, id);
  if (!source) throw new Error(`source ${id} is gone`);
  return source;
}

function unpack(row: Row<'sources'>): SourceRow {
  return { ...row, detail: fromJson(Detail, row.detail), undone: row.undone ? fromJson(Undone, row.undone) : null };
}

/** Adds to a source's counts. Call inside the transaction that writes what is counted. */
export function countRows(store: Store, sourceId: number, counts: Partial<SourceCounts>): void {
  run(
    store,
    knex('sources')
      .where('id', sourceId)
      .update({
        rows_read: sql('rows_read + ?', [counts.rows_read ?? 0]),
        rows_taken: sql('rows_taken + ?', [counts.rows_taken ?? 0]),
        rows_repeated: sql('rows_repeated + ?', [counts.rows_repeated ?? 0]),
        rows_excluded: sql('rows_excluded + ?', [counts.rows_excluded ?? 0]),
        rows_set_aside: sql('rows_set_aside + ?', [counts.rows_set_aside ?? 0]),
        domains_new: sql('domains_new + ?', [counts.domains_new ?? 0]),
      }),
  );
}

export interface Reject {
  line: number;
  reason: string;
  sample: string;
}

/** @returns false when the line was set aside before. */
export function putReject(store: Store, sourceId: number, reject: Reject): boolean {
  return (
    run(
      store,
      knex('rejects')
        .insert({ source_id: sourceId, line: reject.line, reason: reject.reason, sample: reject.sample })
        .onConflict()
        .ignore(),
    ).changes > 0
  );
}

/** Rows that were set aside, by line. */
export const eachReject = (store: Store, sourceId: number): Generator<Reject> =>
  each((last, limit) => rejectsOf(store, sourceId, limit, last?.line));

/** Some of them, after a line. */
export function rejectsOf(store: Store, sourceId: number, limit: number, after = -1): Reject[] {
  return all(
    store,
    knex('rejects')
      .select('line', 'reason', 'sample')
      .where('source_id', sourceId)
      .where('line', '>', after)
      .orderBy('line')
      .limit(limit),
  );
}

/** Domains of a source by phase. */
export function phasesOfSource(store: Store, sourceId: number): { phase: string; domains: number }[] {
  return all(
    store,
    pick(knex('sightings as s').join('domains as d', 'd.id', 's.domain_id'), {
      ...camel(DOMAINS, 'phase'),
      domains: sql<number>('count(*)'),
    })
      .where('s.source_id', sourceId)
      .groupBy('d.phase')
      .orderBy('domains', 'desc'),
  );
}
