import type { Answer } from '../../contracts/calls';
import type { EnginePort } from '../../contracts/engine-port';
import { languageName } from '../../core/history/language-name';
import { registrableDomain } from '../../core/names/domain';
import { SUBJECTS, subjectSpokenOf } from '../../core/topics/subjects';
import { completionsOf, insteadOf, phrasesOf } from '../../core/typed-line/complete';
import { type LineVocabulary, readLine } from '../../core/typed-line/read-line';
import type { Store } from '../../store/base/database';
import { readRates } from '../../store/base/settings';
import { listTags } from '../../store/domains/marks';
import { listSources } from '../../store/sources/sources';

const MOST_COMPLETIONS = 8;
const MOST_INSTEAD = 3;
const MOST_VENUES = 500;
const LANGUAGES = 'en de fr es it nl pt pl sv da fi cs hu ro el tr ru uk ja zh ko ar'
  .split(' ')
  .map((code) => ({ code, name: languageName(code) }));
const USUAL_TLDS = 'com org net info de co.uk fr nl eu it es ch at be se dk pl io me biz ca com.au us'.split(' ');
const SUBJECT_TITLES = SUBJECTS.map(({ title }) => title).sort();

/** Reads a line as people type it, with the names that this pool knows, and says what its last words may become. */
export async function readTypedLine(
  store: Store,
  engine: EnginePort,
  text: string,
): Promise<Answer<'POST /pool/line'>> {
  const vocabulary: LineVocabulary = {
    isTld: (tld) => registrableDomain(`name.${tld}`)?.ending === tld,
    subjectOf: subjectSpokenOf,
    languages: LANGUAGES,
    venues: await engine.wordsOfChoice('venue', MOST_VENUES),
    tags: listTags(store),
    sources: listSources(store),
    currency: readRates(store).home,
    now: store.now(),
  };
  const { parts, sorts, unknown } = readLine(text, vocabulary);
  const phrases = phrasesOf(vocabulary, { tlds: USUAL_TLDS, subjects: SUBJECT_TITLES });
  return {
    parts,
    sorts,
    unknown: unknown.map((one) => ({
      ...one,
      instead: one.reason === null ? insteadOf(one.text, phrases, MOST_INSTEAD) : [],
    })),
    completions: completionsOf(text, phrases, MOST_COMPLETIONS),
  };
}
