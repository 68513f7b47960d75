import { editDistance } from '../names/spelling';
import { FACT_NAMES, factSpec, SORT_FACTS } from '../pool/facts';
import type { LineVocabulary } from './read-line';
import { LISTINGS, STATUSES, SUPERLATIVES } from './words';

/** What a line may go on with, with the words that a vocabulary brings. */
export interface LinePhrases {
  tlds: readonly string[];
  subjects: readonly string[];
}

/** Everything that can be said, the usual first; what a vocabulary lists stands behind what the language knows. */
export function phrasesOf(
  { languages, venues, tags, sources, currency }: LineVocabulary,
  { tlds, subjects }: LinePhrases,
): string[] {
  const measured = FACT_NAMES.filter((fact) => ['number', 'time'].includes(factSpec(fact).kind));
  return [
    ...STATUSES.map(([words]) => words),
    ...LISTINGS.map(([words]) => words),
    ...measured.map((fact) => factSpec(fact).label.toLowerCase()),
    'over 10 years',
    'no hyphens',
    'no digits',
    'never dropped',
    `under 50 ${currency}`,
    'closing today',
    'closing within 2 days',
    'drops this week',
    'registered before 2010',
    'unjudged',
    'containing',
    'starts with',
    'ends with',
    ...Object.keys(SUPERLATIVES).map((words) => `${words} first`),
    ...SORT_FACTS.map((fact) => `sorted by ${factSpec(fact).label.toLowerCase()}`),
    ...tlds.map((tld) => `.${tld}`),
    ...subjects.map((subject) => `about ${subject.toLowerCase()}`),
    ...languages.map(({ name }) => name.toLowerCase()),
    ...venues.map((venue) => `at ${venue}`),
    ...tags.map(({ name }) => `tagged ${name}`),
    ...sources.map(({ name }) => `found in ${name}`),
  ];
}

export interface Completion {
  words: string;
  /** The whole line with these words in place of those that began them. */
  text: string;
}

/** What the last words of a line may become, as many of them as some phrase begins with; the line's end is where one types. */
export function completionsOf(line: string, phrases: readonly string[], many: number): Completion[] {
  const found: Completion[] = [];
  const seen = new Set<string>();
  const starts = [...line.matchAll(/(?<=^|[\s,;])[^\s,;]/g)].map(({ index }) => index).slice(-4);
  for (const start of starts) {
    const begun = line.slice(start).toLowerCase().trimStart();
    if (begun.trim() === '') continue;
    for (const words of phrases) {
      const isMore = words.toLowerCase().startsWith(begun) && words.length > begun.trimEnd().length;
      if (!isMore || seen.has(words)) continue;
      seen.add(words);
      found.push({ words, text: line.slice(0, start) + words });
      if (found.length === many) return found;
    }
  }
  return found;
}

const LEAST_LETTERS = 4;

/** Known words that are like one that is not known: up to two letters off, the nearest first. */
export function insteadOf(unknown: string, phrases: readonly string[], many: number): string[] {
  const said = unknown.toLowerCase();
  if (said.length < LEAST_LETTERS) return [];
  const most = said.length < 7 ? 1 : 2;
  const near: [words: string, distance: number][] = [];
  for (const words of phrases) {
    if (Math.abs(words.length - said.length) > most) continue;
    const distance = editDistance(words.toLowerCase(), said);
    if (distance > 0 && distance <= most) near.push([words, distance]);
  }
  return near
    .sort(([, a], [, b]) => a - b)
    .slice(0, many)
    .map(([words]) => words);
}
