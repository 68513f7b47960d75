import { subjectClassifier } from './classifier';
import { cosine, type Terms } from './terms';

/** Words of a text, and the language they were read in. */
export interface Worded {
  terms: Terms;
  /** ISO 639-1; null: not told. */
  language: string | null;
}

/** Subjects this near are nothing in common: any two shops share some. */
const FAR_SUBJECTS = 0.35;
/** Of fewer words that tell a subject, only the words themselves are compared. */
const LEAST_TELLING = 3;
/** What a word counts that tells no subject. */
const PLAIN_WORD = 0.4;

/**
 * How much two texts are about the same, 0 to 1: the cosine of their words, those counting most that tell a subject, or that of the subjects that
 * their words speak for, whichever is more. So a site that is written anew is the same site, also in another language.
 */
export function alike(a: Worded, b: Worded): number {
  const classifier = subjectClassifier();
  const byWords = cosine(a.terms, b.terms, (word) => PLAIN_WORD + classifier.tellingOf(word, a.language));
  const [one, other] = [classifier.scoreOf(a), classifier.scoreOf(b)];
  if (one === null || other === null || one.known < LEAST_TELLING || other.known < LEAST_TELLING) return byWords;
  const bySubjects = angle(one.sums, other.sums);
  return Math.max(byWords, (bySubjects - FAR_SUBJECTS) / (1 - FAR_SUBJECTS));
}

/** Cosine of two vectors without negative numbers, the last class (texts that say nothing) left out. */
function angle(a: Float64Array, b: Float64Array): number {
  let dot = 0;
  let squaresA = 0;
  let squaresB = 0;
  for (let n = 0; n < a.length - 1; n++) {
    dot += a[n] * b[n];
    squaresA += a[n] ** 2;
    squaresB += b[n] ** 2;
  }
  return squaresA === 0 || squaresB === 0 ? 0 : dot / Math.sqrt(squaresA * squaresB);
}
