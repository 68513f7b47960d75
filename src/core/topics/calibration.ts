import type { SubjectClassifier } from './classifier';
import type { Terms } from './terms';

/** A text whose subject is known. */
export interface LabelledText {
  subject: string;
  terms: Terms;
  /** ISO 639-1. */
  language?: string;
}

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
  const told: { confidence: number; isRight: boolean }[] = [];
  for (const { subject, terms, language } of texts) {
    const verdict = classifier.classify(terms, language);
    const bin = sums[Math.min(BINS - 1, Math.floor(verdict.confidence * BINS))];
    told.push({ confidence: verdict.confidence, isRight: verdict.subject === subject });
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
  return { texts: texts.length, accuracy: right / texts.length, calibrationError: calibrationErrorOf(told), bins };
}

/** Expected calibration error: mean distance of confidence and accuracy over bins of a tenth, weighted by what is in them; 0 of nothing. */
export function calibrationErrorOf(told: readonly { confidence: number; isRight: boolean }[]): number {
  const bins = Array.from({ length: BINS }, () => ({ confidence: 0, right: 0 }));
  for (const { confidence, isRight } of told) {
    const bin = bins[Math.min(BINS - 1, Math.floor(confidence * BINS))];
    bin.confidence += confidence;
    if (isRight) bin.right++;
  }
  const apart = bins.reduce((sum, { confidence, right }) => sum + Math.abs(confidence - right), 0);
  return told.length === 0 ? 0 : apart / told.length;
}
