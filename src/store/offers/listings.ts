import { listingOf } from '../../core/formats/list-batch';
import type { ListingKind } from '../../core/formats/list-fields';
import { bestListing, isBetter, newestPerVenue } from '../../core/listings/best';
import { type ChangeKind, compareListings, type ListingChange } from '../../core/listings/changes';
import {
  isOpen,
  type Listing,
  type ListingState,
  nextMoment,
  priceAt,
  type Reserve,
} from '../../core/listings/listing';
import { homeMinor, type Rates } from '../../core/listings/rates';
import type { PoolRow } from '../../core/pool/facts';
import type { FurtherOffer } from '../../core/pool/offer';
import { type Store, statement } from '../base/database';
import { type DomainRow, sightingsOf } from '../domains/domains';

/** An offer as it is stored, from a feed or from the row of a list. Times in ms since 1970 UTC. */
export interface StoredListing extends Listing {
  sourceId: number;
  sourceName: string;
  firstAt: number;
  /** When its source was last seen to make it. */
  seenAt: number;
  endedAt: number | null;
}

interface ListingRow {
  domain_id: number;
  source_id: number;
  source_name: string;
  kind: ListingKind;
  venue: string | null;
  state: ListingState;
  price_minor: number | null;
  currency: string | null;
  reserve: Reserve | null;
  bids: number | null;
  watchers: number | null;
  closing_at: number | null;
  steps: string;
  url: string | null;
  first_at: number;
  seen_at: number;
  ended_at: number | null;
}

const READ = 'SELECT l.*, o.name AS source_name FROM listings l JOIN sources o ON o.id = l.source_id';

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
    steps: JSON.parse(row.steps),
    url: row.url,
    sourceId: row.source_id,
    sourceName: row.source_name,
    firstAt: row.first_at,
    seenAt: row.seen_at,
    endedAt: row.ended_at,
  };
}

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
  const found = statement(store.raw, `${READ} WHERE l.domain_id = ? AND l.source_id = ? AND l.kind = ?`).get(
    domainId,
    sourceId,
    listing.kind,
  ) as ListingRow | undefined;
  const before = found ? unpack(found) : null;
  const changes = compareListings(before, listing);
  statement(
    store.raw,
    `INSERT INTO listings VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
     ON CONFLICT DO UPDATE SET venue = excluded.venue, state = excluded.state, price_minor = excluded.price_minor,
       currency = excluded.currency, reserve = excluded.reserve, bids = excluded.bids, closing_at = excluded.closing_at,
       steps = excluded.steps, url = excluded.url, seen_at = excluded.seen_at, ended_at = excluded.ended_at,
       next_at = excluded.next_at, watchers = excluded.watchers`,
  ).run(
    domainId,
    sourceId,
    listing.kind,
    listing.venue,
    listing.state,
    listing.priceMinor,
    listing.currency,
    listing.reserve,
    listing.bids,
    listing.closingAt,
    JSON.stringify(listing.steps),
    listing.url,
    before?.firstAt ?? at,
    at,
    listing.state === 'open' ? null : (before?.endedAt ?? at),
    nextMoment(listing, at),
    listing.watchers ?? null,
  );
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
  const insert = statement(
    store.raw,
    'INSERT INTO listing_changes (domain_id, source_id, kind, at, what, was, now_is) VALUES (?, ?, ?, ?, ?, ?, ?)',
  );
  for (const { what, was, is } of changes) insert.run(domainId, sourceId, kind, at, what, was, is);
}

/** Changes a stored listing by what became of it without its venue being asked. */
function change(store: Store, row: ListingRow, next: Partial<Listing>, at: number): void {
  const before = unpack(row);
  const after: Listing = { ...before, ...next };
  statement(
    store.raw,
    `UPDATE listings SET state = ?, price_minor = ?, ended_at = ?, next_at = ? WHERE domain_id = ? AND source_id = ? AND kind = ?`,
  ).run(
    after.state,
    after.priceMinor,
    after.state === 'open' ? null : (before.endedAt ?? at),
    nextMoment(after, at),
    row.domain_id,
    row.source_id,
    row.kind,
  );
  noteChanges(store, row.domain_id, row.source_id, row.kind, compareListings(before, after), at);
}

/**
 * Ends the open listings that a feed, read whole, does not make any more: those before their time were withdrawn.
 *
 * @param since when the reading began. @returns domains they were of.
 */
