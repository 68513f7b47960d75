import { numberForms } from '../names/number-forms';
import { AFTER, BEFORE } from './lists';
import type { IdeaPattern } from './pattern';

/** A name that is wanted and cannot be had, or is too dear. */
export interface WantedName {
  /** Words of its label, as it is read. */
  words: readonly string[];
  ending: string;
}

const MOST_WORDS = 3;
/** Words of the brief that may stand for one of the name. */
const MOST_OTHERS = 12;
const OTHER_ENDINGS = ['com', 'org', 'net'];
const LETTERS_MORE = 8;

/**
 * A pattern of what is nearest to a name: its words in both numbers, one of them changed for a word of the brief where it is itself one, the
 * last left out, with a word before or after, joined or with a hyphen, under its own ending and the commonest.
 *
 * @returns null when the name has no word that can stand in a label.
 */
export function patternNear({ words, ending }: WantedName, briefWords: readonly string[]): IdeaPattern | null {
  const own = words
    .map((word) => word.toLowerCase())
    .filter((word) => /^[a-z0-9]+$/.test(word))
    .slice(0, MOST_WORDS);
  if (own.length === 0) return null;
  const wanted = new Set(briefWords.flatMap((word) => numberForms(word.toLowerCase())));
  const others = briefWords.map((word) => word.toLowerCase()).filter((word) => /^[a-z0-9]+$/.test(word));
  const slots = own.map((word, n) => ({
    title: TITLE,
    words: [...new Set([word, ...numberForms(word), ...(wanted.has(word) ? others.slice(0, MOST_OTHERS) : [])])],
    // with a word left out it is another name; of two, either may go
    isOptional: own.length > 1 && n === own.length - 1,
  }));
  const before = { title: TITLE, words: BEFORE, isOptional: true };
  const after = { title: TITLE, words: AFTER, isOptional: true };
  return {
    // of a long name, what goes behind it is enough
    slots: [...(own.length < MOST_WORDS ? [before] : []), ...slots, after],
    isAnyOrder: false,
    withTwins: false,
    joints: ['joined', 'hyphen'],
    endings: [...new Set([ending, ...OTHER_ENDINGS])],
    mostLetters: Math.min(63, own.join('').length + LETTERS_MORE),
  };
}
/** What the slots of such a pattern are called where they are composed. */
const TITLE = 'words of my own';
