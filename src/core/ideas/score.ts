import type { Split } from '../names/word-split';
import type { Idea } from './pattern';

/** What an idea is judged by; each from 0 to 1. */
export const IDEA_PARTS = ['sayable', 'short', 'plain', 'clear', 'subject'] as const;
export type IdeaPart = (typeof IDEA_PARTS)[number];

export const IDEA_TITLES: Record<IdeaPart, string> = {
  sayable: 'easily said',
  short: 'short',
  plain: 'of common words',
  clear: 'read as it was meant',
  subject: 'of the subject',
};

/** How much each counts. */
const WEIGHTS: Record<IdeaPart, number> = { sayable: 3, short: 3, plain: 2, clear: 4, subject: 3 };
const READ_AT_A_GLANCE = 8;
const TOO_LONG = 24;
/** Words that are met more often than this, in the natural log of their count, are common. */
const COMMON = 9;

/** What is known of a label beside its making. */
export interface IdeaFacts {
  /** 0 to 100. */
  sayability: number;
  split: Split;
  /** Natural log of how often each of its words is met. */
  commonness: readonly number[];
  /** Words of the brief. */
  briefWords: ReadonlySet<string>;
}

export interface ScoredIdea extends Idea {
  /** 0 to 100. */
  score: number;
  parts: Record<IdeaPart, number>;
  /** What it reads as, where that is not what it was made from; null: it reads as meant. */
  readsAs: string | null;
}

const clip = (value: number) => Math.max(0, Math.min(1, value));

/** What an idea would score at most, read as it was meant: for leaving out the reading, which takes the longest. */
export function mostScore(idea: Idea, facts: Omit<IdeaFacts, 'split'>): number {
  return meanOf({ ...plainParts(idea, facts), clear: 1 }, facts.briefWords);
}

/** Judges an idea: the mean of its parts by their weights, and held down where it reads as something else. */
export function scoreIdea(idea: Idea, facts: IdeaFacts): ScoredIdea {
  const { label, words, joint } = idea;
  const { split } = facts;
  const meant = joint === 'overlap' ? null : words.join(' ');
  const reads = split.words.join(' ');
  // an overlap has no reading that was meant: it is clear where both words can be seen in it
  const isClear = meant === null ? words.every((word) => label.includes(word.slice(0, 3))) : reads === meant;
  const clear = isClear ? (joint === 'overlap' ? 0.6 : 0.5 + 0.5 * split.confidence) : 0;
  const parts = { ...plainParts(idea, facts), clear };
  return { ...idea, parts, score: meanOf(parts, facts.briefWords), readsAs: isClear ? null : reads };
}

function plainParts(
  { label, words }: Idea,
  { sayability, commonness, briefWords }: Omit<IdeaFacts, 'split'>,
): Omit<Record<IdeaPart, number>, 'clear'> {
  let hyphens = 0;
  let hasDigits = false;
  for (let n = 0; n < label.length; n++) {
    const code = label.charCodeAt(n);
    if (code === 45) hyphens++;
    else if (code < 58) hasDigits = true;
  }
  const short = clip(1 - (label.length - READ_AT_A_GLANCE) / (TOO_LONG - READ_AT_A_GLANCE));
  let common = 0;
  for (const one of commonness) common += Math.min(1, one / COMMON);
  return {
    sayable: clip(sayability / 100),
    short: short * 0.6 ** hyphens * (hasDigits ? 0.6 : 1),
    plain: clip(common / Math.max(1, commonness.length)),
    subject: words.some((word) => briefWords.has(word)) ? 1 : 0,
  };
}

function meanOf(parts: Record<IdeaPart, number>, briefWords: ReadonlySet<string>): number {
  let [sum, weights] = [0, 0];
  for (const part of IDEA_PARTS) {
    if (part === 'subject' && briefWords.size === 0) continue;
    sum += WEIGHTS[part] * parts[part];
    weights += WEIGHTS[part];
  }
  return Math.round((1000 * sum) / weights) / 10;
}
