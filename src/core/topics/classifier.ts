import { SUBJECTS, type Subject } from './subjects';
import { singular, type Terms } from './terms';
import trained from './trained.json';

/** What training gives: words of subjects from texts whose subject is known, and words of texts in general. */
export interface SubjectModel {
  /** Counts by subject and word. */
  counts: Record<string, Record<string, number>>;
  /** Counts of words in all texts. */
  general: Record<string, number>;
  /** How many texts were counted. */
  texts: number;
  /** Confidence is a softmax of scores over `scale * n ^ power`, n being the words that said something. */
  scale: number;
  power: number;
}

/** A word that spoke for the subject. */
export interface SubjectWord {
  word: string;
  times: number;
  /** How much likelier the word is in texts of this subject than in others, natural log, times how often it counts. */
  weight: number;
}

export interface SubjectVerdict {
  /** `area.subject`; null: too few words that tell anything. */
  subject: string | null;
  /** Chance that it is right, 0 to 1, as measured on texts that were not learned from. */
  confidence: number;
  runnerUp: { subject: string; confidence: number } | null;
  /** The words that decided, those that weigh most first. */
  words: SubjectWord[];
  /** Different words that the subjects know. */
  known: number;
}

/** The first words of a subject's list count twice. */
const FIRST_WRITTEN = 5;
/** Part of a subject's texts that is words of texts in general (Jelinek and Mercer 1980): alike for subjects known from much and from little. */
const GENERAL_PART = 0.6;
/** Of what is known of a subject, the part that is written down here; the rest is learned. */
const WRITTEN_PART = 0.4;
/** Words that say least: what is in texts of every kind. */
const LEAST_KNOWN = 2;
const SHOWN_WORDS = 10;
const NOTHING: SubjectVerdict = { subject: null, confidence: 0, runnerUp: null, words: [], known: 0 };

/**
 * Tells the subject of a text: multinomial naive Bayes (McCallum and Nigam 1998) with Jelinek-Mercer smoothing (Zhai and Lafferty 2004),
 * all subjects alike beforehand, a word's repeats damped as 1 + ln. Its confidence is calibrated on texts that it did not learn from (Guo and
 * others 2017, temperature scaling, with a temperature that grows with the length of the text, since words are not independent).
 */
export class SubjectClassifier {
  /** For each word, its weight by subject number. */
  private readonly weights = new Map<string, Float32Array>();

  constructor(private readonly model: SubjectModel) {
    const own = SUBJECTS.map((subject) => ownShares(subject, model.counts[subject.id] ?? {}));
    const general = generalShares(own, model.general);
    for (const [word, share] of general) {
      const weights = new Float32Array(SUBJECTS.length);
      let tells = false;
      for (let s = 0; s < SUBJECTS.length; s++) {
        const ratio = (own[s].get(word) ?? 0) / share;
        if (ratio > 1) tells = true;
        weights[s] = Math.log(GENERAL_PART + (1 - GENERAL_PART) * ratio);
      }
      if (tells) this.weights.set(word, weights);
    }
  }

  /** @param terms of a text, as `termsOf` counts them. */
  classify(terms: Terms): SubjectVerdict {
    const { scores, evidence, known } = this.score(terms);
    if (known < LEAST_KNOWN) return { ...NOTHING, known };
    return this.verdict(scores, evidence, terms, known);
  }

  /** The subject of a name by its words alone. One word that tells is enough. */
  classifyName(words: readonly string[]): SubjectVerdict {
    const terms: Terms = new Map(words.map((word) => [singular(word.toLowerCase()), 1]));
    const { scores, known } = this.score(terms);
    return known === 0 ? NOTHING : this.verdict(scores, known, terms, known);
  }

  /** Sums by subject number, and how much they rest on. */
  score(terms: Terms): { scores: Float64Array; evidence: number; known: number } {
    const scores = new Float64Array(SUBJECTS.length);
    let known = 0;
    let evidence = 0;
    for (const [word, count] of terms) {
      const weights = this.weights.get(word);
      if (!weights) continue;
      known++;
      const times = 1 + Math.log(count);
      evidence += times;
      for (let s = 0; s < scores.length; s++) scores[s] += times * weights[s];
    }
    return { scores, evidence, known };
  }

  private verdict(scores: Float64Array, evidence: number, terms: Terms, known: number): SubjectVerdict {
    const { scale, power } = this.model;
    const shares = softmax(scores, scale * evidence ** power);
    let best = 0;
    let second = -1;
    for (let s = 1; s < shares.length; s++) {
      if (shares[s] > shares[best]) {
        second = best;
        best = s;
      } else if (second < 0 || shares[s] > shares[second]) second = s;
    }
    const words: SubjectWord[] = [];
    for (const [word, times] of terms) {
      const weight = (this.weights.get(word)?.[best] ?? 0) * (1 + Math.log(times));
      if (weight > 0) words.push({ word, times, weight });
    }
    words.sort((a, b) => b.weight - a.weight || (a.word < b.word ? -1 : 1));
    return {
      subject: words.length === 0 ? null : SUBJECTS[best].id,
      confidence: words.length === 0 ? 0 : shares[best],
      runnerUp: { subject: SUBJECTS[second].id, confidence: shares[second] },
      words: words.slice(0, SHOWN_WORDS),
      known,
    };
  }
}

/** Shares of words in texts of one subject alone. */
function ownShares({ words }: Subject, learned: Record<string, number>): Map<string, number> {
  const shares = new Map<string, number>();
  const learnedTotal = sum(Object.values(learned));
  const written = words.map((word, place) => ({ term: singular(word), times: place < FIRST_WRITTEN ? 2 : 1 }));
  const writtenTotal = sum(written.map(({ times }) => times));
  const part = learnedTotal === 0 ? 1 : WRITTEN_PART;
  for (const { term, times } of written) shares.set(term, (shares.get(term) ?? 0) + (part * times) / writtenTotal);
  for (const [word, count] of Object.entries(learned))
    shares.set(word, (shares.get(word) ?? 0) + ((1 - part) * count) / learnedTotal);
  return shares;
}

/** Shares of words in texts of any subject: those of the subjects together, and what was counted of texts in general. */
function generalShares(own: readonly Map<string, number>[], counted: Record<string, number>): Map<string, number> {
  const shares = new Map<string, number>();
  const total = sum(Object.values(counted));
  const part = total === 0 ? 1 : 0.5;
  for (const of of own)
    for (const [word, share] of of) shares.set(word, (shares.get(word) ?? 0) + (part * share) / own.length);
  for (const [word, count] of Object.entries(counted))
    shares.set(word, (shares.get(word) ?? 0) + ((1 - part) * count) / total);
  return shares;
}

export function softmax(scores: Float64Array, temperature: number): Float64Array {
  let most = Number.NEGATIVE_INFINITY;
  for (const score of scores) if (score > most) most = score;
  const shares = scores.map((score) => Math.exp((score - most) / temperature));
  const total = sum(shares);
  return shares.map((share) => share / total);
}

function sum(values: Iterable<number>): number {
  let total = 0;
  for (const value of values) total += value;
  return total;
}

let ready: SubjectClassifier | null = null;
/** The classifier that ships with the product, made when first asked for. */
export function subjectClassifier(): SubjectClassifier {
  ready ??= new SubjectClassifier(trained);
  return ready;
}
