import { ShortlistEntry } from '../../core/bids/shortlist-entry';
import { STAGES } from '../../core/bids/stages';
import { actor } from '../../core/work/actor';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, fromJson, knex, pick, run } from '../base/query';
import { type DomainRow, readDomains } from '../domains/domains';

const SHORTLIST = columns('shortlist');

const entries = () =>
  pick(
    knex('shortlist'),
    camel(
      SHORTLIST,
      'domain_id',
      'brief_id',
      'stage',
      'maximum_bid_minor',
      'worth_low_minor',
      'worth_high_minor',
      'fees_minor',
      'note',
      'added_at',
      'added_by',
      'changed_at',
    ),
  );

export type Stage = (typeof STAGES)[number];

export function readShortlist(store: Store, briefId: number): (ShortlistEntry & { domain: DomainRow })[] {
  const listed = all(
    store,
    entries()
      .where('brief_id', briefId)
      .orderBy([{ column: 'added_at' }, { column: 'domain_id' }]),
  );
  return listed.flatMap((entry) => readDomains(store, [entry.domainId]).map((domain) => ({ ...entry, domain })));
}

/** What stands of some domains on a brief's shortlist. */
export function entriesOf(store: Store, briefId: number, domainIds: readonly number[]): ShortlistEntry[] {
  return all(store, entries().where('brief_id', briefId).whereIn('domain_id', domainIds));
}

/** Briefs a domain is shortlisted for. */
export function shortlistedFor(store: Store, domainId: number): ShortlistEntry[] {
  return all(store, entries().where('domain_id', domainId));
}

/** Domain ids of a brief's shortlist. */
export function shortlistIds(store: Store, briefId: number): Set<number> {
  return new Set(all(store, knex('shortlist').where('brief_id', briefId).pluck('domain_id')));
}

/** Adds domains that are not on it; what was said of one when it was last on it holds again. @returns the ids that were added. */
export function addToShortlist(store: Store, briefId: number, domainIds: number[]): number[] {
  return write(store, () => domainIds.filter((id) => putOnShortlist(store, briefId, id)));
}

const NEW = {
  stage: STAGES[0],
  maximumBidMinor: null,
  worthLowMinor: null,
  worthHighMinor: null,
  feesMinor: null,
  note: '',
};

/** Call inside a write transaction. @returns whether it was not on it. */
export function putOnShortlist(store: Store, briefId: number, domainId: number): boolean {
  const kept = first(store, knex('shortlist_removed').where({ brief_id: briefId, domain_id: domainId }).pluck('entry'));
  const at = store.now();
  const before = kept === undefined ? {} : fromJson(ShortlistEntry.partial(), kept);
  const isAdded = insertEntry(store, {
    ...NEW,
    addedAt: at,
    addedBy: actor(),
    ...before,
    briefId,
    domainId,
    changedAt: at,
  });
  if (isAdded) run(store, knex('shortlist_removed').where({ brief_id: briefId, domain_id: domainId }).delete());
  return isAdded;
}

function insertEntry(store: Store, entry: ShortlistEntry): boolean {
  return (
    run(
      store,
      knex('shortlist')
        .insert({
          domain_id: entry.domainId,
          brief_id: entry.briefId,
          stage: entry.stage,
          maximum_bid_minor: entry.maximumBidMinor,
          worth_low_minor: entry.worthLowMinor,
          worth_high_minor: entry.worthHighMinor,
          fees_minor: entry.feesMinor,
          note: entry.note,
          added_at: entry.addedAt,
          added_by: entry.addedBy,
          changed_at: entry.changedAt,
        })
        .onConflict()
        .ignore(),
    ).changes > 0
  );
}

/** What was said of it is kept for when it is put on again. Call inside a write transaction. @returns the entry as it was; null: it was not on it. */
export function takeOffShortlist(store: Store, briefId: number, domainId: number): ShortlistEntry | null {
  const before = first(store, entries().where({ brief_id: briefId, domain_id: domainId }));
  if (!before) return null;
  run(
    store,
    knex('shortlist_removed')
      .insert({ brief_id: briefId, domain_id: domainId, entry: JSON.stringify(before), removed_at: store.now() })
      .onConflict(['brief_id', 'domain_id'])
      .merge(),
  );
  run(store, knex('shortlist').where({ brief_id: briefId, domain_id: domainId }).delete());
  return before;
}

export interface ShortlistChange {
  stage?: Stage;
  maximumBidMinor?: number | null;
  worthLowMinor?: number | null;
  worthHighMinor?: number | null;
  feesMinor?: number | null;
  note?: string;
}

/** @returns the entry as it was, for undo; null when it is not on the list. */
export function changeShortlist(
  store: Store,
  briefId: number,
  domainId: number,
  change: ShortlistChange,
): ShortlistEntry | null {
  return write(store, () => {
    const before = first(store, entries().where({ brief_id: briefId, domain_id: domainId }));
    if (!before) return null;
    const after = { ...before, ...change };
    run(
      store,
      knex('shortlist').where({ brief_id: briefId, domain_id: domainId }).update({
        stage: after.stage,
        maximum_bid_minor: after.maximumBidMinor,
        worth_low_minor: after.worthLowMinor,
        worth_high_minor: after.worthHighMinor,
        fees_minor: after.feesMinor,
        note: after.note,
        changed_at: store.now(),
      }),
    );
    return before;
  });
}
