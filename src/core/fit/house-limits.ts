import type { Condition } from '../pool/conditions';

/** What a domain must have to be looked at for a brief; null or absent: anything. */
export interface HouseLimits {
  leastStrength?: number | null;
  leastTrust?: number | null;
  leastReferring?: number | null;
  mostSpamRisk?: number | null;
  /** Since its first registration or first sight. */
  leastYears?: number | null;
  mostLetters?: number | null;
  noHyphens?: boolean;
  noDigits?: boolean;
}

const AT_LEAST = {
  leastStrength: 'strength',
  leastTrust: 'trust',
  leastReferring: 'referringDomains',
  leastYears: 'age',
} as const;
const AT_MOST = { mostSpamRisk: 'spamRisk', mostLetters: 'length' } as const;

/**
 * House limits as conditions of a sieve. What is not known yet passes those that measuring decides, since it would never be measured
 * else.
 */
export function limitConditions(limits: HouseLimits): Condition[] {
  const conditions: Condition[] = [];
  const range = (fact: Range['fact'], min: number | null, max: number | null, keepUnknown: boolean) =>
    conditions.push({ type: 'range', fact, min, max, keepUnknown });
  for (const [key, fact] of Object.entries(AT_LEAST)) {
    const least = limits[key as keyof typeof AT_LEAST];
    if (least) range(fact as Range['fact'], least, null, true);
  }
  for (const [key, fact] of Object.entries(AT_MOST)) {
    const most = limits[key as keyof typeof AT_MOST];
    if (most !== null && most !== undefined) range(fact as Range['fact'], null, most, true);
  }
  if (limits.noHyphens) range('hyphens', null, 0, false);
  if (limits.noDigits) range('digits', null, 0, false);
  return conditions;
}

type Range = Extract<Condition, { type: 'range' }>;

/** What is known of a domain that house limits are about; null: not known, which breaks nothing. */
export interface LimitedFacts {
  strength: number | null;
  trust: number | null;
  referring: number | null;
  spamRisk: number | null;
  letters: number;
  hyphens: number;
  digits: number;
}

/** House limits that a domain breaks, in words. */
export function brokenLimits(limits: HouseLimits, facts: LimitedFacts): string[] {
  const broken: string[] = [];
  const least = (what: string, value: number | null, bound: number | null | undefined) => {
    if (bound && value !== null && value < bound)
      broken.push(`its ${what} of ${Math.round(value)} is under the hard limit of ${bound}`);
  };
  const most = (what: string, value: number | null, bound: number | null | undefined) => {
    if (bound !== null && bound !== undefined && value !== null && value > bound)
      broken.push(`its ${what} of ${value} is over the hard limit of ${bound}`);
  };
  least('strength', facts.strength, limits.leastStrength);
  least('trust', facts.trust, limits.leastTrust);
  least('number of referring domains', facts.referring, limits.leastReferring);
  most('spam risk', facts.spamRisk, limits.mostSpamRisk);
  most('length', facts.letters, limits.mostLetters);
  if (limits.noHyphens && facts.hyphens > 0) broken.push('it has a hyphen, which the house rules out');
  if (limits.noDigits && facts.digits > 0) broken.push('it has digits, which the house rules out');
  return broken;
}
