import { cosine, type Terms } from './terms';
import trained from './trained.json';

/** Words that were not counted are taken for as rare as the rarest that were. */
const counts = new Map(Object.entries(trained.general as Record<string, number>));
const rarest = Math.max(1, Math.min(trained.texts, ...counts.values()));
const LEAST_TELLING = 0.05;

/** How much a word tells: the logarithm of how many texts there are to one that has it (inverse document frequency, Sparck Jones 1972). */
function tells(word: string): number {
  return Math.max(LEAST_TELLING, Math.log(Math.max(2, trained.texts) / (counts.get(word) ?? rarest)));
}

/** How much two texts are about the same, 0 to 1: the cosine of their words, what is in texts of every kind counting little. */
export function alike(a: Terms, b: Terms): number {
  return cosine(a, b, tells);
}
