import { fixed, tenths } from '../formats/figures';
import { languageName } from '../history/language-name';
import { countryName, countryOfEnding } from '../links/countries';
import { singular } from '../topics/terms';
import type { Purpose } from './purposes';

export type { Purpose };

/** What a fit is made of. */
export const FIT_PARTS = [
  'nameWords',
  'subject',
  'continuity',
  'referrers',
  'trust',
  'language',
  'risk',
  'name',
] as const;
export type FitPart = (typeof FIT_PARTS)[number];
export type FitWeights = Record<FitPart, number>;

export const FIT_TITLES: Record<FitPart, string> = {
  nameWords: 'Words of its name',
  subject: 'Subject of its links and past',
  continuity: 'One site, for long',
  referrers: 'Effective referrers',
  trust: 'Trust',
  language: 'Language and country',
  risk: 'No spam',
  name: 'Name that can be said',
};

/** How much each part counts for a purpose, 0 to 10: a reseller sells a name, a redirector needs links of the subject and hardly the name. */
export const PURPOSE_WEIGHTS: Record<Purpose, FitWeights> = {
  resell: { nameWords: 6, subject: 1, continuity: 1, referrers: 1, trust: 1, language: 2, risk: 3, name: 10 },
  rebuild: { nameWords: 5, subject: 10, continuity: 8, referrers: 6, trust: 5, language: 5, risk: 6, name: 3 },
  redirect: { nameWords: 1, subject: 10, continuity: 5, referrers: 10, trust: 8, language: 4, risk: 8, name: 0 },
  prospect: { nameWords: 0, subject: 8, continuity: 2, referrers: 10, trust: 6, language: 6, risk: 4, name: 0 },
};

/** Weights of several purposes together, each as much as it counts. None counting: as rebuilding has them. */
export function mixedWeights(mix: Record<Purpose, number>): FitWeights {
  const purposes = Object.entries(mix).filter(([, share]) => share > 0) as [Purpose, number][];
  const total = purposes.reduce((sum, [, share]) => sum + share, 0);
  if (total === 0) return PURPOSE_WEIGHTS.rebuild;
  const mean = (part: FitPart) =>
    purposes.reduce((sum, [purpose, share]) => sum + (PURPOSE_WEIGHTS[purpose][part] * share) / total, 0);
  return Object.fromEntries(FIT_PARTS.map((part) => [part, Math.round(10 * mean(part)) / 10])) as FitWeights;
}

/** What is looked for. */
export interface FitBrief {
  subjectWords: readonly string[];
  /** At least one of them must be a word of the name; none: any name. */
  requiredWords: readonly string[];
  unwantedWords: readonly string[];
  /** ISO 639-1; none: any. */
  languages: readonly string[];
  /** ISO 3166-1 alpha-2; none: any. */
  countries: readonly string[];
  /** `area.subject` that the brief's words tell; null: none that shows. */
  subject: string | null;
}

/** What is known of a domain; null: not known. */
export interface FitFacts {
  words: readonly string[];
  length: number;
  hyphens: number;
  digits: number;
  /** 0 to 100. */
  sayability: number | null;
  /** `area.subject` by links and past. */
  subject: string | null;
  subjectConfidence: number | null;
  /** Whether its subject was looked for. */
  isSubjectRead: boolean;
  contentYears: number | null;
  drift: number | null;
  effective: number | null;
  /** 0 to 100. */
  trust: number | null;
  language: string | null;
  ending: string;
  /** 0 to 100, the person's mark over the rules. */
  spamRisk: number | null;
}

export interface PartValue {
  part: FitPart;
  /** 0 to 1; null: not known. */
  value: number | null;
  /** What it was reckoned from. */
  words: string;
}

const clip = (value: number) => Math.max(0, Math.min(1, value));
/** Referrers from which on more hardly count, and trust from which on. */
const MANY_REFERRERS = 200;
const MUCH_TRUST = 35;

