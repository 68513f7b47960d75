import type { Risk } from '../../core/bids/risk';
import type { Purpose as FitPurpose, FitWeights } from '../../core/fit/fit';
import type { HouseLimits } from '../../core/fit/house-limits';
import type { PURPOSES } from '../../core/fit/purposes';
import { ASSUMPTIONS, type WorthAssumptions } from '../../core/worth/assumptions';
import { type Store, statement, write } from '../base/database';

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

interface Packed {
  id: number;
  name: string;
  purpose: Purpose;
  subject_words: string;
  trusted_sites: string;
  excluded_endings: string;
  budget_minor: number | null;
  currency: string;
  risk: Risk;
  fees_minor: number;
  required_words: string;
  unwanted_words: string;
  languages: string;
  weights: string | null;
  mix: string | null;
  countries: string;
  from_at: number | null;
  until_at: number | null;
  house_limits: string;
  margin_percent: number;
  months: number;
  renewal_minor: number;
  interest_percent: number;
  assumptions: string;
  created_at: number;
}

export function listBriefs(store: Store): Brief[] {
  return (statement(store.raw, 'SELECT * FROM briefs ORDER BY id').all() as Packed[]).map((row) => ({
    id: row.id,
    name: row.name,
    purpose: row.purpose,
    subjectWords: JSON.parse(row.subject_words),
    trustedSites: JSON.parse(row.trusted_sites),
    excludedEndings: JSON.parse(row.excluded_endings),
    budgetMinor: row.budget_minor,
    currency: row.currency,
    risk: row.risk,
    feesMinor: row.fees_minor,
    requiredWords: JSON.parse(row.required_words),
    unwantedWords: JSON.parse(row.unwanted_words),
    languages: JSON.parse(row.languages),
    weights: row.weights === null ? null : JSON.parse(row.weights),
    mix: row.mix === null ? null : JSON.parse(row.mix),
    countries: JSON.parse(row.countries),
    fromAt: row.from_at,
    untilAt: row.until_at,
    limits: JSON.parse(row.house_limits),
    marginPercent: row.margin_percent,
    months: row.months,
    renewalMinor: row.renewal_minor,
    interestPercent: row.interest_percent,
    assumptions: { ...ASSUMPTIONS, ...JSON.parse(row.assumptions) },
    createdAt: row.created_at,
  }));
}

/** Adds a brief, or changes the one with this id. @throws when another brief has the name. */
export function saveBrief(store: Store, brief: BriefInput, id?: number): number {
  const values = [
    brief.name,
    brief.purpose,
    JSON.stringify(brief.subjectWords),
    JSON.stringify(brief.trustedSites),
    JSON.stringify(brief.excludedEndings),
    brief.budgetMinor,
    brief.currency,
    brief.risk ?? 'even',
    brief.feesMinor ?? FEES_MINOR,
    JSON.stringify(brief.requiredWords ?? []),
    JSON.stringify(brief.unwantedWords ?? []),
    JSON.stringify(brief.languages ?? []),
    brief.weights ? JSON.stringify(brief.weights) : null,
    brief.mix ? JSON.stringify(brief.mix) : null,
    JSON.stringify(brief.countries ?? []),
    brief.fromAt ?? null,
    brief.untilAt ?? null,
    JSON.stringify(brief.limits ?? {}),
    brief.marginPercent ?? MARGIN_PERCENT,
    brief.months ?? MONTHS,
    brief.renewalMinor ?? FEES_MINOR,
    brief.interestPercent ?? INTEREST_PERCENT,
    JSON.stringify(brief.assumptions ?? {}),
  ];
  return write(store, () => {
    if (id !== undefined) {
      statement(
        store.raw,
        `UPDATE briefs SET name = ?, purpose = ?, subject_words = ?, trusted_sites = ?, excluded_endings = ?, budget_minor = ?,
         currency = ?, risk = ?, fees_minor = ?, required_words = ?, unwanted_words = ?, languages = ?, weights = ?, mix = ?, countries = ?, from_at = ?,
         until_at = ?, house_limits = ?, margin_percent = ?, months = ?, renewal_minor = ?, interest_percent = ?,
         assumptions = ? WHERE id = ?`,
      ).run(...values, id);
      return id;
    }
    return Number(
      statement(
        store.raw,
        `INSERT INTO briefs (name, purpose, subject_words, trusted_sites, excluded_endings, budget_minor, currency, risk, fees_minor,
           required_words, unwanted_words, languages, weights, mix, countries, from_at, until_at, house_limits, margin_percent, months,
           renewal_minor, interest_percent, assumptions, created_at)
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      ).run(...values, store.now()).lastInsertRowid,
    );
  });
}

/** Whether something was ordered for a brief: its accounts are in its currency then. */
export function hasOrders(store: Store, id: number): boolean {
  return statement(store.raw, 'SELECT 1 FROM orders WHERE brief_id = ? LIMIT 1').get(id) !== undefined;
}

/** A brief with a shortlist or orders stays. @returns whether it was deleted. */
export function deleteBrief(store: Store, id: number): boolean {
  return write(store, () => {
    const used = statement(store.raw, 'SELECT 1 FROM shortlist WHERE brief_id = ? LIMIT 1').get(id);
    return (
      !used && !hasOrders(store, id) && statement(store.raw, 'DELETE FROM briefs WHERE id = ?').run(id).changes > 0
    );
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
