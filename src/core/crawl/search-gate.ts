import { stemmer } from 'stemmer';
import { subjectClassifier } from '../topics/classifier';
import { subjectTitle } from '../topics/subjects';
import { termsOf } from '../topics/terms';
import type { Gate } from './search-gates';

/** What a search was for. */
export interface Wanted {
  /** The phrase that brought the result. */
  phrase: string;
  /** Subject words of the brief; none: the phrases alone say what is wanted. */
  briefWords: readonly string[];
}

/** A page as text; or why it could not be read. */
export type Seen = { title: string; text: string } | string;

export interface GateVerdict {
  gate: Gate;
  /** In words, for the person who decides. */
  because: string;
}

/** A subject is believed from this confidence on. */
const LEAST_CONFIDENCE = 0.5;
/** A phrase that stands so often in a text is what the text is about. */
const OFTEN = 3;
/** So many different words of the brief, each met twice, speak for a site. */
const BRIEF_WORDS = 2;
/** Words that no phrase is about. */
const SMALL_WORDS = new Set('a an and at by for from in of on or the to with your our best top'.split(' '));
const LONGEST_TEXT = 100_000;
/** Endings that German, French, Spanish, Dutch and Italian put on a word. */
const ENDINGS = new Set(['', 's', 'e', 'n', 'en', 'er', 'es', 'em', 'ei', 'in', 'x', 'i', 'a', 'o', 'as', 'os']);
const LEAST_SHARED = 5;
/** A subject speaks for a text when so many different words of it stand there, and are so large a part of it. */
const SUBJECT_WORDS = 4;
const SUBJECT_SHARE = 0.1;
/** A word tells a subject when it is e times likelier there, at least. */
const TELLING = 1;
/** The verdict names no more words than that. */
const MOST_COUNTED = 8;

/**
 * Decides how much of a result's site is read. A site passes whole when its home page is about what is wanted: by its subject, by the
 * brief's words, or by the words of the phrase in any form, in the title or again and again. One mention on an all-purpose site is read for
 * the page that was found; where neither speaks of it nothing is read.
 */
export function gateOf(home: Seen, page: Seen, wanted: Wanted): GateVerdict {
  if (typeof home !== 'string') {
    const because = whyAbout(home, wanted, true);
    if (because) return { gate: 'site', because: `its home page ${because}` };
  }
  const unread =
    typeof home === 'string' ? `its home page was not read: ${home}` : 'its home page is about something else';
  if (typeof page === 'string') return { gate: 'none', because: `${unread}; the page was not read: ${page}` };
  const because = whyAbout(page, wanted, false);
  if (because) return { gate: 'page', because: `${unread}, the page ${because}` };
  return { gate: 'none', because: `${unread}, and the page does not speak of it either` };
}

/** Why a text is about what is wanted; null: it is not. @param isWhole whether a whole site is to be judged by it: a mention is not enough. */
function whyAbout(
  { title, text }: { title: string; text: string },
  { phrase, briefWords }: Wanted,
  isWhole: boolean,
): string | null {
  const words = wordsOf(`${title} ${text.slice(0, LONGEST_TEXT)}`);
  const titleWords = new Set(wordsOf(title));
  const stems = stemsIn(phrase);
  const counts = stems.map((stem) => words.filter((word) => isForm(word, stem)).length);
  const inTitle = stems.length > 0 && stems.every((stem) => [...titleWords].some((word) => isForm(word, stem)));
  if (inTitle) return `has "${phrase}" in its title`;
  const least = stems.length === 0 ? 0 : Math.min(...counts);
  if (least >= OFTEN) return `speaks of "${phrase}" ${least} times`;
  const subject = sameSubject(`${title} ${text}`, [phrase, ...briefWords]);
  if (subject) return `is about ${subject}`;
  const met = briefWords.filter((word) => countOf(words, word) >= 2);
  if (met.length >= Math.min(BRIEF_WORDS, Math.max(1, briefWords.length)) && briefWords.length > 0)
    return `speaks of ${met.slice(0, 3).join(', ')}, as the brief does`;
  if (least > 0 && (!isWhole || briefWords.some((word) => countOf(words, word) > 0)))
    return isWhole ? `speaks of "${phrase}" and of the brief’s words` : `speaks of "${phrase}"`;
  return null;
}

function countOf(words: readonly string[], phrase: string): number {
  const stems = stemsIn(phrase);
  return stems.length === 0 ? 0 : Math.min(...stems.map((stem) => words.filter((word) => isForm(word, stem)).length));
}

/** The subject that a text shares with what is wanted; null: none that is sure. */
function sameSubject(text: string, wanted: readonly string[]): string | null {
  const classifier = subjectClassifier();
  const sought = classifier.classifyName(wanted.flatMap((words) => wordsOf(words)));
  if (sought.subject === null || sought.confidence < LEAST_CONFIDENCE) return null;
  const terms = termsOf(text);
  const found = classifier.classify(terms, null);
  const telling = found.words.filter(({ weight }) => weight >= TELLING).length;
  const isMuch = telling >= Math.max(SUBJECT_WORDS, Math.min(MOST_COUNTED, SUBJECT_SHARE * terms.size));
  return isMuch && found.subject === sought.subject && found.confidence >= LEAST_CONFIDENCE
    ? (subjectTitle(found.subject)?.toLowerCase() ?? null)
    : null;
}

const wordsOf = (text: string): string[] => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];

const stemsIn = (phrase: string): string[] => wordsOf(phrase).filter((word) => !SMALL_WORDS.has(word));

/**
 * Whether a word is a form of another: one stem by Porter's rules (Porter 1980), or, for other languages, the same beginning with endings
 * that bend it.
 */
export function isForm(word: string, of: string): boolean {
  if (word === of || stemmer(word) === stemmer(of)) return true;
  let shared = 0;
  while (shared < word.length && word[shared] === of[shared]) shared++;
  return shared >= LEAST_SHARED && ENDINGS.has(word.slice(shared)) && ENDINGS.has(of.slice(shared));
}
