import { rangeAround, type WorthAssumptions, type WorthRange } from './assumptions';

/** A referring domain as a redirect would carry it over. */
export interface CarriedReferrer {
  site: string;
  /** What is left of its vote after discounts, 0 to 1. */
  weight: number;
  /** 0 to 100; null: not measured. */
  strength: number | null;
  /** Whether it is of the brief's subject; null: not told. */
  isOfSubject: boolean | null;
}

export interface CarriedWorth extends CarriedReferrer {
  /** What a link from it would cost, minor units. */
  priceMinor: number;
  /** Of that, what the redirect is worth. */
  worthMinor: number;
}

export interface RedirectWorth extends WorthRange {
  /** The dearest first. */
  referrers: CarriedWorth[];
  ofSubject: number;
  notTold: number;
}

const SPREAD = 1.9;
/** A referrer whose strength is not measured is taken for weak. */
const UNMEASURED_STRENGTH = 5;

/**
 * What links like a domain's effective referrers would cost, one by one, as far as a redirect carries them: by strength (a price that
 * doubles every so many steps), subject and discounts.
 *
 * @returns null when nothing refers to it.
 */
export function redirectWorth(referrers: readonly CarriedReferrer[], assumed: WorthAssumptions): RedirectWorth | null {
  const counting = referrers.filter(({ weight }) => weight > 0);
  if (counting.length === 0) return null;
  const other = assumed.otherSubjectPercent / 100;
  const carried = counting.map((referrer): CarriedWorth => {
    const { weight, strength, isOfSubject } = referrer;
    const priceMinor = linkPrice(strength ?? UNMEASURED_STRENGTH, assumed);
    // where no subject is told, it may be either
    const relevance = isOfSubject === null ? (1 + 3 * other) / 4 : isOfSubject ? 1 : other;
    return { ...referrer, priceMinor, worthMinor: priceMinor * weight * relevance * (assumed.carryPercent / 100) };
  });
  carried.sort((a, b) => b.worthMinor - a.worthMinor || a.site.localeCompare(b.site));
  const middle = carried.reduce((sum, { worthMinor }) => sum + worthMinor, 0);
  return {
    referrers: carried,
    ofSubject: counting.filter(({ isOfSubject }) => isOfSubject === true).length,
    notTold: counting.filter(({ isOfSubject }) => isOfSubject === null).length,
    ...rangeAround(middle, SPREAD),
  };
}

/** The price of a followed link from a site of the subject, by its strength. */
export function linkPrice(strength: number, { linkMinor, linkDoubling }: WorthAssumptions): number {
  return linkMinor * 2 ** ((strength - 20) / linkDoubling);
}
