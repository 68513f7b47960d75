import { z } from 'zod';
import { listingOf } from '../../core/formats/list-batch';
import type { ListingKind } from '../../core/formats/list-fields';
import { newestPerVenue } from '../../core/listings/best';
import { compareListings, type ListingChange } from '../../core/listings/changes';
import { isOpen, type Listing, nextMoment, priceAt } from '../../core/listings/listing';
import { homeMinor, type Rates } from '../../core/listings/rates';
import type { PoolRow } from '../../core/pool/facts';
import type { FurtherOffer } from '../../core/pool/offer';
import type { Store } from '../base/database';
import {
  all,
  columns,
  constant,
  every,
  exists,
  fromJson,
  knex,
  known,
  pick,
  placesOf,
  prepared,
  run,
  sql,
} from '../base/query';
import type { Row } from '../base/schema';
import { sightingsOf } from '../domains/domains';

export const LISTINGS = columns('listings', 'l');
const SOURCES = columns('sources', 'o');
export const DOMAINS = columns('domains', 'd');
const fromListings = () => knex('listings as l').join('sources as o', 'o.id', 'l.source_id');
export const offers = () =>
  pick(fromListings(), {
    ...every(LISTINGS),
    source_name: SOURCES.name,
  });

/** An offer as it is stored, from a feed or from the row of a list. Times in ms since 1970 UTC. */
export interface StoredListing extends Listing {
  sourceId: number;
  sourceName: string;
  firstAt: number;
  /** When its source was last seen to make it. */
  seenAt: number;
  endedAt: number | null;
}

/** As the indexes over open offers have it. */
const OPEN = constant('open');

type ListingRow = Row<'listings'> & { source_name: string };
export const Steps = z.array(z.object({ at: z.number(), priceMinor: z.number() }));

function unpack(row: ListingRow): StoredListing {
  return {
    kind: row.kind,
    venue: row.venue,
    state: row.state,
    priceMinor: row.price_minor,
    currency: row.currency,
    reserve: row.reserve,
    bids: row.bids,
    watchers: row.watchers,
    closingAt: row.closing_at,
    steps: fromJson(Steps, row.steps),
    url: row.url,
    sourceId: row.source_id,
    sourceName: row.source_name,
    firstAt: row.first_at,
    seenAt: row.seen_at,
    endedAt: row.ended_at,
  };
}

const OFFER = prepared((of: { domainId: number; sourceId: number; kind: ListingKind }) =>
  offers().where({ 'l.domain_id': of.domainId, 'l.source_id': of.sourceId, 'l.kind': of.kind }),
);
const PUT = prepared((row: Row<'listings'>) =>
  knex('listings').insert(placesOf('listings', row)).onConflict(['domain_id', 'source_id', 'kind']).merge(SAID_ANEW),
);
/** What a newer word of a venue changes; when it was first seen stays. */
const SAID_ANEW = [
  'venue',
  'state',
  'price_minor',
  'currency',
  'reserve',
  'bids',
  'watchers',
  'closing_at',
  'steps',
  'url',
  'seen_at',
  'ended_at',
  'next_at',
] as const satisfies (keyof Row<'listings'>)[];

/**
 * Writes what a feed says of a listing now, and what that changed. Call inside a write transaction; settleListing afterwards
 * brings the domain up to date.
 *
 * @returns the changes; none when nothing is new.
 */
export function putListing(
  store: Store,
  domainId: number,
  sourceId: number,
  given: Listing,
  at: number,
): ListingChange[] {
  const listing = { ...given, priceMinor: priceAt(given, at) };
  if (listing.state === 'open' && !isOpen(listing, at)) listing.state = 'closed';
  const found = OFFER.first(store, { domainId, sourceId, kind: listing.kind });
  const before = found ? unpack(found) : null;
  const changes = compareListings(before, listing);
  PUT.run(store, {
    domain_id: domainId,
    source_id: sourceId,
    kind: listing.kind,
    venue: listing.venue,
    state: listing.state,
    price_minor: listing.priceMinor,
    currency: listing.currency,
    reserve: listing.reserve,
    bids: listing.bids,
    watchers: listing.watchers ?? null,
    closing_at: listing.closingAt,
    steps: JSON.stringify(listing.steps),
    url: listing.url,
    first_at: before?.firstAt ?? at,
    seen_at: at,
    ended_at: listing.state === 'open' ? null : (before?.endedAt ?? at),
    next_at: nextMoment(listing, at),
  });
  noteChanges(store, domainId, sourceId, listing.kind, changes, at);
  return changes;
}

function noteChanges(
  store: Store,
  domainId: number,
  sourceId: number,
  kind: ListingKind,
  changes: ListingChange[],
  at: number,
): void {
  for (const { what, was, is } of changes)
    CHANGED.run(store, { domain_id: domainId, source_id: sourceId, kind, at, what, was, now_is: is });
}
const CHANGED = prepared((row: Omit<Row<'listing_changes'>, 'id'>) =>
  knex('listing_changes').insert({
    domain_id: row.domain_id,
    source_id: row.source_id,
    kind: row.kind,
    at: row.at,
    what: row.what,
    was: row.was,
    now_is: row.now_is,
  }),
);

/** Changes a stored listing by what became of it without its venue being asked. */
function change(store: Store, row: ListingRow, next: Partial<Listing>, at: number): void {
  const before = unpack(row);
  const after: Listing = { ...before, ...next };
  run(
    store,
    knex('listings')
      .where({ domain_id: row.domain_id, source_id: row.source_id, kind: row.kind })
      .update({
        state: after.state,
        price_minor: after.priceMinor,
        ended_at: after.state === 'open' ? null : (before.endedAt ?? at),
        next_at: nextMoment(after, at),
      }),
  );
  noteChanges(store, row.domain_id, row.source_id, row.kind, compareListings(before, after), at);
}

