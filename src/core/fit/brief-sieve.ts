import type { PoolView, SievePart, Sort } from '../pool/conditions';
import type { Purpose } from './fit';
import { type HouseLimits, limitConditions } from './house-limits';

/** What a brief asks of names, as far as a sieve can say it. */
export interface SievedBrief {
  purpose: Purpose;
  requiredWords: readonly string[];
  unwantedWords: readonly string[];
  excludedEndings: readonly string[];
  languages: readonly string[];
  limits: HouseLimits;
}

const UNJUDGED: SievePart = { type: 'choice', fact: 'judged', values: ['not-yet'], not: false, keepUnknown: false };
const NOT_HELD: SievePart = { type: 'choice', fact: 'phase', values: ['active'], not: true, keepUnknown: true };
const ON_OFFER: SievePart = {
  type: 'choice',
  fact: 'listing',
  values: ['auction', 'expired-auction', 'buy-now', 'offer', 'falling', 'backorder'],
  not: false,
  keepUnknown: false,
};

const SORTS: Record<Purpose, Sort[]> = {
  resell: [
    { fact: 'closing', descending: false },
    { fact: 'length', descending: false },
  ],
  rebuild: [{ fact: 'trust', descending: true }],
  redirect: [{ fact: 'effective', descending: true }],
  prospect: [{ fact: 'referringDomains', descending: true }],
};

/**
 * The pool as a brief wants it: its words, endings, languages and house limits as conditions of a sieve, in the order of its purpose.
 * Names of others that are not for sale stay out.
 */
export function briefSieve(brief: SievedBrief): PoolView {
  const { purpose, requiredWords, unwantedWords, excludedEndings, languages, limits } = brief;
  const words = (values: readonly string[], not: boolean): SievePart[] =>
    values.length === 0 ? [] : [{ type: 'text', fact: 'name', mode: 'wordish', values: [...values], not }];
  const choice = (fact: 'ending' | 'language', values: readonly string[], not: boolean): SievePart[] =>
    values.length === 0 ? [] : [{ type: 'choice', fact, values: [...values], not, keepUnknown: true }];
  const toBeHad: SievePart[] =
    purpose === 'prospect' ? [] : [{ type: 'group', mode: 'any', parts: [NOT_HELD, ON_OFFER] }];
  return {
    parts: [
      ...toBeHad,
      ...words(requiredWords, false),
      ...words(unwantedWords, true),
      ...choice('ending', excludedEndings, true),
      ...choice('language', languages, false),
      ...limitConditions(limits),
      UNJUDGED,
    ],
    sorts: SORTS[purpose],
    columns: null,
  };
}
