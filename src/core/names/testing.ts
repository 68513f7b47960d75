import { Lexicon } from './lexicon';
import { type WordCount, WordSplitter } from './word-split';

/** What a word of one, two or three letters costs on top. */
export const SHORT = [0, 7, 4.5, 1.2];

/** A splitter of words with their counts, as tests of other rooms have them. */
export function splitterOf(counts: readonly WordCount[], given: readonly string[] = []): WordSplitter {
  const total = counts.reduce((sum, { count }) => sum + count, 0);
  const words = new Map<string, number>();
  for (const { word, count } of counts) {
    const lower = word.toLowerCase();
    if (!/^([a-z]{2,24}|[ai])$/.test(lower)) continue;
    const cost = -Math.log(count / total) + (SHORT[lower.length] ?? 0);
    words.set(lower, Math.min(cost, words.get(lower) ?? cost));
  }
  const sorted = [...words].sort(([a], [b]) => (a < b ? -1 : 1));
  return new WordSplitter(
    Lexicon.of(
      sorted.map(([word]) => word),
      sorted.map(([, cost]) => cost),
    ),
    given,
  );
}
