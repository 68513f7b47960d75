import type { ListingKind } from '../formats/list-fields';

/** Facts that are those of one offer: conditions on them that stand together have to hold of the same offer. */
export const OFFER_FACTS = ['listing', 'venue', 'price', 'bids', 'closing'] as const;
export type OfferFact = (typeof OFFER_FACTS)[number];

/** An open offer of a domain beside the one its row has: price in units of the user's currency, closing in seconds since 1970 UTC; null: not said. */
export interface FurtherOffer {
  listing: ListingKind;
  venue: string | null;
  price: number | null;
  bids: number | null;
  closing: number | null;
}
