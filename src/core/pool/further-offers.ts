import type { ChoiceCondition, RangeCondition } from './conditions';
import { countsBackwards, isTimeFact, timeBound } from './facts';
import { type FurtherOffer, OFFER_FACTS, type OfferFact } from './offer';

export type OfferCondition = (RangeCondition | ChoiceCondition) & { fact: OfferFact };

/** Conditions that are asked of offers, and are on. */
export function isOfferCondition(part: { type: string; fact?: string; off?: boolean }): part is OfferCondition {
  return (
    !part.off &&
    (part.type === 'range' || part.type === 'choice') &&
    (OFFER_FACTS as readonly string[]).includes(part.fact ?? '')
  );
}

/** All open offers of domains but the one that stands in their row, by row. Few domains have any. */
export class FurtherOffers {
  private readonly byRow = new Map<number, readonly FurtherOffer[]>();

  get isEmpty(): boolean {
    return this.byRow.size === 0;
  }

  /** Replaces those of a row. */
  put(row: number, offers: readonly FurtherOffer[]): void {
    if (offers.length > 0) this.byRow.set(row, offers);
    else this.byRow.delete(row);
  }

  of(row: number): readonly FurtherOffer[] {
    return this.byRow.get(row) ?? [];
  }

  entries(): IterableIterator<[row: number, offers: readonly FurtherOffer[]]> {
    return this.byRow.entries();
  }
}

/** Which of at most 31 conditions an offer passes, one bit each; one that has ended passes none. */
export function offerMask(offer: FurtherOffer, conditions: readonly OfferCondition[], nowSeconds: number): number {
  if (offer.closing !== null && offer.closing <= nowSeconds) return 0;
  let mask = 0;
  for (let n = 0; n < conditions.length; n++) if (hasIt(offer, conditions[n], nowSeconds)) mask |= 1 << n;
  return mask;
}

function hasIt(offer: FurtherOffer, condition: OfferCondition, nowSeconds: number): boolean {
  if (condition.type === 'choice') {
    const value = condition.fact === 'venue' ? offer.venue : offer.listing;
    if (value === null) return condition.keepUnknown;
    return condition.values.includes(value) !== condition.not;
  }
  const { fact, keepUnknown } = condition;
  const value = fact === 'price' ? offer.price : fact === 'bids' ? offer.bids : offer.closing;
  if (value === null) return keepUnknown;
  if (isTimeFact(fact)) {
    const [low, high] = countsBackwards(fact) ? [condition.max, condition.min] : [condition.min, condition.max];
    return (
      (low === null || value >= timeBound(fact, low, nowSeconds)) &&
      (high === null || value <= timeBound(fact, high, nowSeconds))
    );
  }
  // as wide as the column of rows is, so that an offer passes whichever of the two holds it
  const figure = Math.fround(value);
  return (
    (condition.min === null || figure >= Math.fround(condition.min)) &&
    (condition.max === null || figure <= Math.fround(condition.max))
  );
}

/** Of offers, the cheapest; those without a price behind; among equals the one that closes first. */
export function cheapestOffer(offers: readonly FurtherOffer[]): FurtherOffer | null {
  let best: FurtherOffer | null = null;
  const last = Number.POSITIVE_INFINITY;
  for (const offer of offers) {
    const isBetter =
      best === null ||
      (offer.price ?? last) < (best.price ?? last) ||
      ((offer.price ?? last) === (best.price ?? last) && (offer.closing ?? last) < (best.closing ?? last));
    if (isBetter) best = offer;
  }
  return best;
}
