import { FIT_PARTS, type FitPart, type FitWeights, fitOf, type PartValue } from '../fit/fit';

/** A domain that somebody decided on, with the parts of its fit. */
export interface Decided {
  parts: readonly PartValue[];
  isKept: boolean;
}

export interface WeightLesson {
  weights: FitWeights;
  /** Parts whose weight changed, with both. */
  changed: { part: FitPart; from: number; to: number }[];
  kept: number;
  passed: number;
  /** How many of 100 pairs of a kept and a passed domain were in the right order, by the weights as they are. */
  before: number;
  /** The same with the new ones, on domains that they were not learned from. */
  after: number;
}

const STEPS = [-3, -1.5, 1.5, 3];
const ROUNDS = 6;
const FOLDS = 5;
const LEAST_OF_EACH = 8;
const LEAST_DECIDED = 25;
/** Less gained is chance. */
const LEAST_GAIN = 0.03;
/** A gain is believed that is so many standard errors wide. */
const SURE_BY = 2.5;
/** Every point that a weight is moved has to earn so much. */
const COST_OF_MOVING = 0.0015;

/**
 * Weights of a fit under which what was kept stands above what was passed: coordinate ascent on the area under the curve (Hanley and
 * McNeil 1982) from the weights as they are, moving them as little as will do. Judged in five parts, each on weights learned without it.
 *
 * @returns null where too few were decided, or nothing is gained.
 */
export function learnWeights(decided: readonly Decided[], weights: FitWeights): WeightLesson | null {
  const kept = decided.filter(({ isKept }) => isKept).length;
  const passed = decided.length - kept;
  if (decided.length < LEAST_DECIDED || kept < LEAST_OF_EACH || passed < LEAST_OF_EACH) return null;
  const scored: { score: number; isKept: boolean; fold: number }[] = [];
  const asTheyAre = decided.map((one, n) => ({ score: scoreOf(one, weights), isKept: one.isKept, fold: n % FOLDS }));
  const before = meanArea(asTheyAre);
  for (let fold = 0; fold < FOLDS; fold++) {
    const others = decided.filter((_, n) => n % FOLDS !== fold);
    const learned = climb(others, weights);
    for (const [n, one] of decided.entries())
      if (n % FOLDS === fold) scored.push({ score: scoreOf(one, learned), isKept: one.isKept, fold });
  }
  const after = meanArea(scored);
  if (after < before + Math.max(LEAST_GAIN, SURE_BY * errorOf(after, kept, passed))) return null;
  const learned = climb(decided, weights);
  return {
    weights: learned,
    changed: FIT_PARTS.filter((part) => learned[part] !== weights[part]).map((part) => ({
      part,
      from: weights[part],
      to: learned[part],
    })),
    kept,
    passed,
    before,
    after,
  };
}

/** Standard error of an area under the curve (Hanley and McNeil 1982, equation 1). */
function errorOf(area: number, kept: number, passed: number): number {
  const q1 = area / (2 - area);
  const q2 = (2 * area ** 2) / (1 + area);
  const spread = area * (1 - area) + (kept - 1) * (q1 - area ** 2) + (passed - 1) * (q2 - area ** 2);
  return Math.sqrt(Math.max(0, spread) / (kept * passed));
}

/** Pairs in the right order of those within a part, over all parts: scores of different weights are not held against each other. */
function meanArea(scored: readonly { score: number; isKept: boolean; fold: number }[]): number {
  let [sum, pairs] = [0, 0];
  for (let fold = 0; fold < FOLDS; fold++) {
    const own = scored.filter((one) => one.fold === fold);
    const kept = own.filter(({ isKept }) => isKept).length;
    const count = kept * (own.length - kept);
    if (count === 0) continue;
    sum += area(own) * count;
    pairs += count;
  }
  return pairs === 0 ? 0.5 : sum / pairs;
}

function climb(decided: readonly Decided[], start: FitWeights): FitWeights {
  let best = { ...start };
  let value = worthOf(decided, best, start);
  for (let round = 0; round < ROUNDS; round++) {
    const before = value;
    for (const part of FIT_PARTS)
      for (const step of STEPS) {
        const next = { ...best, [part]: Math.min(10, Math.max(0, best[part] + step)) };
        const reached = worthOf(decided, next, start);
        if (reached > value) [best, value] = [next, reached];
      }
    if (value - before < 1e-6) break;
  }
  return best;
}

function worthOf(decided: readonly Decided[], weights: FitWeights, start: FitWeights): number {
  const moved = FIT_PARTS.reduce((sum, part) => sum + Math.abs(weights[part] - start[part]), 0);
  return areaOf(decided, weights) - COST_OF_MOVING * moved;
}

const scoreOf = ({ parts }: Decided, weights: FitWeights) => fitOf(parts, weights).score ?? 0;

/** Share of pairs in which the kept one has the higher score; halves for equal ones. */
export function areaOf(decided: readonly Decided[], weights: FitWeights): number {
  return area(decided.map((one) => ({ score: scoreOf(one, weights), isKept: one.isKept })));
}

function area(scored: readonly { score: number; isKept: boolean }[]): number {
  const sorted = [...scored].sort((a, b) => a.score - b.score);
  let [rankSum, kept] = [0, 0];
  for (let from = 0; from < sorted.length; ) {
    let to = from;
    while (to < sorted.length && sorted[to].score === sorted[from].score) to++;
    const rank = (from + 1 + to) / 2;
    for (let n = from; n < to; n++)
      if (sorted[n].isKept) {
        rankSum += rank;
        kept++;
      }
    from = to;
  }
  const pairs = kept * (sorted.length - kept);
  return pairs === 0 ? 0.5 : (rankSum - (kept * (kept + 1)) / 2) / pairs;
}
