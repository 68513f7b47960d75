import type { Heat, Temperature } from './heat';
import { foldTerm, NOTHING_NUMBER, SubjectTable, type Telling } from './subject-table';
import { SUBJECT_TEMPERATURE } from './subject-temperature';
import { SUBJECTS } from './subjects';
import { singular, type Terms } from './terms';

/** Languages that subjects are told in, ISO 639-1. */
export const SUBJECT_LANGUAGES = ['en', 'de', 'fr', 'es', 'it', 'nl'] as const;
export type SubjectLanguage = (typeof SUBJECT_LANGUAGES)[number];

/** A word that spoke for the subject. */
export interface SubjectWord {
  word: string;
  times: number;
  /** How much likelier the word is in texts of this subject than in others, natural log, times how often it counts. */
  weight: number;
}

export interface SubjectVerdict {
  /** `area.subject`; null: it says nothing, too little, or in a language that is not read. */
  subject: string | null;
  /** Chance that it is right, 0 to 1, as measured on texts that were not learned from. */
  confidence: number;
  runnerUp: { subject: string; confidence: number } | null;
  /** The words that decided, those that weigh most first. */
  words: SubjectWord[];
  /** Different words that the subjects know. */
  known: number;
}

/** Words that say least: what is in texts of every kind. */
const LEAST_KNOWN = 2;
const LONG_ENOUGH = 8;
const SHOWN_WORDS = 10;
/** A word's parts count so much of what they would alone. */
const PART_WEIGHT = 0.8;
/** Natural log of how much likelier the most telling words are with one subject than with others. */
const MOST_TELLING = 9;
const LEAST_PART = 4;
/** Words that begin alike so far are taken for kin, in languages that bend their words. */
const KIN_LETTERS = 6;
const KIN_WEIGHT = 0.6;
const ROMANCE: ReadonlySet<string> = new Set(['fr', 'es', 'it']);
const HEAD_WEIGHT = 1.6;
/** Words after which a name says only where it is, or whose. */
const LEADING_ON: ReadonlySet<string> = new Set(
  'of on at by in from for near am im vom zum zur auf bei aus fuer für an van aan op bij voor te'.split(' '),
);
const NOTHING: SubjectVerdict = { subject: null, confidence: 0, runnerUp: null, words: [], known: 0 };

/** Sums by class, and what they rest on. */
export interface SubjectScore {
  /** By subject number; the last: pages that say nothing. */
  sums: Float64Array;
  /** How many words said something, repeats damped. */
  evidence: number;
  known: number;
  found: { word: string; times: number; damped: number; telling: Telling }[];
}

/**
 * Tells the subject of a text by what its words mean. What a word says was distilled from word embeddings: how near its meaning is to words that
 * people wrote of each subject (kernel density over the embeddings; other languages are bridged by hand-written words, by the names of pictures
 * and by kinship). Words are taken together as in naive Bayes (McCallum and Nigam 1998), repeats damped as 1 + ln; pages that say nothing are a
 * class of their own. Confidence is calibrated (Guo and others 2017, with a temperature that grows with the length of the text).
 */
export class SubjectClassifier {
  private readonly tables = new Map<SubjectLanguage, WordTeller>();

  /** @param read the packed table of a language, when it is first asked for. */
  constructor(
    private readonly read: (language: SubjectLanguage) => Uint8Array,
    private readonly heat: Temperature = SUBJECT_TEMPERATURE,
  ) {}

  /**
   * @param terms of a text, as `termsOf` counts them.
   * @param language ISO 639-1; null: not told, and taken for the one that knows most of its words.
   */
  classify(terms: Terms, language: string | null = 'en'): SubjectVerdict {
    const read = language === null ? this.likeliest(terms) : readLanguage(language);
    if (read === null) return NOTHING;
    return this.classifyAll([{ terms, language: read }]);
  }

  /** The same of texts in several languages, taken together; those that are not read are passed over. */
  classifyAll(texts: readonly { terms: Terms; language: string | null }[]): SubjectVerdict {
    const total = emptyScore();
    for (const { terms, language } of texts) {
      const read = language === null ? this.likeliest(terms) : readLanguage(language);
      if (read !== null) this.addScore(total, terms, read);
    }
    if (total.known < LEAST_KNOWN) return { ...NOTHING, known: total.known };
    return this.verdict(total, this.shares(total, 'text'));
  }

