import { foldLetters } from './lexicon';
import { numberForms } from './number-forms';
import type { Splitter } from './word-split';

/** The other part of a compound that a keyword stands in is a word of so many letters, and not a rare one; the less so, the shorter. */
const LEAST_PART = 4;
const MOST_PART_COST = [11.5, 12.5, 13.5];
/** A word that is met oftener than this is one by itself, whatever it may be made of (cartridge). */
const LEAST_COMPOUND_COST = 8;
/** Words that end others without being part of them (friendship). */
const ENDINGS = new Set('ship ships hood less able like some ward wards wise'.split(' '));

/**
 * Whether a keyword stands in a name as a word of its own, as another number of it, or as part of a compound, and not only as letters.
 *
 * @param words of the name, in order (Split.words).
 * @param keyword one word or several.
 */
export function standsAsWord(words: readonly string[], keyword: string, splitter: Splitter): boolean {
  const plain = words.map((word) => foldLetters(word.toLowerCase()));
  const wanted = foldLetters(keyword.toLowerCase())
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();
  const parts = wanted.split(' ');
  const last = parts.at(-1) ?? '';
  if (last === '') return false;
  const forms = numberForms(last).map((form) => [...parts.slice(0, -1), form].join(''));
  for (let from = 0; from < plain.length; from++) {
    let joined = '';
    for (let to = from; to < plain.length; to++) {
      joined += plain[to];
      if (forms.includes(joined)) return true;
    }
  }
  return plain.some((word) => forms.some((form) => isCompoundOf(word, form, splitter)));
}

function isCompoundOf(word: string, form: string, splitter: Splitter): boolean {
  if (form.length < 3 || (ENDINGS.has(form) && word.endsWith(form)) || splitter.costOfWord(word) < LEAST_COMPOUND_COST)
    return false;
  const other = word.startsWith(form)
    ? word.slice(form.length)
    : word.endsWith(form)
      ? word.slice(0, -form.length)
      : '';
  const most = MOST_PART_COST[Math.min(other.length - LEAST_PART, MOST_PART_COST.length - 1)];
  return other.length >= LEAST_PART && splitter.costOfWord(other) < most;
}
