import { LISTING_KINDS } from '../formats/list-fields';
import { PHASES } from '../lifecycle/phase';

/**
 * The facts the pool can be sifted and sorted by.
 *
 * number: a 32-bit float; NaN is unknown. time: whole seconds since 1970 UTC in 32 unsigned bits, good to 2106; 0 is
 * unknown. choice: one of a list of words. text: the domain name itself. member: which sources named it.
 */
export type FactKind = 'number' | 'time' | 'choice' | 'text' | 'member';

export interface FactSpec {
  kind: FactKind;
  /** As a column head and at the start of a condition's sentence. */
  label: string;
  unit?: string;
  /** Whether a value may be unknown. */
  optional: boolean;
  /** Known words of a choice; absent: an open list. */
  choices?: readonly string[];
}

export const FACTS = {
  name: { kind: 'text', label: 'Name', optional: false },
  ending: { kind: 'choice', label: 'Ending', optional: false },
  phase: { kind: 'choice', label: 'Phase', optional: false, choices: PHASES },
  listing: { kind: 'choice', label: 'Listing', optional: true, choices: LISTING_KINDS },
  source: { kind: 'member', label: 'Source', optional: false },
  length: { kind: 'number', label: 'Length', unit: 'characters', optional: false },
  hyphens: { kind: 'number', label: 'Hyphens', optional: false },
  digits: { kind: 'number', label: 'Digits', optional: false },
  age: { kind: 'time', label: 'Age', unit: 'years', optional: true },
  firstSeen: { kind: 'time', label: 'First seen', unit: 'years ago', optional: true },
  backlinks: { kind: 'number', label: 'Backlinks', optional: true },
  referringDomains: { kind: 'number', label: 'Referring domains', optional: true },
  strength: { kind: 'number', label: 'Strength', optional: true },
  trust: { kind: 'number', label: 'Trust', optional: true },
  spamRisk: { kind: 'number', label: 'Spam risk', optional: true },
  readers: { kind: 'number', label: 'Readers', optional: true },
  price: { kind: 'number', label: 'Price', optional: true },
  closing: { kind: 'time', label: 'Closes', unit: 'hours from now', optional: true },
} as const satisfies Record<string, FactSpec>;

export type FactName = keyof typeof FACTS;
export const FACT_NAMES = Object.keys(FACTS) as FactName[];

/** Looks a fact up as its general type. */
export function factSpec(fact: FactName): FactSpec {
  return FACTS[fact];
}

/** Times are asked for in the unit people think in. */
const YEAR_SECONDS = 365.2425 * 86_400;

/**
 * Turns a bound in a time fact's unit into seconds since 1970. "Age at least 5" means registered at the latest 5 years
 * ago, so bounds of age and first seen change sides: see `bound`.
 */
export function timeBound(fact: FactName, value: number, nowSeconds: number): number {
  const at = fact === 'closing' ? nowSeconds + value * 3600 : nowSeconds - value * YEAR_SECONDS;
  return Math.max(1, Math.min(0xffffffff, Math.round(at)));
}

/** Whether a larger asked-for value means an earlier moment. */
export function countsBackwards(fact: FactName): boolean {
  return fact === 'age' || fact === 'firstSeen';
}

/** A stored time in the fact's unit; null when unknown. */
export function timeValue(fact: FactName, seconds: number, nowSeconds: number): number | null {
  if (seconds === 0) return null;
  return fact === 'closing' ? (seconds - nowSeconds) / 3600 : (nowSeconds - seconds) / YEAR_SECONDS;
}

/** What the index takes in for one domain; null is unknown. Times in seconds since 1970 UTC. */
export interface PoolRow {
  id: number;
  name: string;
  ending: string;
  phase: string;
  listing: string | null;
  length: number;
  hyphens: number;
  digits: number;
  age: number | null;
  firstSeen: number | null;
  backlinks: number | null;
  referringDomains: number | null;
  strength: number | null;
  trust: number | null;
  spamRisk: number | null;
  /** Readers that the pages mentioning it claim, together. */
  readers: number | null;
  price: number | null;
  closing: number | null;
}
