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
