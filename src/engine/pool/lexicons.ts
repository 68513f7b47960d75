import { LEXICON_LANGUAGES, type Lexicon, type LexiconLanguage } from '../../core/names/lexicon';
import { unpackLexicon } from '../../core/names/lexicon-file';
import { NameWords } from '../../core/names/name-words';
import { WordSplitter } from '../../core/names/word-split';
import { readTable } from '../../store/base/tables';

const read = new Map<LexiconLanguage, Lexicon>();

/** Words of a language, read when first asked for (`tables/`, docs/data.md). */
export function lexiconOf(language: LexiconLanguage): Lexicon {
  let lexicon = read.get(language);
  if (!lexicon) {
    lexicon = unpackLexicon(readTable(`words-${language}`));
    read.set(language, lexicon);
  }
  return lexicon;
}

/**
 * Knows the words of names in English and the languages asked for.
 *
 * @param languages ISO 639-1; those without a table are passed over.
 * @param given words taken for common ones.
 * @param others languages that are taken for names that suit them much better.
 */
export function makeNameWords(
  languages: readonly string[],
  given: readonly string[] = [],
  others: readonly LexiconLanguage[] = [],
): NameWords {
  const asked = new Set<LexiconLanguage>(['en', ...LEXICON_LANGUAGES.filter((one) => languages.includes(one))]);
  return new NameWords(
    new Map([...new Set([...asked, ...others])].map((one) => [one, new WordSplitter(lexiconOf(one), given)])),
    asked,
    languages.length === 0 ? 'none' : 'some',
  );
}

const kept = new Map<string, NameWords>();

/** As makeNameWords, of all languages: those asked for first. The same for the same languages. */
export function nameWordsFor(languages: readonly string[]): NameWords {
  const key = [...languages].sort().join();
  const words = kept.get(key) ?? makeNameWords(languages, [], LEXICON_LANGUAGES);
  kept.set(key, words);
  return words;
}