/** The parts of a domain's fit, each from 0 to 1 with what it rests on. */
export function fitParts(facts: FitFacts, brief: FitBrief): PartValue[] {
  const known = (part: FitPart, value: number | null, words: string): PartValue => ({
    part,
    value: value === null ? null : clip(value),
    words,
  });
  const { contentYears, drift, effective, trust, spamRisk, sayability } = facts;
  return [
    nameWords(facts, brief),
    subjectPart(facts, brief),
    known(
      'continuity',
      contentYears === null ? null : clip(contentYears / 10) * (1 - clip(drift ?? 0)),
      contentYears === null
        ? 'its captures are not read'
        : `${tenths(contentYears)} years of content${drift === null ? '' : `, drift ${fixed(drift, 2)}`}; full at 10 years of one site`,
    ),
    known(
      'referrers',
      effective === null ? null : Math.log1p(effective) / Math.log1p(MANY_REFERRERS),
      effective === null ? 'not weighed' : `${tenths(effective)}, on a log scale to ${MANY_REFERRERS}`,
    ),
    known(
      'trust',
      trust === null ? null : trust / MUCH_TRUST,
      trust === null ? 'not measured' : `${tenths(trust)}; full at ${MUCH_TRUST}`,
    ),
    languagePart(facts, brief),
    known(
      'risk',
      spamRisk === null ? null : 1 - spamRisk / 100,
      spamRisk === null ? 'not judged' : `risk ${spamRisk} of 100`,
    ),
    known('name', sayability === null ? null : nameValue(facts, sayability), nameReason(facts)),
  ];
}

function nameWords({ words }: FitFacts, { subjectWords, requiredWords, unwantedWords }: FitBrief): PartValue {
  const has = new Set(words.map((word) => singular(word.toLowerCase())));
  const those = (wanted: readonly string[]) =>
    wanted
      .flatMap((text) => text.toLowerCase().split(/[^\p{L}\p{N}]+/u))
      .filter((word) => word !== '' && has.has(singular(word)));
  const part = 'nameWords' as const;
  const unwanted = those(unwantedWords);
  if (unwanted.length > 0) return { part, value: 0, words: `it says ${unwanted[0]}, which is not wanted` };
  const required = those(requiredWords);
  if (requiredWords.length > 0 && required.length === 0)
    return { part, value: 0, words: 'it says none of the words that it must' };
  const wanted = [...new Set([...required, ...those(subjectWords)])];
  if (subjectWords.length + requiredWords.length === 0) return { part, value: null, words: 'the brief names no words' };
  // one word of the subject is most of what a name can say; the rest is how much of the name it is
  const share = wanted.length / Math.max(1, words.length);
  const value = wanted.length === 0 ? 0 : 0.7 + 0.3 * clip(share * 2);
  return {
    part,
    value,
    words: wanted.length === 0 ? 'none of the subject' : `it says ${wanted.slice(0, 3).join(', ')}`,
  };
}

function subjectPart(facts: FitFacts, { subject: wanted }: FitBrief): PartValue {
  const part = 'subject' as const;
  if (wanted === null) return { part, value: null, words: "the brief's words tell no subject" };
  if (!facts.isSubjectRead) return { part, value: null, words: 'not looked for' };
  const { subject, subjectConfidence } = facts;
  if (subject === null) return { part, value: 0.2, words: 'not clear' };
  const sure = subjectConfidence ?? 0.5;
  if (subject === wanted) return { part, value: 0.4 + 0.6 * sure, words: `the same, confidence ${fixed(sure, 2)}` };
  const isNear = subject.split('.')[0] === wanted.split('.')[0];
  return { part, value: (isNear ? 0.45 : 0) + (1 - sure) * 0.2, words: isNear ? 'of the same area' : 'another' };
}

function languagePart({ language, ending }: FitFacts, { languages, countries }: FitBrief): PartValue {
  const part = 'language' as const;
  const country = countryOfEnding(ending);
  if (countries.length > 0 && country !== null && country !== 'EU' && !countries.includes(country))
    return { part, value: 0, words: `its TLD is of ${countryName(country)}, which the brief is not for` };
  if (languages.length === 0) return { part, value: null, words: 'the brief takes any' };
  if (language === null) return { part, value: null, words: 'not told' };
  return { part, value: languages.includes(language) ? 1 : 0, words: languageName(language) };
}

