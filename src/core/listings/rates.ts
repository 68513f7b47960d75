/** What one unit of each currency is worth in the user's own; set by the user, never fetched. */
export interface Rates {
  /** ISO 4217 code of the user's currency. */
  home: string;
  /** By ISO 4217 code; the user's own need not be there. */
  worth: Record<string, number>;
}

/** A price in the user's currency, in its minor units; null: no rate is set. A price without a currency is taken as the user's. */
export function homeMinor(minor: number | null, currency: string | null, rates: Rates): number | null {
  if (minor === null) return null;
  const rate = rateOf(currency, rates);
  return rate === null ? null : Math.round(minor * rate);
}

/** @returns null for a currency without a rate. */
export function rateOf(currency: string | null, { home, worth }: Rates): number | null {
  if (currency === null || currency === home) return 1;
  return worth[currency] ?? null;
}
