import type { Rivals } from './belief';

/** An auction that ended: what it stood at when it was first seen, and at the end. In minor units of one currency. */
export interface EndedAuction {
  firstMinor: number;
  finalMinor: number;
}

/** How far a venue's auctions go over what they stand at. */
export interface AuctionHabit {
  /** Of final over first price: the mean of its logarithm, and the standard deviation. */
  logRatio: number;
  sigma: number;
  /** How many of its auctions that is learned from; 0: it is assumed. */
  auctions: number;
}

/** Where no auction of a venue has been seen to end: they double, give or take a factor of two and a half. */
export const ASSUMED_HABIT: AuctionHabit = { logRatio: Math.log(2), sigma: 0.9, auctions: 0 };
/** What is assumed weighs as much as so many auctions. */
const ASSUMED_WEIGHT = 8;
/** Even with many seen, others are not known better than this. */
const LEAST_SIGMA = 0.35;

/** Learns a venue's habit from auctions that ended, drawn towards what is assumed while they are few. */
export function habitOf(ended: readonly EndedAuction[]): AuctionHabit {
  const ratios = ended
    .filter(({ firstMinor, finalMinor }) => firstMinor > 0 && finalMinor >= firstMinor)
    .map(({ firstMinor, finalMinor }) => Math.log(finalMinor / firstMinor));
  const all = ratios.length + ASSUMED_WEIGHT;
  const logRatio = (ratios.reduce((sum, ratio) => sum + ratio, 0) + ASSUMED_WEIGHT * ASSUMED_HABIT.logRatio) / all;
  const spread = ratios.reduce((sum, ratio) => sum + (ratio - logRatio) ** 2, 0);
  const assumed = ASSUMED_WEIGHT * (ASSUMED_HABIT.sigma ** 2 + (ASSUMED_HABIT.logRatio - logRatio) ** 2);
  return { logRatio, sigma: Math.max(LEAST_SIGMA, Math.sqrt((spread + assumed) / all)), auctions: ratios.length };
}

/** Others see a part of what one sees oneself. */
const AFFILIATION = 0.5;
const LEAST_STEP = 100;
const STEP_SHARE = 0.05;

/** What others would pay at most in an auction as it stands, by the venue's habit. */
export function rivalsOf(
  { priceMinor, bids }: { priceMinor: number; bids: number | null },
  habit: AuctionHabit,
): Rivals {
  const stepMinor = Math.max(LEAST_STEP, Math.round(STEP_SHARE * priceMinor));
  const price = Math.max(LEAST_STEP, priceMinor);
  return {
    highest: { medianMinor: price * Math.exp(habit.logRatio), sigma: habit.sigma },
    floorMinor: (bids ?? 0) > 0 ? price + stepMinor : price,
    stepMinor,
    affiliation: AFFILIATION,
  };
}
