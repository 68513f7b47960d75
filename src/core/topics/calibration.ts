import { SubjectClassifier, type SubjectModel, softmax } from './classifier';
import { SUBJECTS } from './subjects';
import type { Terms } from './terms';

/** A text whose subject is known. */
export interface LabelledText {
  subject: string;
  terms: Terms;
}

/** Words kept of each subject and of texts in general: the commonest. */
const WORDS_A_SUBJECT = 60;
const GENERAL_WORDS = 500;
const LEAST_TEXTS = 2;

type Counts = Pick<SubjectModel, 'counts' | 'general' | 'texts'>;

/** Learns counts from labelled texts. Each word counts once a text, so that long texts do not outweigh many. */
export function countSubjects(texts: Iterable<LabelledText>): Counts {
  const bySubject = new Map<string, Map<string, number>>();
  const all = new Map<string, number>();
  let size = 0;
  for (const { subject, terms } of texts) {
    size++;
    const counts = bySubject.get(subject) ?? new Map<string, number>();
    bySubject.set(subject, counts);
    for (const word of terms.keys()) {
      counts.set(word, (counts.get(word) ?? 0) + 1);
      all.set(word, (all.get(word) ?? 0) + 1);
    }
  }
  const most = (counts: Map<string, number>, many: number) =>
    Object.fromEntries(
      [...counts]
        .filter(([, count]) => count >= LEAST_TEXTS)
        .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
        .slice(0, many)
        .sort((a, b) => (a[0] < b[0] ? -1 : 1)),
    );
  const subjects = [...bySubject].sort((a, b) => (a[0] < b[0] ? -1 : 1));
  return {
    counts: Object.fromEntries(subjects.map(([subject, counts]) => [subject, most(counts, WORDS_A_SUBJECT)])),
    general: most(all, GENERAL_WORDS),
    texts: size,
  };
}

/**
 * Finds the temperature under which the confidences fit texts that were not counted: the one with the least mean negative log
 * likelihood of the right subject, among a grid.
 */
export function calibrate(counts: Counts, texts: readonly LabelledText[]): SubjectModel {
  const classifier = new SubjectClassifier({ ...counts, scale: 1, power: 0 });
  const scored = texts.map(({ subject, terms }) => ({ ...classifier.score(terms), right: PLACES.get(subject) ?? -1 }));
  let best: SubjectModel = { ...counts, scale: 1, power: 0 };
  let least = Number.POSITIVE_INFINITY;
  for (const power of [0, 0.25, 0.5, 0.75, 1])
    for (let scale = 0.05; scale < 12; scale *= 1.2) {
      let loss = 0;
      for (const { scores, evidence, right } of scored)
        loss -= Math.log(Math.max(softmax(scores, scale * evidence ** power)[right], 1e-9));
      if (loss < least) [least, best] = [loss, { ...counts, scale: Math.round(scale * 1000) / 1000, power }];
    }
  return best;
}

const PLACES = new Map(SUBJECTS.map(({ id }, place) => [id, place]));

/** Verdicts of like confidence, and how many of them are right. */
export interface ReliabilityBin {
  from: number;
  to: number;
  texts: number;
  /** Mean confidence, and share that is right; null in an empty bin. */
  confidence: number | null;
  accuracy: number | null;
}

export interface SubjectReport {
  texts: number;
  accuracy: number;
  /** Expected calibration error: mean distance of confidence and accuracy, bins weighted by their texts. */
  calibrationError: number;
  bins: ReliabilityBin[];
}

const BINS = 10;

/** How right and how honest a classifier is on labelled texts. A text without a verdict counts as wrong. */
export function judgeSubjects(classifier: SubjectClassifier, texts: readonly LabelledText[]): SubjectReport {
  const sums = Array.from({ length: BINS }, () => ({ texts: 0, confidence: 0, right: 0 }));
  let right = 0;
  for (const { subject, terms } of texts) {
    const verdict = classifier.classify(terms);
    const bin = sums[Math.min(BINS - 1, Math.floor(verdict.confidence * BINS))];
    bin.texts++;
    bin.confidence += verdict.confidence;
    if (verdict.subject === subject) {
      bin.right++;
      right++;
    }
  }
  const bins = sums.map((bin, n) => ({
    from: n / BINS,
    to: (n + 1) / BINS,
    texts: bin.texts,
    confidence: bin.texts === 0 ? null : bin.confidence / bin.texts,
    accuracy: bin.texts === 0 ? null : bin.right / bin.texts,
  }));
  const calibrationError = bins.reduce(
    (sum, { texts: count, confidence, accuracy }) =>
      sum + (count / texts.length) * Math.abs((confidence ?? 0) - (accuracy ?? 0)),
    0,
  );
  return { texts: texts.length, accuracy: right / texts.length, calibrationError, bins };
}
