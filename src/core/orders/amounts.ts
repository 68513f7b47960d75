/** Steps of bidding that are usual, by price, where a venue does not say its own; in minor units. */
const STEPS: readonly [below: number, step: number][] = [
  [5_000, 100],
  [20_000, 500],
  [100_000, 1_000],
  [Number.POSITIVE_INFINITY, 5_000],
];

/** The least next bid over a price, as it is usual. Without bids, the price itself; null: there is no price. */
export function stepUp(priceMinor: number | null, bids: number | null): number | null {
  if (priceMinor === null || bids === 0) return priceMinor;
  const step = STEPS.find(([below]) => priceMinor < below)?.[1] ?? 0;
  return priceMinor + step;
}