const READ_AT_A_GLANCE = 14;

function nameValue({ length, hyphens, digits }: FitFacts, sayability: number): number {
  const short = 1 - clip((length - READ_AT_A_GLANCE) / 20);
  return (sayability / 100) * (0.4 + 0.6 * short) * 0.6 ** hyphens * (digits > 0 ? 0.6 : 1);
}

function nameReason({ length, hyphens, digits, sayability }: FitFacts): string {
  if (sayability === null) return 'not read';
  const parts = [`sayability ${sayability}`, `${length} letters`];
  if (hyphens > 0) parts.push(hyphens === 1 ? 'a hyphen' : `${hyphens} hyphens`);
  if (digits > 0) parts.push('digits');
  return parts.join(', ');
}

export interface Fit {
  /** 0 to 100 by what is known; null: nothing that counts is. */
  score: number | null;
  /** What it would be with all that is not known at its worst, and at its best. */
  least: number;
  most: number;
  /** What it is held down to by its spam risk, where that is less than its parts would give; null: it is not. */
  cappedAt: number | null;
}

/** With a spam risk of 100 a fit is at most this, however good the rest is; with none it is not held down. */
const SPAM_CAP = 25;

/**
 * The fit: the mean of its parts by their weights (Keeney and Raiffa 1976, additive value), over those that are known. Spam is not made up
 * for by anything: where it counts at all, it holds the whole down.
 */
export function fitOf(parts: readonly PartValue[], weights: FitWeights): Fit {
  let [sum, known, all] = [0, 0, 0];
  const risk = weights.risk > 0 ? (parts.find(({ part }) => part === 'risk')?.value ?? null) : null;
  const cap = risk === null ? 100 : SPAM_CAP + (100 - SPAM_CAP) * risk;
  for (const { part, value } of parts) {
    const weight = weights[part];
    all += weight;
    if (value === null) continue;
    known += weight;
    sum += weight * value;
  }
  if (known === 0) return { score: null, least: 0, most: 100, cappedAt: null };
  const score = (100 * sum) / known;
  // a risk that is not known could still hold it down
  const least = Math.min(cap, (100 * sum) / all, risk === null && weights.risk > 0 ? SPAM_CAP : 100);
  return {
    score: Math.min(score, cap),
    least,
    most: Math.min(cap, (100 * (sum + all - known)) / all),
    cappedAt: cap < score ? cap : null,
  };
}

/** How far a weight may be from what somebody would also find right: a factor of two, about two times in three. */
const SPREAD = Math.log(2);

/**
 * How often each domain is the best by what is sure of it when the weights are changed as one might as well have set them: each by a log-normal factor, drawn at
 * random from a fixed seed.
 *
 * @returns shares of the draws, in the order of the domains; they sum to 1 where any has a score.
 */
export function firstShares(domains: readonly (readonly PartValue[])[], weights: FitWeights, draws = 500): number[] {
  const first = new Array<number>(domains.length).fill(0);
  let seed = 0x2545f491;
  const random = () => {
    seed ^= seed << 13;
    seed ^= seed >>> 17;
    seed ^= seed << 5;
    return ((seed >>> 0) + 0.5) / 4294967296;
  };
  for (let draw = 0; draw < draws; draw++) {
    const drawn = { ...weights };
    for (const part of FIT_PARTS) {
      const normal = Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
      drawn[part] = weights[part] * Math.exp(SPREAD * normal);
    }
    let best = -1;
    let most = Number.NEGATIVE_INFINITY;
    for (const [n, parts] of domains.entries()) {
      const { score, least } = fitOf(parts, drawn);
      if (score !== null && least > most) [best, most] = [n, least];
    }
    if (best >= 0) first[best]++;
  }
  return first.map((times) => times / draws);
}
