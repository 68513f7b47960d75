import { z } from 'zod';
import { BriefSchema, type StoredBrief } from '../../contracts/briefs';
import { FIT_PARTS, type FitPart, type FitWeights, mixedWeights, PURPOSE_WEIGHTS } from '../../core/fit/fit';
import type { HouseLimits } from '../../core/fit/house-limits';
import { PURPOSES, type Purpose } from '../../core/fit/purposes';
import { typedAmount } from '../../core/money/typed-amount';
import { ASSUMPTIONS, type WorthAssumptions } from '../../core/worth/assumptions';
import { amount, day, number, numberOrNone, sentBy, wordsOf } from '../forms/typed';
import { dayField } from '../parts/day-field';

type Bound = Exclude<keyof HouseLimits, 'noHyphens' | 'noDigits'>;

/** Hard limits, with what they bound and in which unit. */
export const LIMITS: readonly (readonly [key: Bound, words: string, unit: string])[] = [
  ['leastStrength', 'strength at least', ''],
  ['leastTrust', 'trust at least', ''],
  ['leastReferring', 'referring domains at least', ''],
  ['mostSpamRisk', 'spam risk at most', 'of 100'],
  ['leastYears', 'age at least', 'years'],
  ['mostLetters', 'length at most', 'letters'],
];
const ASSUMED = Object.keys(ASSUMPTIONS) as (keyof WorthAssumptions)[];

/** The same of each of some keys. */
const each = <Key extends string, Value>(keys: readonly Key[], make: (key: Key) => Value) =>
  Object.fromEntries(keys.map((key) => [key, make(key)])) as Record<Key, Value>;

const words = z.string().transform(wordsOf);
const cased = (turn: (code: string) => string) => z.string().transform((text) => wordsOf(text).map(turn));
const rounded = (most: number) =>
  number({ most })
    .or(z.literal('').transform(() => 0))
    .transform(Math.round);
const weight = numberOrNone({ most: 10 });
const bound = numberOrNone({ most: 1e9 });
const assumed = numberOrNone({ most: 1e6 });

/** What is typed into a brief, as the interface takes it; what each may be, the contract says. */
export const TypedBrief = sentBy(
  z
    .object({
      name: z.string().trim(),
      purpose: z.enum(PURPOSES),
      isMixed: z.boolean(),
      mix: z.object(each(PURPOSES, () => weight)),
      weights: z.object(each(FIT_PARTS, () => weight)),
      subjectWords: words,
      requiredWords: words,
      unwantedWords: words,
      languages: cased((code) => code.toLowerCase()),
      countries: cased((code) => code.toUpperCase()),
      trustedSites: words,
      excludedEndings: words,
      budgetMinor: amount('the budget'),
      currency: z.string().trim().toUpperCase(),
      feesMinor: amount('the sum'),
      renewalMinor: amount('the sum'),
      marginPercent: rounded(10_000),
      months: rounded(600),
      interestPercent: rounded(1000),
      fromAt: day,
      untilAt: day,
      limits: z.object({
        ...each(
          LIMITS.map(([key]) => key),
          () => bound,
        ),
        noHyphens: z.boolean(),
        noDigits: z.boolean(),
      }),
      assumptions: z.object(each(ASSUMED, () => assumed)),
    })
    .transform(({ isMixed, mix: typedMix, weights, assumptions, feesMinor, renewalMinor, ...typed }) => {
      const mix = isMixed ? each(PURPOSES, (purpose) => typedMix[purpose] ?? 0) : null;
      return {
        ...typed,
        mix,
        weights: ownWeights(weights, mix ? mixedWeights(mix) : PURPOSE_WEIGHTS[typed.purpose]),
        feesMinor: feesMinor ?? 0,
        renewalMinor: renewalMinor ?? 0,
        assumptions: each(ASSUMED, (key) => {
          const value = assumptions[key];
          if (value === null) return ASSUMPTIONS[key];
          return key === 'linkMinor' ? Math.round(value * 100) : value;
        }),
      };
    }),
  BriefSchema,
);

/** Weights as typed; null where they are the purpose's own. */
function ownWeights(typed: Record<FitPart, number | null>, own: FitWeights): FitWeights | null {
  const weights = each(FIT_PARTS, (part) => typed[part] ?? own[part]);
  return FIT_PARTS.some((part) => weights[part] !== own[part]) ? weights : null;
}

const listed = (entries: readonly string[]) => entries.join(', ');
const dayOrNone = (at: number | null) => (at === null ? '' : dayField(at));
const shown = (value: number | null | undefined) => (value === null || value === undefined ? '' : String(value));

/** A brief as it stands in its fields. */
export const typedBrief = (brief: StoredBrief): z.input<typeof TypedBrief> => ({
  name: brief.name,
  purpose: brief.purpose,
  isMixed: brief.mix !== null,
  mix: each(PURPOSES, (purpose: Purpose) => String(brief.mix?.[purpose] ?? (purpose === brief.purpose ? 6 : 0))),
  weights: each(FIT_PARTS, (part) => shown(brief.weights?.[part])),
  subjectWords: listed(brief.subjectWords),
  requiredWords: listed(brief.requiredWords),
  unwantedWords: listed(brief.unwantedWords),
  languages: listed(brief.languages),
  countries: listed(brief.countries),
  trustedSites: brief.trustedSites.join('\n'),
  excludedEndings: listed(brief.excludedEndings),
  budgetMinor: typedAmount(brief.budgetMinor),
  currency: brief.currency,
  feesMinor: typedAmount(brief.feesMinor),
  renewalMinor: typedAmount(brief.renewalMinor),
  marginPercent: String(brief.marginPercent),
  months: String(brief.months),
  interestPercent: String(brief.interestPercent),
  fromAt: dayOrNone(brief.fromAt),
  untilAt: dayOrNone(brief.untilAt),
  limits: {
    ...each(
      LIMITS.map(([key]) => key),
      (key) => shown(brief.limits[key]),
    ),
    noHyphens: brief.limits.noHyphens ?? false,
    noDigits: brief.limits.noDigits ?? false,
  },
  assumptions: each(ASSUMED, (key) =>
    String(key === 'linkMinor' ? brief.assumptions.linkMinor / 100 : brief.assumptions[key]),
  ),
});
