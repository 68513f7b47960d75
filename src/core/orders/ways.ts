import type { ListingKind } from '../formats/list-fields';
import { type Listing, nextStep, priceAt } from '../listings/listing';
import { stepUp } from './amounts';
import type { OrderKind } from './order';

/** What a way to have a name is called: the kinds of listings, and registering it. */
export type WayKind = ListingKind | 'registration';

export const ORDER_OF: Record<WayKind, OrderKind> = {
  auction: 'bid',
  'expired-auction': 'bid',
  'buy-now': 'buy',
  falling: 'buy',
  offer: 'offer',
  backorder: 'backorder',
  registration: 'register',
};

/** Who says what a registration costs, the surest first: the registrar of this name, what registrations like it cost the person, Settings, the brief's renewal. */
export const PRICE_SAYERS = ['registrar', 'own registrations', 'settings', 'brief'] as const;
export type PriceSayer = (typeof PRICE_SAYERS)[number];

/** What it costs to register a name, in minor units of `currency`. */
export interface RegistrationPrice {
  priceMinor: number;
  currency: string;
  says: PriceSayer;
  /** A price of its own, over the usual one of the TLD. */
  isPremium: boolean;
  /** When it was said, ms since 1970 UTC; null: it is a setting. */
  at: number | null;
}

/** One way to have a name at a moment. Amounts in minor units of `currency`, but where another is named; null: not said. */
export interface Way {
  /** What is ordered. */
  kind: OrderKind;
  /** As what it is offered. */
  offered: WayKind;
  venue: string;
  currency: string;
  /** What is asked now, or stands now. */
  priceMinor: number | null;
  /** The least that is taken; null: any. */
  leastMinor: number | null;
  /** All that it costs now, fees with it, in the brief's currency: the least bid, the price; null: no price or no rate is known. */
  costMinor: number | null;
  /** Paid beside the price, in the brief's currency. */
  feesMinor: number;
  /** The next step of a falling price; `costMinor` as above. */
  next: { at: number; priceMinor: number; costMinor: number | null } | null;
  bids: number | null;
  watchers: number | null;
  reserve: Listing['reserve'];
  closesAt: number | null;
  url: string | null;
  /** When this was read, ms since 1970 UTC. */
  asOf: number;
  /** Where the price of a registration is from; null: it is none. */
  says: PriceSayer | null;
  isPremium: boolean;
  /** Why it cannot be had in this way now; null: it can. */
  refusal: string | null;
}

/** What ways are reckoned with: how amounts become the brief's currency (null: no rate), and what is paid beside a price, in it. */
export interface WayTerms {
  priced(minor: number | null, currency: string | null): number | null;
  feesMinor: number;
  homeCurrency: string;
}

/** An open listing as a way to have its name. */
export function wayOfListing(
  listing: Listing & { seenAt: number; sourceName: string },
  now: number,
  { priced, feesMinor, homeCurrency }: WayTerms,
): Way {
  const { bids, reserve, url, seenAt } = listing;
  const priceMinor = priceAt(listing, now);
  const kind = ORDER_OF[listing.kind];
  const step = nextStep(listing, now);
  const way: Way = {
    kind,
    offered: listing.kind,
    venue: listing.venue ?? listing.sourceName,
    currency: listing.currency ?? homeCurrency,
    priceMinor,
    leastMinor: kind === 'bid' ? stepUp(priceMinor, bids) : kind === 'offer' ? null : priceMinor,
    costMinor: null,
    feesMinor,
    next: null,
    bids,
    watchers: listing.watchers ?? null,
    reserve,
    closesAt: listing.closingAt,
    url,
    asOf: seenAt,
    says: null,
    isPremium: false,
    refusal: null,
  };
  const next = step && { ...step, costMinor: withFees(priced(step.priceMinor, listing.currency), feesMinor) };
  return reckoned({ ...way, next }, priced);
}

/** A registration pays its first year by its price, so nothing comes beside it. */
export function wayToRegister(
  registrar: string,
  { priceMinor, currency, says, isPremium, at }: RegistrationPrice,
  now: number,
  refusal: string | null,
  priced: WayTerms['priced'],
): Way {
  const way: Way = {
    kind: 'register',
    offered: 'registration',
    venue: registrar,
    currency,
    priceMinor,
    leastMinor: null,
    costMinor: null,
    feesMinor: 0,
    next: null,
    bids: null,
    watchers: null,
    reserve: null,
    closesAt: null,
    url: null,
    asOf: at ?? now,
    says,
    isPremium,
    refusal,
  };
  return reckoned(way, priced);
}

/** The same way with all that it costs now, after its price or currency was said anew. */
export function reckoned<W extends Way>(way: W, priced: WayTerms['priced']): W {
  const minor = way.kind === 'bid' ? (way.leastMinor ?? way.priceMinor) : way.priceMinor;
  return { ...way, costMinor: withFees(priced(minor, way.currency), way.feesMinor) };
}

const withFees = (minor: number | null, feesMinor: number) => (minor === null ? null : minor + feesMinor);

/**
 * Ways in order: those that can be had first, the cheapest in all before the dearer, those without a known cost behind; among equals the
 * one that closes first.
 */
export function cheapestFirst<W extends Way>(ways: readonly W[]): W[] {
  const cost = ({ costMinor }: Way) => costMinor ?? Number.POSITIVE_INFINITY;
  const end = ({ closesAt }: Way) => closesAt ?? Number.POSITIVE_INFINITY;
  const by = (a: number, b: number) => (a === b ? 0 : a - b);
  return [...ways].sort(
    (a, b) => Number(a.refusal !== null) - Number(b.refusal !== null) || by(cost(a), cost(b)) || by(end(a), end(b)),
  );
}