  /** The subject of a name by its words alone. One word that tells is enough. */
  classifyName(words: readonly string[], language: string | null = null): SubjectVerdict {
    const terms: Terms = new Map(words.map((word) => [singular(word.toLowerCase()), 1]));
    const read = language === null ? this.likeliest(terms) : readLanguage(language);
    if (read === null) return NOTHING;
    const score = this.scoreName([...terms.keys()], read);
    return score.known === 0 ? NOTHING : this.verdict(score, this.shares(score, 'name'));
  }

  /** What the words of a text speak for, in whichever language; null: it is not read. */
  scoreOf({ terms, language }: { terms: Terms; language: string | null }): SubjectScore | null {
    const read = language === null ? this.likeliest(terms) : readLanguage(language);
    return read === null ? null : this.score(terms, read);
  }

  /** Whether a word is known to speak of anything, in any language that is read. */
  knows(word: string): boolean {
    const term = singular(word.toLowerCase());
    return SUBJECT_LANGUAGES.some((language) => this.tellerOf(language).knows(term));
  }

  /** How much a word tells, 0 to 1, in a language that is read; 0 in others. */
  tellingOf(word: string, language: string | null): number {
    const read = language === null ? 'en' : readLanguage(language);
    const telling = read === null ? null : this.tellerOf(read).tell(word);
    if (telling === null) return 0;
    const most = telling.weights.reduce(
      (best, weight, n) => (telling.subjects[n] === NOTHING_NUMBER ? best : Math.max(best, weight)),
      0,
    );
    return Math.min(1, (most / MOST_TELLING) ** 2);
  }

  /** The subject of a name where it is clear; null: it is not. */
  nameSubject(words: readonly string[], language: string | null = null): string | null {
    return clearSubject(this.classifyName(words, language));
  }

  score(terms: Terms, language: SubjectLanguage): SubjectScore {
    const score = emptyScore();
    this.addScore(score, terms, language);
    return score;
  }

  /** The word that the others describe counts more: the last in Germanic languages, the first in Romance ones. */
  scoreName(terms: readonly string[], language: SubjectLanguage): SubjectScore {
    const score = emptyScore();
    const teller = this.tellerOf(language);
    const telling = terms.filter((word) => teller.tell(word));
    const end = terms.findIndex((word, place) => place > 0 && LEADING_ON.has(word));
    const before = telling.filter((word) => end < 0 || terms.indexOf(word) < end);
    const head = ROMANCE.has(language) ? telling[0] : (before[before.length - 1] ?? telling[telling.length - 1]);
    for (const word of telling) this.addWord(score, teller, word, 1, word === head ? HEAD_WEIGHT : 1);
    return score;
  }

  /** The read language that knows most of the words; English when none knows more. */
  likeliest(terms: Terms): SubjectLanguage {
    let best: SubjectLanguage = 'en';
    let most = 0;
    for (const language of SUBJECT_LANGUAGES) {
      const teller = this.tellerOf(language);
      let known = 0;
      for (const word of terms.keys()) if (teller.knows(word)) known++;
      if (known > most) [best, most] = [language, known];
    }
    return best;
  }

  private addScore(score: SubjectScore, terms: Terms, language: SubjectLanguage): void {
    const teller = this.tellerOf(language);
    for (const [word, times] of terms) this.addWord(score, teller, word, times, 1 + Math.log(times));
  }

  private addWord(score: SubjectScore, teller: WordTeller, word: string, times: number, damped: number): void {
    const telling = teller.tell(word);
    if (!telling) return;
    score.known++;
    score.evidence += damped;
    score.found.push({ word, times, damped, telling });
    for (let n = 0; n < telling.subjects.length; n++) score.sums[telling.subjects[n]] += damped * telling.weights[n];
  }

  private tellerOf(language: SubjectLanguage): WordTeller {
    let teller = this.tables.get(language);
    if (!teller) {
      teller = new WordTeller(SubjectTable.unpack(this.read(language)), language);
      this.tables.set(language, teller);
    }
    return teller;
  }

