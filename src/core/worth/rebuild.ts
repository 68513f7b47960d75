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
  /** Whether a phrase is the name of who had the site, rather than of what it is about. */
  isOwnName(phrase: string): boolean;
}

export interface PhraseWorth extends Ranking {
  /** Visits a month when it was on line. */
  visits: number;
  /** It asks for the old owner by his name: who comes wants him, and goes again. */
  isOwnName: boolean;
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
  { yearsOff, drift, isOwnName: asksForOwner }: SiteState,
  assumed: WorthAssumptions,
): RebuildWorth | null {
  if (rankings.length === 0) return null;
  const byTime = 0.5 ** (Math.max(0, yearsOff) / assumed.halfLifeYears);
  const byDrift = 1 - Math.min(1, Math.max(0, drift));
  const phrases = rankings.map((ranking): PhraseWorth => {
    const { phrase, position, searches, clickMinor, competition } = ranking;
    const visits = searches * clickShare(position, assumed.firstClickPercent / 100);
    const byOthers = 1 - (assumed.competitionPercent / 100) * (competition ?? 0.5);
    const isOwnName = asksForOwner(phrase);
    const byName = isOwnName ? assumed.ownNamePercent / 100 : 1;
    const keptVisits = visits * byTime * byDrift * byOthers * byName;
    return { ...ranking, visits, isOwnName, keptVisits, monthMinor: keptVisits * clickMinor };
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

/**
 * Clicks on a place over those on the first, as counted in three months of a search engine's log (Pass, Chowdhury and Torgeson 2006, "A Picture of
 * Search"; the first page as Joachims and others 2005 found it by eye tracking): the first page gets nine tenths of all clicks, the second a
 * twentieth of that, later ones next to nothing.
 */
const CLICKS = [
  42.13, 11.9, 8.5, 6.06, 4.92, 4.05, 3.41, 3.01, 2.85, 2.99, 0.66, 0.56, 0.52, 0.48, 0.47, 0.39, 0.36, 0.34, 0.32, 0.3, 0.29, 0.25, 0.24,
  0.23, 0.22, 0.22, 0.21, 0.21, 0.2, 0.2,
]; // biome-ignore format: a row
/** From the fourth page to the tenth. */
const LATER_CLICKS = 0.03;

/** The share of searches that click a place, 0 to 1; nothing beyond the first hundred. @param first that of the first place. */
export function clickShare(position: number, first: number): number {
  if (position < 1 || position > 100) return 0;
  return (first * (CLICKS[Math.floor(position) - 1] ?? LATER_CLICKS)) / CLICKS[0];
}

/**
 * Tells phrases that ask for a name by itself: all of the label said in words, with a word that is no word of any subject ("ossenmere bee club",
 * not "car hire" where the name is carhire).
 *
 * @param label the name before its ending.
 * @param isKnown whether a word is one that people use of anything.
 */
export function ownNameTeller(label: string, isKnown: (word: string) => boolean): (phrase: string) => boolean {
  const own = label.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
  return (phrase) => {
    const words = phrase.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
    const said = words.join('');
    const coined = words.filter((word) => word.length >= LEAST_COINED && !isKnown(word));
    if (said.includes(own) && own.length >= LEAST_COINED && coined.length > 0) return true;
    return coined.some((word) => own.includes(word));
  };
}
const LEAST_COINED = 5;
