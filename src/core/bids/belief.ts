import { NORMAL_80, normalBelow, normalMeanBelow } from './normal';

/** An amount of money that is not known: log-normal, in minor units. */
export interface Belief {
  medianMinor: number;
  /** Standard deviation of its logarithm; 0: it is known. */
  sigma: number;
}

/** From a range that holds six times in ten, with two times in ten below it and above it. Both over 0. */
export function beliefOfRange(lowMinor: number, highMinor: number): Belief {
  const [low, high] = [Math.log(Math.min(lowMinor, highMinor)), Math.log(Math.max(lowMinor, highMinor))];
  return { medianMinor: Math.exp((low + high) / 2), sigma: (high - low) / (2 * NORMAL_80) };
}

export function meanMinor({ medianMinor, sigma }: Belief): number {
  return medianMinor * Math.exp((sigma * sigma) / 2);
}

/** @param at 0.2: what it exceeds eight times in ten; only 0.2, 0.5 and 0.8 are asked for. */
export function quantileMinor({ medianMinor, sigma }: Belief, at: 0.2 | 0.5 | 0.8): number {
  return medianMinor * Math.exp(sigma * NORMAL_80 * (at === 0.5 ? 0 : at === 0.2 ? -1 : 1));
}

/** Chance that it is at most an amount. */
export function chanceBelow({ medianMinor, sigma }: Belief, minor: number): number {
  if (minor <= 0) return 0;
  if (sigma === 0) return minor >= medianMinor ? 1 : 0;
  return normalBelow(Math.log(minor / medianMinor) / sigma);
}

/** Its mean over what is at most an amount, times the chance of that: the partial expectation of a log-normal. */
function partialMean({ medianMinor, sigma }: Belief, minor: number): number {
  if (minor <= 0) return 0;
  if (sigma === 0) return minor >= medianMinor ? medianMinor : 0;
  return meanMinor({ medianMinor, sigma }) * normalBelow(Math.log(minor / medianMinor) / sigma - sigma);
}

/** What others would pay at most for something that is bid for, from a floor up in steps. */
export interface Rivals {
  highest: Belief;
  /** The least bid that is taken. */
  floorMinor: number;
  stepMinor: number;
  /** How far others look at the same things: correlation of what they would pay with what the name turns out to be worth, 0 to 1. */
  affiliation: number;
}

/** A maximum bid and what may come of it. */
export interface BidOutlook {
  winChance: number;
  /** What is paid when it wins, on average; 0 when it cannot. */
  paidMinor: number;
}

/** An ascending auction: the highest maximum wins and pays a step over the second (Vickrey 1961), at least the floor and at most itself. */
export function outlookOf(bidMinor: number, { highest, floorMinor, stepMinor }: Rivals): BidOutlook {
  if (bidMinor < floorMinor) return { winChance: 0, paidMinor: 0 };
  const winChance = chanceBelow(highest, bidMinor);
  if (winChance <= 0) return { winChance: 0, paidMinor: 0 };
  const atFloor = chanceBelow(highest, floorMinor);
  const above = Math.max(0, partialMean(highest, bidMinor) - partialMean(highest, floorMinor));
  const paid = (floorMinor * atFloor + above + stepMinor * (winChance - atFloor)) / winChance;
  return { winChance, paidMinor: Math.min(bidMinor, Math.max(floorMinor, paid)) };
}

/**
 * What a name is worth when a bid on it wins: less than it seemed, since others who looked at it would not pay more (the winner's
 * curse, Capen, Clapp and Campbell 1971). Worth and the highest rival are jointly log-normal.
 */
export function worthIfWon(worth: Belief, bidMinor: number, { highest, affiliation }: Rivals): Belief {
  if (affiliation === 0 || highest.sigma === 0 || worth.sigma === 0) return worth;
  const z = Math.log(bidMinor / highest.medianMinor) / highest.sigma;
  const shift = affiliation * worth.sigma * normalMeanBelow(z);
  return { medianMinor: worth.medianMinor * Math.exp(shift), sigma: worth.sigma * Math.sqrt(1 - affiliation ** 2) };
}
