import type { SayabilityModel } from '../names/sayable';
import { pluralTwin } from '../names/spelling';
import type { Splitter } from '../names/word-split';
import { Best } from './best';
import { type IdeaPattern, makeIdeas } from './pattern';
import { mostScore, type ScoredIdea, scoreIdea } from './score';

/** What ideas are judged by. */
export interface IdeaJudges {
  splitter: Splitter;
  sayable: SayabilityModel;
  /** Natural log of how often a word is met; 0 for one that is not. */
  commonness(word: string): number;
  /** Words of the brief, lower case, in both numbers. */
  briefWords: ReadonlySet<string>;
}

const PAUSE_EVERY = 2000;

/**
 * Makes and judges the ideas of a pattern, and keeps the best.
 *
 * @param most ideas made; more are not.
 * @yields how many were judged so far, now and then, so that who runs it can stop in between.
 */
export function* runIdeas(
  pattern: IdeaPattern,
  { splitter, sayable, commonness, briefWords }: IdeaJudges,
  most: number,
  kept: number,
): Generator<number, { best: ScoredIdea[]; made: number }> {
  const best = new Best<ScoredIdea>(kept);
  // words come again and again: said and counted once
  const known = new Map<string, { sum: number; letters: number; common: number }>();
  const knownOf = (word: string) => {
    let found = known.get(word);
    if (!found) {
      found = { sum: sayable.of([word]).score * word.length, letters: word.length, common: commonness(word) };
      known.set(word, found);
    }
    return found;
  };
  let made = 0;
  for (const idea of makeIdeas(pattern, (word) => pluralTwin(word, [word]))) {
    if (made >= most) break;
    made++;
    const words = idea.joint === 'overlap' ? [idea.label] : idea.words;
    let [sum, letters] = [0, 0];
    const commons: number[] = [];
    for (const word of words) {
      const one = knownOf(word);
      sum += one.sum;
      letters += one.letters;
    }
    for (const word of idea.words) commons.push(knownOf(word).common);
    const facts = { sayability: letters === 0 ? 0 : sum / letters, commonness: commons, briefWords };
    // what cannot come among the best however it reads need not be read
    if (mostScore(idea, facts) >= best.least)
      best.add(scoreIdea(idea, { ...facts, split: splitter.split(idea.label) }));
    if (made % PAUSE_EVERY === 0) yield made;
  }
  return { best: best.sorted(), made };
}
