import type { Way } from '../orders/ways';
import type { Offer } from './plan';

/** When to buy at a falling price; amounts in the brief's currency, but the price that an order names. */
export interface FallingAdvice {
  venue: string;
  steps: { at: number; priceMinor: number; chanceThere: number; expectedMinor: number; listedMinor: number }[];
  best: number | null;
  currency: string | null;
  /** Listings of the venue it is estimated from. */
  seen: number;
}

/** What is assumed of others who may want a name. */
export interface Others {
  /** How many look at the offer, where its venue says so. */
  watchers: number | null;
  /** About what they bid in an auction, in the brief's currency; null: it is none. */
  toMinor: number | null;
  /** Auctions of the venue that this is learned from; 0: it is assumed. */
  auctions: number;
  /** How sure one is to be the first where a price is just paid; null: it is an auction. */
  firstShare: number | null;
}

/** A way to have a name, as a plan weighs it. */
export interface WeighedWay extends Way {
  /** null: a plan cannot weigh it, since nobody says what it would cost. */
  offer: Offer | null;
  others: Others | null;
  falling: FallingAdvice | null;
}
