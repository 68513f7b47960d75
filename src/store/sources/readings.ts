import type { Gathered } from '../../core/setup/states';
import type { Store } from '../base/database';
import { all, camel, columns, knex, pick, sql } from '../base/query';

const SOURCES = columns('sources', 's');
const JOBS = columns('jobs', 'j');

/** Venues and link exports with how each was read last, the latest first; those that were taken back are left out. */
export function lastReadings(store: Store): Gathered[] {
  const rows = all(
    store,
    pick(knex('sources as s').join('jobs as j', 'j.source_id', 's.id'), {
      ...camel(SOURCES, 'kind', 'name'),
      rows: SOURCES.rows_taken,
      at: JOBS.finished_at,
      ...camel(JOBS, 'state', 'error'),
    })
      .whereIn('s.kind', ['venue', 'links'])
      .whereNull('s.undone_at')
      // the last that has ended; while the first is read, that
      .whereRaw(
        `j.id = (SELECT k.id FROM jobs k WHERE k.source_id = s.id AND k.kind IN (?, ?) AND k.state <> 'cancelled'
          ORDER BY k.finished_at IS NULL, k.id DESC LIMIT 1)`,
        ['venue', 'links'],
      )
      .orderBy(sql('j.finished_at IS NULL, j.finished_at'), 'desc'),
  );
  return rows.flatMap(({ kind, name, rows: taken, at, state, error }) =>
    kind === 'venue' || kind === 'links'
      ? [{ kind, name, rows: taken, at, error: state === 'failed' ? (error ?? 'its reading failed') : null }]
      : [],
  );
}
