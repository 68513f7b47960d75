/** Words of a text with how often each occurs: lower case, singular where the rules of English give it. */
export type Terms = Map<string, number>;

const WORD = /\p{L}[\p{L}\p{M}'’-]*/gu;
/** What is read of a text; a page of more is cut. */
const MOST_CHARS = 200_000;
const LONGEST_WORD = 40;

const STOP_WORDS = new Set(
  `a about after again all also am an and any are as at be because been before being between both but by can could did do does
  doing down during each few for from further had has have having he her here hers him his how i if in into is it its just me more
  most my no nor not now of off on once only or other our ours out over own same she should so some such than that the their them
  then there these they this those through to too under until up very was we were what when where which while who whom why will
  with would you your yours www http https com org net html page site website click here home welcome contact copyright rights
  reserved`.split(/\s+/),
);

/**
 * Counts the words of a text, stop words left out.
 *
 * @param text visible text; at most 200,000 characters are read.
 */
export function termsOf(text: string): Terms {
  const terms: Terms = new Map();
  for (const [found] of text.slice(0, MOST_CHARS).toLowerCase().matchAll(WORD)) {
    if (found.length < 3 || found.length > LONGEST_WORD || STOP_WORDS.has(found)) continue;
    const term = singular(found);
    terms.set(term, (terms.get(term) ?? 0) + 1);
  }
  return terms;
}

/** Number of words that count, with repeats. */
export function sizeOf(terms: Terms): number {
  let size = 0;
  for (const count of terms.values()) size += count;
  return size;
}

/** The commonest words of a text, most often used first; ties in the order of the alphabet. */
export function mainWords(terms: Terms, many: number): string[] {
  return [...terms]
    .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
    .slice(0, many)
    .map(([word]) => word);
}

/** The singular by the regular rules; words that only look like plurals stay. */
export function singular(word: string): string {
  if (/['’]$/.test(word)) return singular(word.slice(0, -1));
  if (/['’]s$/.test(word)) return word.slice(0, -2);
  if (word.length < 4 || !word.endsWith('s') || /(ss|us|is)$/.test(word)) return word;
  if (/[^aeiou]ies$/.test(word) && word.length > 4) return `${word.slice(0, -3)}y`;
  if (/(?:[sxz]|[cs]h)es$/.test(word)) return word.slice(0, -2);
  return word.slice(0, -1);
}

/**
 * Cosine of the angle between two texts as vectors of words, each weighted 1 + ln of its count times what it tells (Salton and Buckley
 * 1988): 0 no word in common, 1 the same words in the same measure. Two empty texts are alike.
 *
 * @param tells weight of a word; absent: all alike.
 */
export function cosine(a: Terms, b: Terms, tells: (word: string) => number = () => 1): number {
  if (a.size === 0 || b.size === 0) return a.size === b.size ? 1 : 0;
  let dot = 0;
  for (const [word, count] of a) {
    const other = b.get(word);
    if (other !== undefined) dot += damped(count) * damped(other) * tells(word) ** 2;
  }
  return dot / Math.sqrt(squares(a, tells) * squares(b, tells));
}

const damped = (count: number) => 1 + Math.log(count);

function squares(terms: Terms, tells: (word: string) => number): number {
  let sum = 0;
  for (const [word, count] of terms) sum += (damped(count) * tells(word)) ** 2;
  return sum;
}
