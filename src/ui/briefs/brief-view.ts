import type { StoredBrief } from '../../contracts/briefs';
import type { Purpose } from '../../core/fit/fit';
import { ASSUMPTIONS } from '../../core/worth/assumptions';

export const PURPOSES: [purpose: Purpose, words: string][] = [
  ['resell', 'sell the name on'],
  ['rebuild', 'bring the site back'],
  ['redirect', 'point its links elsewhere'],
  ['prospect', 'offer a replacement for dead pages'],
];

export const FRESH: StoredBrief = {
  id: 0,
  createdAt: 0,
  risk: 'even',
  name: '',
  purpose: 'rebuild',
  subjectWords: [],
  trustedSites: [],
  excludedEndings: [],
  budgetMinor: null,
  currency: 'EUR',
  feesMinor: 1500,
  requiredWords: [],
  unwantedWords: [],
  languages: [],
  countries: [],
  weights: null,
  mix: null,
  fromAt: null,
  untilAt: null,
  limits: {},
  marginPercent: 40,
  months: 12,
  renewalMinor: 1500,
  interestPercent: 5,
  assumptions: ASSUMPTIONS,
};
