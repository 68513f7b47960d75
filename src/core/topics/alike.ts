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
/** From so many words on, subjects that are far apart outweigh words in common. */
const MUCH_TOLD = 12;
/** What a word counts that tells no subject: it may be a name, or any word. */
const PLAIN_WORD = 0.2;

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
  // words in common are by chance where the subjects are far from each other
  const isMuch = one.known >= MUCH_TOLD && other.known >= MUCH_TOLD;
  const chance = isMuch ? Math.min(1, bySubjects / FAR_SUBJECTS) : 1;
  return Math.max(byWords * chance, (bySubjects - FAR_SUBJECTS) / (1 - FAR_SUBJECTS));
}

/**
 * Cosine of what two texts speak for, the last class (texts that say nothing) left out; squared, since words of every text give a little to many
 * subjects.
 */
function angle(a: Float64Array, b: Float64Array): number {
  let dot = 0;
  let squaresA = 0;
  let squaresB = 0;
  for (let n = 0; n < a.length - 1; n++) {
    dot += (a[n] * b[n]) ** 2;
    squaresA += a[n] ** 4;
    squaresB += b[n] ** 4;
  }
  return squaresA === 0 || squaresB === 0 ? 0 : dot / Math.sqrt(squaresA * squaresB);
}
