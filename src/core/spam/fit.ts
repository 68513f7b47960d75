import { reach, SPAM_RULES } from './rules';
import type { SpamPoints } from './scorecard';
import { SPAM_FROM } from './threshold';

/** A domain of which it is known what it is. */
export interface SpamExample {
  /** Measured values by rule; null: too little to measure. */
  values: Record<string, number | null>;
  isSpam: boolean;
  /** How much it counts; absent: 1. */
  weight?: number;
}

export interface FitOptions {
  /** Strength of the regularisation, in examples: how many it takes to move a weight far. */
  ridge: number;
  /** Points to stay near to; absent: none. */
  near?: SpamPoints;
}

export const FIT_DEFAULTS: FitOptions = { ridge: 2 };

const STEPS = 4000;
/** Log odds at which nothing speaks for spam: the sum of points is 0 there, and SPAM_FROM where the odds are even. */
const LEAST_BASE = -2;

/**
 * Fits the points of the rules on examples: logistic regression on how far each value has come from where its rule begins to where it is
 * full, with a ridge around the given points (or none), and no weight below zero, since no rule speaks for innocence (projected gradient
 * descent; Hastie, Tibshirani and Friedman 2009, sections 4.4 and 3.4). Spam and clean count alike, however many there are of each. Log
 * odds are put on the scale on which the base is 0 and even odds are 50.
 *
 * @throws RangeError when the examples are all of one kind.
 */
export function fitPoints(
  examples: readonly SpamExample[],
  fittedOn: string,
  options: Partial<FitOptions> = {},
): SpamPoints {
  const { ridge, near } = { ...FIT_DEFAULTS, ...options };
  const spam = examples.filter(({ isSpam }) => isSpam).length;
  if (spam === 0 || spam === examples.length) throw new RangeError('points are fitted on spam and clean alike');
  const rows = examples.map(({ values, isSpam, weight = 1 }) => ({
    reached: SPAM_RULES.map((rule) => reach(rule, values[rule.id] ?? null)),
    isSpam,
    weight: (weight * examples.length) / (2 * (isSpam ? spam : examples.length - spam)),
  }));
  const centre = SPAM_RULES.map(({ id }) => (near ? (near.points[id] * -NEAR_BASE) / SPAM_FROM : 0));
  const weights = [...centre];
  let base = near ? NEAR_BASE : LEAST_BASE;
  const rate = 1 / (0.25 * (SPAM_RULES.length + 1) + ridge / examples.length);
  for (let step = 0; step < STEPS; step++) {
    const slope = weights.map((weight, n) => (ridge * (weight - centre[n])) / examples.length);
    let baseSlope = 0;
    for (const { reached, isSpam, weight } of rows) {
      let odds = base;
      for (let n = 0; n < reached.length; n++) odds += weights[n] * reached[n];
      const miss = (weight * (1 / (1 + Math.exp(-odds)) - (isSpam ? 1 : 0))) / examples.length;
      baseSlope += miss;
      for (let n = 0; n < reached.length; n++) slope[n] += miss * reached[n];
    }
    for (let n = 0; n < weights.length; n++) {
      const most = ((SPAM_RULES[n].most ?? Number.POSITIVE_INFINITY) * -base) / SPAM_FROM;
      weights[n] = Math.min(most, Math.max(0, weights[n] - rate * slope[n]));
    }
    if (!near) base = Math.min(LEAST_BASE, base - rate * baseSlope);
  }
  const scale = SPAM_FROM / -base;
  return {
    points: Object.fromEntries(SPAM_RULES.map(({ id }, n) => [id, Math.round(weights[n] * scale * 10) / 10])),
    fittedOn,
  };
}

/** Base that points are taken back to log odds with: what the shipped ones were fitted with lies near it. */
const NEAR_BASE = -3;

export interface FitReport {
  examples: number;
  spam: number;
  /** Area under the ROC curve: chance that a spam has a higher risk than a clean one, ties half (Hanley and McNeil 1982). */
  area: number;
  /** Clean ones that are called spam, and spam that is not, as shares. */
  falseAlarms: number;
  missed: number;
}

/** How well risks tell spam from clean. @param cases risk 0 to 100 and what it is. */
export function judgeRisks(cases: readonly { risk: number; isSpam: boolean }[]): FitReport {
  const spam = cases.filter(({ isSpam }) => isSpam).map(({ risk }) => risk);
  const clean = cases.filter(({ isSpam }) => !isSpam).map(({ risk }) => risk);
  const sorted = [...clean].sort((a, b) => a - b);
  let wins = 0;
  for (const risk of spam) {
    const below = lowerBound(sorted, risk);
    wins += below + (lowerBound(sorted, risk + 1e-9) - below) / 2;
  }
  const share = (part: number, whole: number) => (whole === 0 ? 0 : part / whole);
  return {
    examples: cases.length,
    spam: spam.length,
    area: share(wins, spam.length * clean.length),
    falseAlarms: share(clean.filter((risk) => risk >= SPAM_FROM).length, clean.length),
    missed: share(spam.filter((risk) => risk < SPAM_FROM).length, spam.length),
  };
}

/** Place of the first value that is not below. */
function lowerBound(sorted: readonly number[], value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle] < value) low = middle + 1;
    else high = middle;
  }
  return low;
}
