import { isOpen, type Listing, priceAt } from './listing';
import { homeMinor, type Rates } from './rates';

/**
 * The listing that the grid shows of a domain: of those still open, the one that costs least now in the user's currency. Those
 * without a price, or in a currency without a rate, come last; among equals the one that closes first, then the first given.
 */
export function bestListing<L extends Listing>(listings: readonly L[], now: number, rates: Rates): L | null {
  let best: L | null = null;
  for (const listing of listings)
    if (isOpen(listing, now) && (best === null || isBetter(listing, best, now, rates))) best = listing;
  return best;
}

/** Whether `a` is to be shown before `b`; both are open. */
export function isBetter(a: Listing, b: Listing, now: number, rates: Rates): boolean {
  const cost = (listing: Listing) =>
    homeMinor(priceAt(listing, now), listing.currency, rates) ?? Number.POSITIVE_INFINITY;
  const [costA, costB] = [cost(a), cost(b)];
  if (costA !== costB) return costA < costB;
  return (a.closingAt ?? Number.POSITIVE_INFINITY) < (b.closingAt ?? Number.POSITIVE_INFINITY);
}

/** Of lists, one venue's newer word on a kind of listing replaces its older. @param listings oldest first. */
export function newestPerVenue<L extends Listing>(listings: readonly L[]): L[] {
  const byOffer = new Map<string, L>();
  for (const listing of listings) byOffer.set(`${listing.kind} ${listing.venue ?? ''}`, listing);
  return [...byOffer.values()];
}
