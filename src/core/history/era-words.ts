import type { Terms } from '../topics/terms';
import type { Era, ReadCapture } from './past';

/** A word of an era, and how often its captures say it. */
export interface EraWord {
  word: string;
  times: number;
}

/**
 * The words that told what an era was about: those of its subject that its captures say, the most said first; where it has no subject,
 * what they say most.
 *
 * @param told words of the era's subject; empty: it has none.
 */
export function eraWords(
  era: Pick<Era, 'from' | 'to'>,
  captures: readonly Pick<ReadCapture, 'at' | 'terms'>[],
  told: ReadonlySet<string>,
  most: number,
): EraWord[] {
  const sums: Terms = new Map();
  for (const { at, terms } of captures)
    if (at >= era.from && at <= era.to)
      for (const [word, times] of terms)
        if (told.size === 0 || told.has(word)) sums.set(word, (sums.get(word) ?? 0) + times);
  return [...sums]
    .map(([word, times]) => ({ word, times }))
    .sort((a, b) => b.times - a.times || (a.word < b.word ? -1 : 1))
    .slice(0, most);
}