export function endMissing(store: Store, sourceId: number, since: number, at: number): number[] {
  const rows = statement(store.raw, `${READ} WHERE l.source_id = ? AND l.seen_at < ? AND l.state = 'open'`).all(
    sourceId,
    since,
  ) as ListingRow[];
  for (const row of rows)
    change(store, row, { state: row.closing_at !== null && row.closing_at <= at ? 'closed' : 'withdrawn' }, at);
  return [...new Set(rows.map((row) => row.domain_id))];
}

/** Whether an offer is due to change by itself; a look that takes no lock. */
export function isAnyDue(store: Store, at: number): boolean {
  return statement(store.raw, 'SELECT 1 FROM listings WHERE next_at <= ? LIMIT 1').get(at) !== undefined;
}

/** Lets price steps and endings that are due happen. @returns domains they were of, at most `limit`. */
export function letTimePass(store: Store, at: number, limit: number): number[] {
  const rows = statement(
    store.raw,
    `${READ} WHERE l.next_at IS NOT NULL AND l.next_at <= ? ORDER BY l.next_at LIMIT ?`,
  ).all(at, limit) as ListingRow[];
  for (const row of rows) {
    const listing = unpack(row);
    change(store, row, { priceMinor: priceAt(listing, at), state: isOpen(listing, at) ? 'open' : 'closed' }, at);
  }
  return [...new Set(rows.map((row) => row.domain_id))];
}

