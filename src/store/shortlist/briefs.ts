import { z } from 'zod';
import type { Risk } from '../../core/bids/risk';
import { FIT_PARTS, type Purpose as FitPurpose, type FitWeights } from '../../core/fit/fit';
import type { HouseLimits } from '../../core/fit/house-limits';
import { PURPOSES } from '../../core/fit/purposes';
import { ASSUMPTIONS, type WorthAssumptions } from '../../core/worth/assumptions';
import { type Store, write } from '../base/database';
import { all, exists, fromJson, knex, run } from '../base/query';

export type Purpose = (typeof PURPOSES)[number] & FitPurpose;

/** What a year of registration costs about, where nothing is said: 15 units. */
const FEES_MINOR = 1500;
const MARGIN_PERCENT = 40;
const MONTHS = 12;
const INTEREST_PERCENT = 5;

export interface BriefInput {
  name: string;
  purpose: Purpose;
  subjectWords: string[];
  /** Registrable domains, A-labels. */
  trustedSites: string[];
  excludedEndings: string[];
  budgetMinor: number | null;
  currency: string;
  /** How sure a bid plan is to be; even when not said. */
  risk?: Risk;
  /** Paid beside a price, for a year: registration or transfer. In minor units. */
  feesMinor?: number;
  /** At least one must be a word of the name; none: any name. */
  requiredWords?: string[];
  unwantedWords?: string[];
  /** ISO 639-1; none: any. */
  languages?: string[];
  /** What counts how much for the fit, 0 to 10; null: as the purpose has it. */
  weights?: FitWeights | null;
  /** How much each purpose counts, 0 to 10; null: its one purpose. */
  mix?: Record<Purpose, number> | null;
  /** ISO 3166-1 alpha-2, of the people it is for; none: any. */
  countries?: string[];
  /** The time it runs for, ms since 1970 UTC; null: open. */
  fromAt?: number | null;
  untilAt?: number | null;
  /** What a domain must have to be looked at. */
  limits?: HouseLimits;
  /** What a domain is to bring over its cost, in hundredths of it. */
  marginPercent?: number;
  /** How long until it is sold, or has earned its cost. */
  months?: number;
  /** A year of registration, in minor units. */
  renewalMinor?: number;
  /** What money costs a year, in hundredths. */
  interestPercent?: number;
  /** What worth is reckoned with where nobody counted. */
  assumptions?: WorthAssumptions;
}

export interface Brief extends Required<BriefInput> {
  id: number;
  createdAt: number;
}

const Words = z.array(z.string());
const Weights = z.record(z.enum(FIT_PARTS), z.number()) satisfies z.ZodType<FitWeights>;
const Mix = z.record(z.enum(PURPOSES), z.number());
const bound = z.number().nullish();
const Limits = z.object({
  leastStrength: bound,
  leastTrust: bound,
  leastReferring: bound,
  mostSpamRisk: bound,
  leastYears: bound,
  mostLetters: bound,
  noHyphens: z.boolean().optional(),
  noDigits: z.boolean().optional(),
}) satisfies z.ZodType<HouseLimits>;
/** Of the assumptions, those that the brief has its own of. */
const Assumptions = z.record(z.string(), z.number());

export function listBriefs(store: Store): Brief[] {
  return all(store, knex('briefs').select('*').orderBy('id')).map((row) => ({
    id: row.id,
    name: row.name,
    purpose: row.purpose,
    subjectWords: fromJson(Words, row.subject_words),
    trustedSites: fromJson(Words, row.trusted_sites),
    excludedEndings: fromJson(Words, row.excluded_endings),
    budgetMinor: row.budget_minor,
    currency: row.currency,
    risk: row.risk,
    feesMinor: row.fees_minor,
    requiredWords: fromJson(Words, row.required_words),
    unwantedWords: fromJson(Words, row.unwanted_words),
    languages: fromJson(Words, row.languages),
    weights: row.weights === null ? null : fromJson(Weights, row.weights),
    mix: row.mix === null ? null : fromJson(Mix, row.mix),
    countries: fromJson(Words, row.countries),
    fromAt: row.from_at,
    untilAt: row.until_at,
    limits: fromJson(Limits, row.house_limits),
    marginPercent: row.margin_percent,
    months: row.months,
    renewalMinor: row.renewal_minor,
    interestPercent: row.interest_percent,
    assumptions: { ...ASSUMPTIONS, ...fromJson(Assumptions, row.assumptions) },
    createdAt: row.created_at,
  }));
}

/** Adds a brief, or changes the one with this id. @throws when another brief has the name. */
export function saveBrief(store: Store, brief: BriefInput, id?: number): number {
  const row = {
    name: brief.name,
    purpose: brief.purpose,
    subject_words: JSON.stringify(brief.subjectWords),
    trusted_sites: JSON.stringify(brief.trustedSites),
    excluded_endings: JSON.stringify(brief.excludedEndings),
    budget_minor: brief.budgetMinor,
    currency: brief.currency,
    risk: brief.risk ?? 'even',
    fees_minor: brief.feesMinor ?? FEES_MINOR,
    required_words: JSON.stringify(brief.requiredWords ?? []),
    unwanted_words: JSON.stringify(brief.unwantedWords ?? []),
    languages: JSON.stringify(brief.languages ?? []),
    weights: brief.weights ? JSON.stringify(brief.weights) : null,
    mix: brief.mix ? JSON.stringify(brief.mix) : null,
    countries: JSON.stringify(brief.countries ?? []),
    from_at: brief.fromAt ?? null,
    until_at: brief.untilAt ?? null,
    house_limits: JSON.stringify(brief.limits ?? {}),
    margin_percent: brief.marginPercent ?? MARGIN_PERCENT,
    months: brief.months ?? MONTHS,
    renewal_minor: brief.renewalMinor ?? FEES_MINOR,
    interest_percent: brief.interestPercent ?? INTEREST_PERCENT,
    assumptions: JSON.stringify(brief.assumptions ?? {}),
  };
  return write(store, () => {
    if (id !== undefined) {
      run(store, knex('briefs').where('id', id).update(row));
      return id;
    }
    return Number(run(store, knex('briefs').insert({ ...row, created_at: store.now() })).lastInsertRowid);
  });
}

/** Whether something was ordered for a brief: its accounts are in its currency then. */
export function hasOrders(store: Store, id: number): boolean {
  return exists(store, knex('orders').where('brief_id', id));
}

/** A brief with a shortlist or orders stays. @returns whether it was deleted. */
export function deleteBrief(store: Store, id: number): boolean {
  return write(store, () => {
    const used = exists(store, knex('shortlist').where('brief_id', id));
    return !used && !hasOrders(store, id) && run(store, knex('briefs').where('id', id).delete()).changes > 0;
  });
}

/** There is always one brief to shortlist for. */
export function ensureBrief(store: Store): void {
  if (listBriefs(store).length === 0)
    saveBrief(store, {
      name: 'First brief',
      purpose: 'rebuild',
      subjectWords: [],
      trustedSites: [],
      excludedEndings: [],
      budgetMinor: null,
      currency: 'EUR',
    });
}
