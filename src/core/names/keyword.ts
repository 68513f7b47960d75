import { compoundsOf } from './compounds';
import { foldLetters } from './lexicon';
import { numberForms } from './number-forms';

/** Plurals that an s makes owners of: childrens books. */
const OWNERS = /(?:men|children|people|geese|mice)$/;

/** How a keyword of one word may be written as a word of a name: in either number, and within compounds that are about it. */
export function wordsThatHold(keyword: string): string[] {
  const forms = numberForms(keyword).flatMap((form) => (OWNERS.test(form) ? [form, `${form}s`] : form));
  return [...new Set([...forms, ...forms.flatMap(compoundsOf)])];
}

/**
 * Whether a keyword stands in a name as a word of its own, as another number of it, or as part of a compound that is about it, and not only
 * as letters.
 *
 * @param words of the name, in order (Split.words).
 * @param keyword one word or several.
 */
export function standsAsWord(words: readonly string[], keyword: string): boolean {
  const plain = words.map((word) => foldLetters(word.toLowerCase()));
  const wanted = foldLetters(keyword.toLowerCase())
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();
  const parts = wanted.split(' ');
  const last = parts.at(-1) ?? '';
  if (last === '') return false;
  const before = parts.slice(0, -1).join('');
  const forms = new Set(numberForms(last).map((form) => before + form));
  if (parts.length === 1) {
    const holding = new Set(wordsThatHold(wanted));
    if (plain.some((word) => holding.has(word))) return true;
  }
  return plain.some((_, from) => plain.some((__, to) => to >= from && forms.has(plain.slice(from, to + 1).join(''))));
}