/** All offers of a domain, of feeds and of lists, the newest word of each list's venue only; the last seen first. */
export function listingsOf(store: Store, domainId: number): StoredListing[] {
  const fromFeeds = (statement(store.raw, `${READ} WHERE l.domain_id = ?`).all(domainId) as ListingRow[]).map(unpack);
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

/** Brings the grid's offer of a domain up to date with all its offers. Call inside a write transaction. */
export function settleListing(store: Store, domainId: number, at: number, rates: Rates): void {
  const listings = listingsOf(store, domainId);
  const best = bestListing(listings, at, rates);
  const open = listings.filter((listing) => isOpen(listing, at)).length;
  setBest(store, domainId, best, best?.seenAt ?? at, open, at);
}

/** Takes up what a list offers of a domain that was known before. Call inside a write transaction. */
export function takeOffer(store: Store, domainId: number, offer: Listing, at: number, rates: Rates): void {
  const row = statement(store.raw, 'SELECT * FROM domains WHERE id = ?').get(domainId) as DomainRow;
  const shown = shownListing(row);
  if (!shown || !isOpen(shown, at)) {
    setBest(store, domainId, offer, at, 1, at);
    return;
  }
  if (shown.venue !== offer.venue || shown.kind !== offer.kind) {
    const open = (row.offers ?? 1) + 1;
    if (isOpen(offer, at) && isBetter(offer, shown, at, rates)) setBest(store, domainId, offer, at, open, at);
    else statement(store.raw, 'UPDATE domains SET offers = ? WHERE id = ?').run(open, domainId);
    return;
  }
  // the venue's newer word on what is shown; another offer may be better than it is now
  const others = listingsOf(store, domainId).filter(({ venue, kind }) => venue !== offer.venue || kind !== offer.kind);
  const all: (Listing & { seenAt?: number })[] = [...others, offer];
  const best = bestListing(all, at, rates);
  setBest(store, domainId, best, best?.seenAt ?? at, all.filter((listing) => isOpen(listing, at)).length, at);
}

function shownListing(row: DomainRow): Listing | null {
  if (row.listing === null) return null;
  return {
    kind: row.listing as ListingKind,
    venue: row.venue,
    state: 'open',
    priceMinor: row.price_minor,
    currency: row.currency,
    reserve: null,
    bids: row.bids,
    closingAt: row.closing_at,
    steps: [],
    url: row.listing_url,
  };
}

function setBest(
  store: Store,
  domainId: number,
  best: Listing | null,
  seenAt: number,
  offers: number,
  now: number,
): void {
  statement(
    store.raw,
    `UPDATE domains SET listing = ?, venue = ?, price_minor = ?, currency = ?, bids = ?, closing_at = ?, listing_url = ?,
     listing_at = ?, offers = ? WHERE id = ?`,
  ).run(
    best?.kind ?? null,
    best?.venue ?? null,
    best ? priceAt(best, now) : null,
    best?.currency ?? null,
    best?.bids ?? null,
    best?.closingAt ?? null,
    best?.url ?? null,
    best ? seenAt : null,
    best ? offers : null,
    domainId,
  );
}

/** Domains with several offers: which one is shown may change with the rates. */
export function domainsWithOffers(store: Store): number[] {
  return store.raw.prepare('SELECT id FROM domains WHERE offers > 1 ORDER BY id').pluck().all() as number[];
}

export interface StoredChange extends ListingChange {
  what: ChangeKind;
  at: number;
  kind: ListingKind;
  name: string;
  venue: string | null;
  currency: string | null;
}

const READ_CHANGES = `SELECT c.what, c.was, c.now_is AS "is", c.at, c.kind, d.name, l.venue, l.currency FROM listing_changes c
  JOIN domains d ON d.id = c.domain_id
  LEFT JOIN listings l ON l.domain_id = c.domain_id AND l.source_id = c.source_id AND l.kind = c.kind`;

/** What changed of a domain's offers, the latest first. */
export function changesOf(store: Store, domainId: number, limit = 50): StoredChange[] {
  return statement(store.raw, `${READ_CHANGES} WHERE c.domain_id = ? ORDER BY c.at DESC, c.id DESC LIMIT ?`).all(
    domainId,
    limit,
  ) as StoredChange[];
}

/** What a feed's readings changed, the latest first; what it merely lists for the first time is left out. */
export function changesOfSource(store: Store, sourceId: number, limit: number): StoredChange[] {
  return statement(
    store.raw,
    `${READ_CHANGES} WHERE c.source_id = ? AND c.what <> 'listed' ORDER BY c.at DESC, c.id DESC LIMIT ?`,
  ).all(sourceId, limit) as StoredChange[];
}

/** Offers of a feed that are open, the next to change by itself first, those that never do last; and how many there are of each kind. */
export function openListings(
  store: Store,
  sourceId: number,
  kind: ListingKind | null,
  offset: number,
  limit: number,
): { rows: (StoredListing & { name: string })[]; kinds: { kind: ListingKind; listings: number }[] } {
  const rows = statement(
    store.raw,
    `SELECT l.*, o.name AS source_name, d.name FROM listings l JOIN sources o ON o.id = l.source_id JOIN domains d ON d.id = l.domain_id
     WHERE l.source_id = @sourceId AND l.state = 'open' AND (@kind IS NULL OR l.kind = @kind)
     ORDER BY l.next_at NULLS LAST, l.domain_id LIMIT @limit OFFSET @offset`,
  ).all({ sourceId, kind, offset, limit }) as (ListingRow & { name: string })[];
  const kinds = statement(
    store.raw,
    `SELECT kind, count(*) AS listings FROM listings WHERE source_id = ? AND state = 'open' GROUP BY kind ORDER BY listings DESC`,
  ).all(sourceId) as { kind: ListingKind; listings: number }[];
  return { rows: rows.map((row) => ({ ...unpack(row), name: row.name })), kinds };
}

const AUCTIONS_LEARNED = 500;

/** Auctions of a feed that were seen to end, with what they stood at first and last; the latest of them. */
export function endedAuctions(store: Store, sourceId: number): { firstMinor: number; finalMinor: number }[] {
  return statement(
    store.raw,
    `SELECT c.now_is AS firstMinor, l.price_minor AS finalMinor FROM listings l
       JOIN listing_changes c ON c.domain_id = l.domain_id AND c.source_id = l.source_id AND c.kind = l.kind AND c.what = 'listed'
     WHERE l.source_id = ? AND l.kind IN ('auction', 'expired-auction') AND l.state IN ('sold', 'closed')
       AND l.price_minor IS NOT NULL AND c.now_is > 0 ORDER BY l.ended_at DESC LIMIT ?`,
  ).all(sourceId, AUCTIONS_LEARNED) as { firstMinor: number; finalMinor: number }[];
}

/** Falling prices of a feed that were seen to end: the step that ran then, from 0, and whether somebody took it. */
export function endedFalling(store: Store, sourceId: number): { step: number; isTaken: boolean }[] {
  const rows = statement(
    store.raw,
    `SELECT steps, state, closing_at AS closingAt, ended_at AS endedAt FROM listings
     WHERE source_id = ? AND kind = 'falling' AND state <> 'open' AND ended_at IS NOT NULL ORDER BY ended_at DESC LIMIT ?`,
  ).all(sourceId, AUCTIONS_LEARNED) as {
    steps: string;
    state: ListingState;
    closingAt: number | null;
    endedAt: number;
  }[];
  return rows.flatMap(({ steps, state, closingAt, endedAt }) => {
    const begun = (JSON.parse(steps) as { at: number }[]).filter(({ at }) => at <= endedAt).length;
    // what left the feed before its time was taken, too
    const isTaken = state === 'sold' || (state === 'withdrawn' && closingAt !== null && endedAt < closingAt);
    return begun === 0 ? [] : [{ step: begun - 1, isTaken }];
  });
}
