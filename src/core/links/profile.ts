import { registrableDomain } from '../names/domain';
import { countryName, countryOfEnding } from './countries';

/** A referring domain as far as its place in the whole matters. */
export interface ProfileReferrer {
  site: string;
  /** 0 to 100; null: not measured. */
  strength: number | null;
  /** Share of a vote that is left after its discounts, 0 to 1. */
  weight: number;
  /** ISO 639-1 of its linking page or of the site; null: not told. */
  language: string | null;
  /** ms since 1970 UTC; null: not known. */
  firstSeenAt: number | null;
  /** When its last link was found gone, or was last seen by an index that no longer has it; null: it stands, or nobody looked. */
  lostAt: number | null;
}

/** Referring domains that have something in common. */
export interface ReferrerGroup {
  key: string;
  title: string;
  domains: number;
  /** Sum of what is left of their votes. */
  votes: number;
}

export interface StrengthStep {
  /** Strength from this up to, but not including, `to`; both null: not measured. */
  from: number | null;
  to: number | null;
  domains: number;
  votes: number;
}

const STEP = 10;

/**
 * Referring domains by strength in steps of ten, from 0 to the strongest step there is, and those that are not measured last. One
 * step of ten is the same factor of PageRank anywhere (`strengthOf`), so this is their spread on a log scale.
 */
export function byStrength(referrers: readonly ProfileReferrer[]): StrengthStep[] {
  const steps: StrengthStep[] = [];
  const unmeasured: StrengthStep = { from: null, to: null, domains: 0, votes: 0 };
  for (const { strength, weight } of referrers) {
    const place = strength === null ? -1 : Math.min(100 / STEP - 1, Math.floor(strength / STEP));
    while (steps.length <= place) {
      const from = steps.length * STEP;
      steps.push({ from, to: from + STEP, domains: 0, votes: 0 });
    }
    const step = place < 0 ? unmeasured : steps[place];
    step.domains++;
    step.votes += weight;
  }
  return unmeasured.domains > 0 ? [...steps, unmeasured] : steps;
}

/** Referring domains by what they have in common, the largest group first. @param of key and title; null: it is told of none. */
export function groupReferrers(
  referrers: readonly ProfileReferrer[],
  of: (referrer: ProfileReferrer) => { key: string; title: string } | null,
  none: string,
): ReferrerGroup[] {
  const groups = new Map<string, ReferrerGroup>();
  for (const referrer of referrers) {
    const { key, title } = of(referrer) ?? { key: '', title: none };
    let group = groups.get(key);
    if (!group) {
      group = { key, title, domains: 0, votes: 0 };
      groups.set(key, group);
    }
    group.domains++;
    group.votes += referrer.weight;
  }
  return [...groups.values()].sort((a, b) => b.domains - a.domains || (a.title < b.title ? -1 : 1));
}

export function byEnding(referrers: readonly ProfileReferrer[]): ReferrerGroup[] {
  const ending = (site: string) => registrableDomain(site)?.ending ?? site.slice(site.lastIndexOf('.') + 1);
  return groupReferrers(
    referrers,
    ({ site }) => {
      const key = ending(site);
      return { key, title: `.${key}` };
    },
    '',
  );
}

/** By the country of their ending: a site under .com may stand anywhere, so it is told of none. */
export function byCountry(referrers: readonly ProfileReferrer[]): ReferrerGroup[] {
  return groupReferrers(
    referrers,
    ({ site }) => {
      const code = countryOfEnding(site);
      return code === null ? null : { key: code, title: countryName(code) };
    },
    'no country by its TLD',
  );
}

/** @param nameOf what people call a language. */
export function byLanguage(referrers: readonly ProfileReferrer[], nameOf: (code: string) => string): ReferrerGroup[] {
  return groupReferrers(
    referrers,
    ({ language }) => (language === null ? null : { key: language, title: nameOf(language) }),
    'not read',
  );
}

/** A span of time with the referring domains that began to link in it, and those whose last link was lost. */
export interface LinkSpan {
  /** Begin and end, ms since 1970 UTC. */
  from: number;
  to: number;
  gained: number;
  lost: number;
}

const MOST_QUARTERS = 200;
const quarterOf = (at: number) => {
  const date = new Date(at);
  return date.getUTCFullYear() * 4 + Math.floor(date.getUTCMonth() / 3);
};
const quarterStart = (quarter: number) => Date.UTC(Math.floor(quarter / 4), (quarter % 4) * 3, 1);

/**
 * Referring domains gained and lost by quarter, from the first quarter with one to the last. Those without a date of their first link
 * are in none of them.
 */
export function gainedAndLost(referrers: readonly ProfileReferrer[]): LinkSpan[] {
  const spans = new Map<number, { gained: number; lost: number }>();
  const add = (at: number | null, what: 'gained' | 'lost') => {
    if (at === null || !Number.isFinite(at)) return;
    const quarter = quarterOf(at);
    const span = spans.get(quarter) ?? { gained: 0, lost: 0 };
    span[what]++;
    spans.set(quarter, span);
  };
  for (const { firstSeenAt, lostAt } of referrers) {
    add(firstSeenAt, 'gained');
    add(lostAt, 'lost');
  }
  if (spans.size === 0) return [];
  const last = Math.max(...spans.keys());
  const first = Math.max(Math.min(...spans.keys()), last - MOST_QUARTERS + 1);
  return Array.from({ length: last - first + 1 }, (_, n) => ({
    from: quarterStart(first + n),
    to: quarterStart(first + n + 1),
    ...(spans.get(first + n) ?? { gained: 0, lost: 0 }),
  }));
}
