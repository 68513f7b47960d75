import { AFTER, BEFORE } from '../src/core/ideas/lists';
import { type IdeaPattern, makeIdeas } from '../src/core/ideas/pattern';
import { runIdeas } from '../src/core/ideas/run';
import { numberForms } from '../src/core/names/number-forms';
import { SayabilityModel } from '../src/core/names/sayable';
import { pluralTwin } from '../src/core/names/spelling';
import { makeNameWords } from '../src/engine/pool/lexicons';
import { wordCounts } from '../src/engine/pool/splitter';
import { PLACES, SUBJECTS } from '../standins/words';
import { type Bench, round, sized } from './figure';

const IDEAS = sized('BENCH_IDEAS', 100_000, 5000);
const KEPT = 3000;
const GOAL_S = 5;

/** A hundred thousand names made from a pattern and judged, against making them alone. */
export const ideas: Bench = async (log) => {
  const words = SUBJECTS.flatMap(({ names }) => names);
  const slot = (list: readonly string[]) => ({
    title: 'own',
    words: list.map((word) => word.toLowerCase()),
    isOptional: false,
  });
  const pattern: IdeaPattern = {
    slots: [slot([...BEFORE, ...PLACES]), slot(words), slot(AFTER)],
    isAnyOrder: false,
    withTwins: true,
    joints: ['joined'],
    endings: ['org'],
    mostLetters: 40,
  };
  const counts = new Map(wordCounts().map(({ word, count }) => [word.toLowerCase(), Math.log1p(count)]));
  const judges = {
    splitter: makeNameWords([], words.flatMap(numberForms)),
    sayable: new SayabilityModel(wordCounts()),
    commonness: (word: string) => counts.get(word) ?? 0,
    briefWords: new Set(words.flatMap(numberForms)),
  };
  log(`a pattern of ${pattern.slots.map((one) => one.words.length).join(' × ')} words`);
  let started = performance.now();
  let bare = 0;
  for (const _ of makeIdeas(pattern, (word) => pluralTwin(word, [word]))) if (++bare === IDEAS) break;
  const bareS = (performance.now() - started) / 1000;
  started = performance.now();
  const steps = runIdeas(pattern, judges, IDEAS, KEPT);
  let step = steps.next();
  while (!step.done) step = steps.next();
  const seconds = (performance.now() - started) / 1000;
  if (step.value.made !== IDEAS || bare !== IDEAS) throw new Error(`only ${step.value.made} ideas were made`);
  return [
    { name: 'ideas', value: round(seconds, 2), unit: 's to make and judge 100,000 names', baseline: round(bareS, 2), ratio: round(seconds / bareS), goal: `${GOAL_S} s; baseline: making them alone`, met: seconds <= GOAL_S },
  ]; // biome-ignore format: a figure a line
};
