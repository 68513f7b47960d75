import type { ListingKind } from '../../core/formats/list-fields';
import type { ChangeKind, ListingChange } from '../../core/listings/changes';
import type { Store } from '../base/database';
import { all, camel, columns, fromJson, knex, known, orNull, pick, sql } from '../base/query';
import { DOMAINS, LISTINGS, Steps } from './listings';

const LISTING_CHANGES = columns('listing_changes', 'c');

export interface StoredChange extends ListingChange {
  what: ChangeKind;
  at: number;
  kind: ListingKind;
  name: string;
  venue: string | null;
  currency: string | null;
}

const storedChanges = () =>
  pick(
    knex('listing_changes as c')
      .join('domains as d', 'd.id', 'c.domain_id')
      .leftJoin('listings as l', (on) =>
        on.on('l.domain_id', 'c.domain_id').on('l.source_id', 'c.source_id').on('l.kind', 'c.kind'),
      ),
    {
      ...camel(LISTING_CHANGES, 'what', 'was', 'at', 'kind'),
      is: LISTING_CHANGES.now_is,
      name: DOMAINS.name,
      venue: orNull(LISTINGS.venue),
      currency: orNull(LISTINGS.currency),
    },
  ).orderBy([
    { column: 'c.at', order: 'desc' },
    { column: 'c.id', order: 'desc' },
  ]);

/** What changed of a domain's offers, the latest first. */
export function changesOf(store: Store, domainId: number, limit = 50): StoredChange[] {
  return all(store, storedChanges().where('c.domain_id', domainId).limit(limit));
}

/** What a feed's readings changed, the latest first; what it merely lists for the first time is left out. */
export function changesOfSource(store: Store, sourceId: number, limit: number): StoredChange[] {
  return all(store, storedChanges().where('c.source_id', sourceId).where('c.what', '<>', 'listed').limit(limit));
}

const AUCTIONS_LEARNED = 500;

/** Auctions of a feed that were seen to end, with what they stood at first and last; the latest of them. */
export function endedAuctions(store: Store, sourceId: number): { firstMinor: number; finalMinor: number }[] {
  return all(
    store,
    pick(
      knex('listings as l').join('listing_changes as c', (on) =>
        on.on('c.domain_id', 'l.domain_id').on('c.source_id', 'l.source_id').on('c.kind', 'l.kind'),
      ),
      { firstMinor: sql<number>('c.now_is'), finalMinor: known(LISTINGS.price_minor) },
    )
      .where({ 'l.source_id': sourceId, 'c.what': 'listed' })
      .whereIn('l.kind', ['auction', 'expired-auction'])
      .whereIn('l.state', ['sold', 'closed'])
      .whereNotNull('l.price_minor')
      .where('c.now_is', '>', 0)
      .orderBy('l.ended_at', 'desc')
      .limit(AUCTIONS_LEARNED),
  );
}

/** Falling prices of a feed that were seen to end: the step that ran then, from 0, and whether somebody took it. */
export function endedFalling(store: Store, sourceId: number): { step: number; isTaken: boolean }[] {
  const rows = all(
    store,
    pick(knex('listings as l'), {
      ...camel(LISTINGS, 'steps', 'state', 'closing_at'),
      endedAt: known(LISTINGS.ended_at),
    })
      .where({ source_id: sourceId, kind: 'falling' })
      .where('state', '<>', 'open')
      .whereNotNull('ended_at')
      .orderBy('ended_at', 'desc')
      .limit(AUCTIONS_LEARNED),
  );
  return rows.flatMap(({ steps, state, closingAt, endedAt }) => {
    const begun = fromJson(Steps, steps).filter(({ at }) => at <= endedAt).length;
    // what left the feed before its time was taken, too
    const isTaken = state === 'sold' || (state === 'withdrawn' && closingAt !== null && endedAt < closingAt);
    return begun === 0 ? [] : [{ step: begun - 1, isTaken }];
  });
}
