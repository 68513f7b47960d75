import { homeMinor, type Rates, rateOf } from '../../core/listings/rates';

/** Converts an amount to a brief's currency; null: a rate is missing. */
export function inCurrency(
  rates: Rates,
  currency: string,
): (minor: number | null, from: string | null) => number | null {
  const own = rateOf(currency, rates);
  return (minor, from) => {
    const home = homeMinor(minor, from, rates);
    return home === null || own === null ? null : Math.round(home / own);
  };
}
