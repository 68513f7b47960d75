import type { Phase } from '../../core/lifecycle/phase';
import type { Rates } from '../../core/listings/rates';
import { type Store, statement } from '../base/database';
import { settleListing } from '../offers/listings';
import type { SourceKind } from '../sources/sources';
import { type SaidValues, sightingsOf, takeSaid } from './domains';

/** Kinds of source that can be undone: those that were brought in as one. */
export const UNDOABLE: readonly SourceKind[] = ['list', 'venue', 'links', 'referrers', 'zones', 'cut'];

export interface UndoCounts {
  /** Domains that only this source had named: out of the pool. */
  left: number;
  /** Domains that other sources name too; what this one said of them is taken back. */
  named: number;
  /** Domains that stay because they are on a shortlist. */
  shortlisted: number;
}

/** A part of an undo. `last`: the domain it came to; null: there are no more. */
export interface UndonePart extends UndoCounts {
  last: number | null;
  removed: number[];
  changed: number[];
}

/**
 * Takes back what a source said of the next `limit` domains after one, by id. Domains that nobody else names leave the pool; what
 * was asked of servers stays with them. Call inside a write transaction; doing it twice is harmless.
 */
export function undoPart(
  store: Store,
  sourceId: number,
  after: number,
  limit: number,
  at: number,
  rates: Rates,
): UndonePart {
  const { raw } = store;
  const ids = statement(
    raw,
    'SELECT domain_id FROM sightings WHERE source_id = ? AND domain_id > ? ORDER BY domain_id LIMIT ?',
  )
    .pluck()
    .all(sourceId, after, limit) as number[];
  const part: UndonePart = { left: 0, named: 0, shortlisted: 0, last: ids.at(-1) ?? null, removed: [], changed: [] };
  const drop = ['sightings', 'listings', 'listing_changes'].map((table) =>
    statement(raw, `DELETE FROM ${table} WHERE domain_id = ? AND source_id = ?`),
  );
  const isNamed = statement(raw, 'SELECT 1 FROM sightings WHERE domain_id = ? LIMIT 1');
  const isShortlisted = statement(raw, 'SELECT 1 FROM shortlist WHERE domain_id = ? LIMIT 1');
  const leave = statement(raw, 'UPDATE domains SET in_pool = 0 WHERE id = ?');
  for (const id of ids) {
    for (const one of drop) one.run(id, sourceId);
    takeSaidAgain(store, id, sourceId, at, rates);
    if (isNamed.get(id)) part.named++;
    else if (isShortlisted.get(id)) part.shortlisted++;
    else {
      leave.run(id);
      part.left++;
      part.removed.push(id);
      continue;
    }
    part.changed.push(id);
  }
  return part;
}

/** Current values from what is still said, oldest first; what servers answered is not touched. */
function takeSaidAgain(store: Store, id: number, undone: number, at: number, rates: Rates): void {
  const { raw } = store;
  statement(raw, 'UPDATE domains SET drop_at = NULL WHERE id = ?').run(id);
  statement(raw, 'UPDATE domains SET registered_at = NULL WHERE id = ? AND record_at IS NULL').run(id);
  statement(
    raw,
    `UPDATE domains SET phase = 'unknown', phase_source = NULL, phase_reason = NULL WHERE id = ? AND phase_at IS NULL
     AND phase_source = ?`,
  ).run(id, `source ${undone}`);
  for (const { sourceId, said } of sightingsOf(store, id).reverse()) takeSaid(store, id, saidValues(said, sourceId));
  settleListing(store, id, at, rates);
}

function saidValues(said: Record<string, unknown>, sourceId: number): SaidValues {
  const time = (key: string) => {
    const value = said[key];
    const at = typeof value === 'string' ? Date.parse(value) : value;
    return typeof at === 'number' && Number.isFinite(at) ? at : null;
  };
  return {
    phase: typeof said.phase === 'string' ? (said.phase as Phase) : null,
    dropAt: time('dropAt'),
    registeredAt: time('registeredAt'),
    source: `source ${sourceId}`,
  };
}

/** Takes out what else a source left, once its domains are done. Its counts stay, as what was read then. */
export function undoRest(store: Store, sourceId: number, counts: UndoCounts): void {
  const { raw } = store;
  for (const table of ['raw_rows', 'rejects', 'set_aside', 'find_causes', 'listings', 'listing_changes'])
    statement(raw, `DELETE FROM ${table} WHERE source_id = ?`).run(sourceId);
  statement(raw, 'UPDATE watches SET is_on = 0 WHERE source_id = ?').run(sourceId);
  statement(raw, 'UPDATE sources SET undone_at = ?, undone = ? WHERE id = ?').run(
    store.now(),
    JSON.stringify(counts),
    sourceId,
  );
}
