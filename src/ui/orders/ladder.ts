/** Amounts on one scale, from left to right, as shares of its width. */
export interface Ladder {
  price: number | null;
  least: number | null;
  maximum: number | null;
  worth: { low: number; high: number } | null;
  /** Upper end of the scale, minor units. */
  topMinor: number;
}

interface LadderAmounts {
  priceMinor: number | null;
  leastMinor: number | null;
  amountMinor: number;
  worthLowMinor: number | null;
  worthHighMinor: number | null;
}

/** Puts price, maximum and worth of an auction on one scale that begins at nothing, so that lengths can be compared. */
export function ladderOf({
  priceMinor,
  leastMinor,
  amountMinor,
  worthLowMinor,
  worthHighMinor,
}: LadderAmounts): Ladder {
  const topMinor = Math.max(1, 1.06 * Math.max(priceMinor ?? 0, leastMinor ?? 0, amountMinor, worthHighMinor ?? 0));
  const at = (minor: number | null) => (minor === null ? null : minor / topMinor);
  return {
    price: at(priceMinor),
    least: at(leastMinor),
    maximum: at(amountMinor),
    worth: worthLowMinor && worthHighMinor ? { low: worthLowMinor / topMinor, high: worthHighMinor / topMinor } : null,
    topMinor,
  };
}