  /** Chances of the classes. */
  private shares({ sums, evidence }: SubjectScore, of: 'text' | 'name'): Float64Array {
    return classShares(sums, evidence, this.heat[of]);
  }

  private verdict({ found, known }: SubjectScore, shares: Float64Array): SubjectVerdict {
    let best = -1;
    let second = -1;
    for (let s = 0; s < SUBJECTS.length; s++) {
      if (best < 0 || shares[s] > shares[best]) {
        second = best;
        best = s;
      } else if (second < 0 || shares[s] > shares[second]) second = s;
    }
    if (shares[NOTHING_NUMBER] >= shares[best]) return { ...NOTHING, known };
    const words: SubjectWord[] = [];
    for (const { word, times, damped, telling } of found) {
      const place = telling.subjects.indexOf(best);
      if (place >= 0) words.push({ word, times, weight: damped * telling.weights[place] });
    }
    words.sort((a, b) => b.weight - a.weight || (a.word < b.word ? -1 : 1));
    if (words.length === 0) return { ...NOTHING, known };
    return {
      subject: SUBJECTS[best].id,
      confidence: shares[best],
      runnerUp: { subject: SUBJECTS[second].id, confidence: shares[second] },
      words: words.slice(0, SHOWN_WORDS),
      known,
    };
  }
}

/** A verdict of less confidence is no subject. */
export const LEAST_CONFIDENCE = 0.5;

/** The subject of a verdict; null below the least confidence. */
export function clearSubject(verdict: SubjectVerdict): string | null {
  return verdict.confidence >= LEAST_CONFIDENCE ? verdict.subject : null;
}

const emptyScore = (): SubjectScore => ({
  sums: new Float64Array(SUBJECTS.length + 1),
  evidence: 0,
  known: 0,
  found: [],
});

const readLanguage = (language: string): SubjectLanguage | null =>
  SUBJECT_LANGUAGES.find((one) => one === language.slice(0, 2)) ?? null;

/** Endings that bend words or make others of them, the longest first. */
const ENDINGS =
  /(?:aciones|azioni|mente|innen|ungen|ation|keit|heit|erie|eria|ungs|ando|endo|iert|ung|chen|tjes|ment|ern|ten|ies|ait|ent|ant|ist|ing|es|en|er|em|et|as|os|is|s|e|n|o|a|i|x|y|t)$/;
const LEAST_STEM = 4;
const stemOf = (word: string) => {
  const stem = word.replace(ENDINGS, '');
  return stem.length >= LEAST_STEM ? stem : word;
};

/** What words of a language say, also bent and joined ones. */
class WordTeller {
  private kin: { stems: Map<string, string[]>; starts: Map<string, string[]> } | null = null;
  private readonly told = new Map<string, Telling | null>();

  constructor(
    private readonly table: SubjectTable,
    private readonly language: SubjectLanguage,
  ) {}

  knows(word: string): boolean {
    return this.table.has(foldTerm(word));
  }

  tell(word: string): Telling | null {
    const key = foldTerm(word);
    let telling = this.told.get(key);
    if (telling === undefined) {
      telling = this.table.find(key) ?? this.hyphened(key) ?? this.related(key);
      if (this.told.size > 20_000) this.told.clear();
      this.told.set(key, telling);
    }
    return telling;
  }

