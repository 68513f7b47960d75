import { rangeAround, type WorthAssumptions, type WorthRange } from './assumptions';

/** A phrase that a site is found by, as some source estimates it. */
export interface Ranking {
  phrase: string;
  /** Place among the results, from 1. */
  position: number;
  /** Searches a month. */
  searches: number;
  /** What a visit by this phrase costs to buy, in minor units. */
  clickMinor: number;
  /** How many want to be found by it, 0 to 1; null: not known. */
  competition: number | null;
}

/** What became of the site. */
export interface SiteState {
  /** Years since it was last seen with its content; 0: it still is. */
  yearsOff: number;
  /** 0: the last site was the main one; 1: another altogether. */
  drift: number;
}

export interface PhraseWorth extends Ranking {
  /** Visits a month when it was on line. */
  visits: number;
  /** Of those, what is thought to come back. */
  keptVisits: number;
  /** What those would cost to buy in a month, minor units. */
  monthMinor: number;
}

export interface RebuildWorth extends WorthRange {
  phrases: PhraseWorth[];
  visits: number;
  keptVisits: number;
  monthMinor: number;
  /** What is left by time off line, and by drift; 0 to 1. */
  byTime: number;
  byDrift: number;
}

/** Visits of others are estimates of estimates: the range is wide. */
const SPREAD = 2.2;

/**
 * What a site's visits would cost to buy, if it were brought back: for each phrase its searches, the share that its place gets, what is
 * lost by time off line (exponential decay), by drift and by competition, times the price of a visit, over the months that count.
 *
 * @returns null when no phrase is known.
 */
export function rebuildWorth(
  rankings: readonly Ranking[],
  { yearsOff, drift }: SiteState,
  assumed: WorthAssumptions,
): RebuildWorth | null {
  if (rankings.length === 0) return null;
  const byTime = 0.5 ** (Math.max(0, yearsOff) / assumed.halfLifeYears);
  const byDrift = 1 - Math.min(1, Math.max(0, drift));
  const phrases = rankings.map((ranking): PhraseWorth => {
    const { position, searches, clickMinor, competition } = ranking;
    const visits = searches * clickShare(position, assumed.firstClickPercent / 100);
    const byOthers = 1 - (assumed.competitionPercent / 100) * (competition ?? 0.5);
    const keptVisits = visits * byTime * byDrift * byOthers;
    return { ...ranking, visits, keptVisits, monthMinor: keptVisits * clickMinor };
  });
  phrases.sort((a, b) => b.monthMinor - a.monthMinor || a.phrase.localeCompare(b.phrase));
  const sum = (of: (phrase: PhraseWorth) => number) => phrases.reduce((total, phrase) => total + of(phrase), 0);
  const monthMinor = sum((phrase) => phrase.monthMinor);
  return {
    phrases,
    visits: sum((phrase) => phrase.visits),
    keptVisits: sum((phrase) => phrase.keptVisits),
    monthMinor,
    byTime,
    byDrift,
    ...rangeAround(monthMinor * assumed.earningMonths, SPREAD),
  };
}

/** The share of searches that click a place: that of the first over the place, as in Zipf's law; nothing beyond the first hundred. */
export function clickShare(position: number, first: number): number {
  return position < 1 || position > 100 ? 0 : first / position;
}
