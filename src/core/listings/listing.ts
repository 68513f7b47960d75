import type { ListingKind } from '../formats/list-fields';

/** Whether a lowest price is kept secret, and whether bidding has passed it. */
export const RESERVES = ['none', 'unmet', 'met'] as const;
export type Reserve = (typeof RESERVES)[number];

/** closed: its time is over; withdrawn: the venue names it no more before its time. */
export const LISTING_STATES = ['open', 'sold', 'closed', 'withdrawn'] as const;
export type ListingState = (typeof LISTING_STATES)[number];

/** From `at` (ms since 1970 UTC) on, a falling price is `priceMinor`. */
export interface PriceStep {
  at: number;
  priceMinor: number;
}

/** One offer of a domain at a venue. Times in ms since 1970 UTC, prices in minor units of `currency`; null: not said. */
export interface Listing {
  kind: ListingKind;
  venue: string | null;
  state: ListingState;
  /** Highest bid, asking price, fee, or the falling price when the venue was read. */
  priceMinor: number | null;
  currency: string | null;
  reserve: Reserve | null;
  bids: number | null;
  /** How many look at it, where the venue says so. */
  watchers?: number | null;
  closingAt: number | null;
  /** Of a falling price, in order of time; otherwise empty. */
  steps: PriceStep[];
  url: string | null;
}

/** What it costs at a moment: a falling price goes by its steps, also while nobody asks the venue. */
export function priceAt(listing: Pick<Listing, 'priceMinor' | 'steps'>, now: number): number | null {
  let price = listing.priceMinor;
  for (const step of listing.steps) if (step.at <= now) price = step.priceMinor;
  return price;
}

/** The step that comes next; null: the price falls no further. */
export function nextStep(listing: Pick<Listing, 'steps'>, now: number): PriceStep | null {
  return listing.steps.find((step) => step.at > now) ?? null;
}

export function isOpen(listing: Pick<Listing, 'state' | 'closingAt'>, now: number): boolean {
  return listing.state === 'open' && (listing.closingAt === null || listing.closingAt > now);
}

/** When an open listing next changes by itself: a step, or its end. null: never. */
export function nextMoment(listing: Listing, now: number): number | null {
  if (listing.state !== 'open') return null;
  const step = nextStep(listing, now)?.at ?? Number.POSITIVE_INFINITY;
  const moment = Math.min(step, listing.closingAt ?? Number.POSITIVE_INFINITY);
  return Number.isFinite(moment) ? moment : null;
}
