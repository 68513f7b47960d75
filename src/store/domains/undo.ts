import { z } from 'zod';
import { PHASES } from '../../core/lifecycle/phases';
import type { Rates } from '../../core/listings/rates';
import type { Store } from '../base/database';
import { all, knex, prepared, run } from '../base/query';
import { updateBestListing } from '../offers/best-listing';
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

const SAID_OF_ONE = (['sightings', 'listings', 'listing_changes'] as const).map((table) =>
  prepared(({ id, sourceId }: { id: number; sourceId: number }) =>
    knex<{ domain_id: number; source_id: number }>(table).where({ domain_id: id, source_id: sourceId }).delete(),
  ),
);
const SAID_IN = ['raw_rows', 'rejects', 'set_aside', 'find_causes', 'listings', 'listing_changes'] as const;
const IS_NAMED = prepared(({ id }: { id: number }) => knex('sightings').select('at').where('domain_id', id).limit(1));
const IS_SHORTLISTED = prepared(({ id }: { id: number }) =>
  knex('shortlist').select('stage').where('domain_id', id).limit(1),
);
const LEAVE_POOL = prepared(({ id }: { id: number }) => knex('domains').where('id', id).update({ in_pool: 0 }));

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
  const ids = all(
    store,
    knex('sightings')
      .where('source_id', sourceId)
      .where('domain_id', '>', after)
      .orderBy('domain_id')
      .limit(limit)
      .pluck('domain_id'),
  );
  const part: UndonePart = { left: 0, named: 0, shortlisted: 0, last: ids.at(-1) ?? null, removed: [], changed: [] };
  for (const id of ids) {
    for (const forget of SAID_OF_ONE) forget.run(store, { id, sourceId });
    takeSaidAgain(store, id, sourceId, at, rates);
    if (IS_NAMED.first(store, { id })) part.named++;
    else if (IS_SHORTLISTED.first(store, { id })) part.shortlisted++;
    else {
      LEAVE_POOL.run(store, { id });
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
  run(store, knex('domains').where('id', id).update({ drop_at: null }));
  run(store, knex('domains').where('id', id).whereNull('record_at').update({ registered_at: null }));
  run(
    store,
    knex('domains')
      .where('id', id)
      .whereNull('phase_at')
      .where('phase_source', `source ${undone}`)
      .update({ phase: 'unknown', phase_source: null, phase_reason: null }),
  );
  for (const { sourceId, said } of sightingsOf(store, id).reverse()) takeSaid(store, id, saidValues(said, sourceId));
  updateBestListing(store, id, at, rates);
}

function saidValues(said: Record<string, unknown>, sourceId: number): SaidValues {
  const time = (key: string) => {
    const value = said[key];
    const at = typeof value === 'string' ? Date.parse(value) : value;
    return typeof at === 'number' && Number.isFinite(at) ? at : null;
  };
  const phase = z.enum(PHASES).safeParse(said.phase);
  return {
    phase: phase.success ? phase.data : null,
    dropAt: time('dropAt'),
    registeredAt: time('registeredAt'),
    source: `source ${sourceId}`,
  };
}

/** Takes out what else a source left, once its domains are done. Its counts stay, as what was read then. */
export function undoRest(store: Store, sourceId: number, counts: UndoCounts): void {
  for (const table of SAID_IN) run(store, knex(table).where('source_id', sourceId).delete());
  run(store, knex('watches').where('source_id', sourceId).update({ is_on: 0 }));
  run(
    store,
    knex('sources')
      .where('id', sourceId)
      .update({ undone_at: store.now(), undone: JSON.stringify(counts) }),
  );
}