  private hyphened(key: string): Telling | null {
    const parts = key.split(/['’-]/).filter((part) => part.length >= 3);
    if (parts.length < 2) return null;
    return together(parts.map((part) => this.tell(singular(part))));
  }

  /** A word of another form or of parts. English has its forms in the table. */
  private related(key: string): Telling | null {
    if (this.language === 'en' || key.length < LEAST_STEM + 1) return null;
    const { stems, starts } = this.kinOf();
    const same = stems.get(stemOf(key));
    if (same)
      return mean(
        same.map((word) => this.table.find(word)),
        0.9,
      );
    if (this.language === 'de' || this.language === 'nl') {
      const joined = this.joined(key);
      if (joined) return joined;
    }
    const near = key.length > KIN_LETTERS ? starts.get(key.slice(0, KIN_LETTERS)) : undefined;
    return near
      ? mean(
          near.map((word) => this.table.find(word)),
          KIN_WEIGHT,
        )
      : null;
  }

  /** A compound: the parts that are known, those that cover most of it. */
  private joined(key: string): Telling | null {
    let best: { covers: number; parts: (Telling | null)[] } | null = null;
    for (let cut = key.length - LEAST_PART; cut >= LEAST_PART; cut--) {
      const end = this.part(key.slice(cut));
      const start = this.part(key.slice(0, cut)) ?? this.part(key.slice(0, cut).replace(/(?:es|en|s|n)$/, ''));
      const covers = (end ? key.length - cut : 0) + (start ? cut : 0);
      if (covers > (best?.covers ?? 0)) best = { covers, parts: [end, start] };
    }
    return best && together(best.parts, (PART_WEIGHT * best.covers) / key.length);
  }

  private part(word: string): Telling | null {
    if (word.length < LEAST_PART) return null;
    const known = this.table.find(singular(word));
    if (known) return known;
    const same = this.kinOf().stems.get(stemOf(word));
    return same
      ? mean(
          same.map((one) => this.table.find(one)),
          0.9,
        )
      : null;
  }

  private kinOf() {
    if (!this.kin) {
      const stems = new Map<string, string[]>();
      const starts = new Map<string, string[]>();
      for (const key of this.table.keys()) {
        push(stems, stemOf(key), key);
        if (key.length >= KIN_LETTERS) push(starts, key.slice(0, KIN_LETTERS), key);
      }
      this.kin = { stems, starts };
    }
    return this.kin;
  }
}

function push(lists: Map<string, string[]>, key: string, value: string): void {
  const list = lists.get(key);
  if (list) list.push(value);
  else lists.set(key, [value]);
}

/** What parts say one after the other. */
function together(parts: readonly (Telling | null)[], factor = 1): Telling | null {
  return combined(parts, (known) => factor / Math.sqrt(known));
}

/** What forms of one word say on the average. */
function mean(forms: readonly (Telling | null)[], factor: number): Telling | null {
  return combined(forms, (known) => factor / known);
}

function combined(all: readonly (Telling | null)[], factorOf: (known: number) => number): Telling | null {
  const known = all.filter((one) => one !== null);
  if (known.length === 0) return null;
  const factor = factorOf(known.length);
  const sums = new Map<number, number>();
  for (const { subjects, weights } of known)
    for (let n = 0; n < subjects.length; n++) sums.set(subjects[n], (sums.get(subjects[n]) ?? 0) + factor * weights[n]);
  return { subjects: Uint8Array.from(sums.keys()), weights: Float32Array.from(sums.values()) };
}

/** Chances of the classes by their sums. */
export function classShares(sums: Float64Array, evidence: number, heat: Heat): Float64Array {
  const raised = sums.slice();
  const shortness = heat.short * Math.max(0, 1 - evidence / LONG_ENOUGH);
  raised[NOTHING_NUMBER] = heat.nothing + shortness + Math.min(heat.mostNothing, sums[NOTHING_NUMBER]);
  return softmax(raised, heat.scale * evidence ** heat.power);
}

export function softmax(sums: Float64Array, temperature: number): Float64Array {
  let most = Number.NEGATIVE_INFINITY;
  for (const sum of sums) if (sum > most) most = sum;
  const shares = sums.map((sum) => Math.exp((sum - most) / temperature));
  let total = 0;
  for (const share of shares) total += share;
  return shares.map((share) => share / total);
}

let provided: ((language: SubjectLanguage) => Uint8Array) | null = null;
let ready: SubjectClassifier | null = null;

/** Says where packed tables come from; a process does so once, before it tells subjects. */
export function provideSubjectTables(read: (language: SubjectLanguage) => Uint8Array): void {
  provided = read;
}

/** The classifier that ships with the product, made when first asked for. */
export function subjectClassifier(): SubjectClassifier {
  if (!ready) {
    if (!provided) throw new Error('No tables of subjects were provided');
    ready = new SubjectClassifier(provided);
  }
  return ready;
}