/**
 * Ends the open listings that a feed, read whole, does not make any more: those before their time were withdrawn.
 *
 * @param since when the reading began. @returns domains they were of.
 */
export function endMissing(store: Store, sourceId: number, since: number, at: number): number[] {
  const rows = all(
    store,
    offers().where('l.source_id', sourceId).where('l.seen_at', '<', since).where('l.state', OPEN),
  );
  for (const row of rows)
    change(store, row, { state: row.closing_at !== null && row.closing_at <= at ? 'closed' : 'withdrawn' }, at);
  return [...new Set(rows.map((row) => row.domain_id))];
}

/** Whether an offer is due to change by itself; a look that takes no lock. */
export function isAnyDue(store: Store, at: number): boolean {
  return exists(store, knex('listings').where('next_at', '<=', at));
}

/** Lets price steps and endings that are due happen. @returns domains they were of, at most `limit`. */
export function letTimePass(store: Store, at: number, limit: number): number[] {
  const rows = all(
    store,
    offers().whereNotNull('l.next_at').where('l.next_at', '<=', at).orderBy('l.next_at').limit(limit),
  );
  for (const row of rows) {
    const listing = unpack(row);
    change(store, row, { priceMinor: priceAt(listing, at), state: isOpen(listing, at) ? 'open' : 'closed' }, at);
  }
  return [...new Set(rows.map((row) => row.domain_id))];
}

const OFFERS_OF = prepared(({ domainId }: { domainId: number }) => offers().where('l.domain_id', domainId));

/** All offers of a domain, of feeds and of lists, the newest word of each list's venue only; the last seen first. */
export function listingsOf(store: Store, domainId: number): StoredListing[] {
  const fromFeeds = OFFERS_OF.all(store, { domainId }).map(unpack);
  const fromLists = sightingsOf(store, domainId).flatMap(({ sourceId, sourceKind, sourceName, at, said }) => {
    if (sourceKind !== 'list') return [];
    const row = { kind: null, closingAt: null, priceMinor: null, ...(said as Partial<Listing>) };
    const kind = listingOf(row);
    if (kind === null) return [];
    const listing: StoredListing = {
      kind,
      venue: row.venue ?? null,
      state: 'open',
      priceMinor: row.priceMinor,
      currency: row.currency ?? null,
      reserve: row.reserve ?? null,
      bids: row.bids ?? null,
      closingAt: row.closingAt,
      steps: [],
      url: row.url ?? null,
      sourceId,
      sourceName,
      firstAt: at,
      seenAt: at,
      endedAt: null,
    };
    return listing;
  });
  const oldestFirst = [...fromFeeds, ...fromLists].sort((a, b) => a.seenAt - b.seenAt);
  return newestPerVenue(oldestFirst).reverse();
}

/** Open offers of a domain beside the one that its row has, as the index takes them. */
export function furtherOffers(
  store: Store,
  { id, venue, listing }: Pick<PoolRow, 'id' | 'venue' | 'listing'>,
  rates: Rates,
): FurtherOffer[] {
  const now = store.now();
  return listingsOf(store, id).flatMap((offer) => {
    if (!isOpen(offer, now) || (offer.venue === venue && offer.kind === listing)) return [];
    const minor = homeMinor(priceAt(offer, now), offer.currency, rates);
    return {
      listing: offer.kind,
      venue: offer.venue,
      price: minor === null ? null : minor / 100,
      bids: offer.bids,
      closing: offer.closingAt === null ? null : Math.floor(offer.closingAt / 1000),
    };
  });
}

/** Open prices by the currency that they are quoted in; those that name none are left out. */
export function quotedCurrencies(store: Store): { currency: string; offers: number }[] {
  return all(
    store,
    pick(knex('listings as l'), { currency: known(LISTINGS.currency), offers: sql<number>('count(*)') })
      .where('l.state', OPEN)
      .whereNotNull('l.price_minor')
      .whereNotNull('l.currency')
      .groupBy('l.currency')
      .orderBy('offers', 'desc'),
  );
}

/** Offers of a feed that are open, the next to change by itself first, those that never do last; and how many there are of each kind. */
export function openListings(
  store: Store,
  sourceId: number,
  kind: ListingKind | null,
  offset: number,
  limit: number,
): { rows: (StoredListing & { name: string })[]; kinds: { kind: ListingKind; listings: number }[] } {
  const rows = all(
    store,
    pick(fromListings().join('domains as d', 'd.id', 'l.domain_id'), {
      ...every(LISTINGS),
      source_name: SOURCES.name,
      name: DOMAINS.name,
    })
      .where({ 'l.source_id': sourceId, 'l.state': OPEN, ...(kind !== null && { 'l.kind': kind }) })
      .orderByRaw('l.next_at NULLS LAST, l.domain_id')
      .limit(limit)
      .offset(offset),
  );
  const kinds = all(
    store,
    pick(knex('listings as l'), { kind: LISTINGS.kind, listings: sql<number>('count(*)') })
      .where({ source_id: sourceId, state: OPEN })
      .groupBy('kind')
      .orderBy('listings', 'desc'),
  );
  return { rows: rows.map((row) => ({ ...unpack(row), name: row.name })), kinds };
}
