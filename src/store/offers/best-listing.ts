import { bestListing, isBetter } from '../../core/listings/best';
import { isOpen, type Listing, priceAt } from '../../core/listings/listing';
import type { Rates } from '../../core/listings/rates';
import type { Store } from '../base/database';
import { all, knex, prepared, run } from '../base/query';
import type { Row } from '../base/schema';
import { listingsOf } from './listings';

/** Brings the grid's offer of a domain up to date with all its offers. Call inside a write transaction. */
export function updateBestListing(store: Store, domainId: number, at: number, rates: Rates): void {
  const listings = listingsOf(store, domainId);
  const best = bestListing(listings, at, rates);
  const open = listings.filter((listing) => isOpen(listing, at)).length;
  setBest(store, domainId, best, best?.seenAt ?? at, open, at);
}

/** Takes up what a list offers of a domain that was known before. Call inside a write transaction. */
export function takeOffer(store: Store, domainId: number, offer: Listing, at: number, rates: Rates): void {
  const row = SHOWN.first(store, { id: domainId });
  const shown = row ? shownListing(row) : null;
  if (!shown || !isOpen(shown, at)) {
    setBest(store, domainId, offer, at, 1, at);
    return;
  }
  if (shown.venue !== offer.venue || shown.kind !== offer.kind) {
    const open = (row?.offers ?? 1) + 1;
    if (isOpen(offer, at) && isBetter(offer, shown, at, rates)) setBest(store, domainId, offer, at, open, at);
    else run(store, knex('domains').where('id', domainId).update({ offers: open }));
    return;
  }
  // the venue's newer word on what is shown; another offer may be better than it is now
  const others = listingsOf(store, domainId).filter(({ venue, kind }) => venue !== offer.venue || kind !== offer.kind);
  const listed: (Listing & { seenAt?: number })[] = [...others, offer];
  const best = bestListing(listed, at, rates);
  setBest(store, domainId, best, best?.seenAt ?? at, listed.filter((listing) => isOpen(listing, at)).length, at);
}

const SHOWN = prepared(({ id }: { id: number }) =>
  knex('domains')
    .select('listing', 'venue', 'price_minor', 'currency', 'bids', 'closing_at', 'listing_url', 'offers')
    .where('id', id),
);

type Shown = Pick<
  Row<'domains'>,
  'listing' | 'venue' | 'price_minor' | 'currency' | 'bids' | 'closing_at' | 'listing_url' | 'offers'
>;

function shownListing(row: Shown): Listing | null {
  if (row.listing === null) return null;
  return {
    kind: row.listing,
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

const SHOW = prepared((row: Shown & Pick<Row<'domains'>, 'id' | 'listing_at'>) =>
  knex('domains').where('id', row.id).update({
    listing: row.listing,
    venue: row.venue,
    price_minor: row.price_minor,
    currency: row.currency,
    bids: row.bids,
    closing_at: row.closing_at,
    listing_url: row.listing_url,
    listing_at: row.listing_at,
    offers: row.offers,
  }),
);

function setBest(
  store: Store,
  domainId: number,
  best: Listing | null,
  seenAt: number,
  offers: number,
  now: number,
): void {
  SHOW.run(store, {
    id: domainId,
    listing: best?.kind ?? null,
    venue: best?.venue ?? null,
    price_minor: best ? priceAt(best, now) : null,
    currency: best?.currency ?? null,
    bids: best?.bids ?? null,
    closing_at: best?.closingAt ?? null,
    listing_url: best?.url ?? null,
    listing_at: best ? seenAt : null,
    offers: best ? offers : null,
  });
}

/** Domains with several offers: which one is shown may change with the rates. */
export function domainsWithOffers(store: Store): number[] {
  return all(store, knex('domains').where('offers', '>', 1).orderBy('id').pluck('id'));
}
