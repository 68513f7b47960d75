import type { NameReading, NameSaid } from '../../contracts/names';
import { registrableDomain } from '../../core/names/domain';
import { SayabilityModel } from '../../core/names/sayable';
import { pluralTwin, spellingRisks } from '../../core/names/spelling';
import type { Splitter } from '../../core/names/word-split';
import { remember } from '../../core/remember';
import { subjectClassifier } from '../../core/topics/classifier';
import { subjectTitle } from '../../core/topics/subjects';
import { wordCounts } from './splitter';

/** Names that are looked at again and again on the screens. */
const MOST_REMEMBERED = 20_000;

/** The same in short, for a row of the grid. */
export function sayOfName(words: readonly string[]): NameSaid {
  return saidOf(words.join(' '));
}

const saidOf = remember((text): NameSaid => {
  const words = text === '' ? [] : text.split(' ');
  sayable ??= new SayabilityModel(wordCounts());
  return { sayability: sayable.of(words).score, subject: subjectOfWords(words) };
}, MOST_REMEMBERED);

/** Title of the subject that the words of a name tell; null: none that shows. */
export function subjectOfWords(words: readonly string[]): string | null {
  const subject = subjectClassifier().nameSubject(words);
  return subject === null ? null : subjectTitle(subject);
}

let sayable: SayabilityModel | null = null;

/** The subject that each name tells by its words, `area.subject`; null: none that shows, or it is no domain. */
export function subjectsOfNames(names: readonly string[], splitter: Splitter): (string | null)[] {
  return names.map((name) => {
    const domain = registrableDomain(name);
    if (!domain) return null;
    const { words } = splitter.split(domain.name.slice(0, domain.name.length - domain.ending.length - 1));
    return subjectClassifier().nameSubject(words);
  });
}

/** Reads a name: its words, how it is said and written, and what its words are about. */
export function readName(name: string, ending: string, splitter: Splitter): NameReading {
  const label = name.slice(0, name.length - ending.length - 1);
  const split = splitter.split(label);
  sayable ??= new SayabilityModel(wordCounts());
  const { score, hard } = sayable.of(split.words);
  const { subject, confidence, words, runnerUp } = subjectClassifier().classifyName(split.words);
  return {
    label,
    split,
    sayability: score,
    hard,
    spelling: spellingRisks(label, split.words),
    twin: pluralTwin(label, split.words),
    subject: { subject, confidence, words, runnerUp },
  };
}
