import type { FitWeights, Purpose } from '../../core/fit/fit';
import type { HouseLimits } from '../../core/fit/house-limits';
import { ASSUMPTIONS, type WorthAssumptions } from '../../core/worth/assumptions';

/** A brief as its screens show and change it. */
export interface BriefView {
  id: number;
  name: string;
  purpose: Purpose;
  subjectWords: string[];
  trustedSites: string[];
  excludedEndings: string[];
  budgetMinor: number | null;
  currency: string;
  feesMinor: number;
  requiredWords: string[];
  unwantedWords: string[];
  languages: string[];
  countries: string[];
  weights: FitWeights | null;
  mix: Record<Purpose, number> | null;
  fromAt: number | null;
  untilAt: number | null;
  limits: HouseLimits;
  marginPercent: number;
  months: number;
  renewalMinor: number;
  interestPercent: number;
  assumptions: WorthAssumptions;
}

export const PURPOSES: [purpose: Purpose, words: string][] = [
  ['resell', 'sell the name on'],
  ['rebuild', 'bring the site back'],
  ['redirect', 'point its links elsewhere'],
  ['prospect', 'offer a replacement for dead pages'],
];

export const FRESH: BriefView = {
  id: 0,
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
