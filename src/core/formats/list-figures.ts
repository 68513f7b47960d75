import { homeMinor, type Rates } from '../listings/rates';
import type { CountRule, SourceCount } from '../measures/counts';
import type { ListField } from './list-fields';
import type { Told } from './told';

/** Places for scores: the names that came first have them. */
export const SCORES = [
  'listScore',
  'listScore2',
  'listScore3',
  'listScore4',
  'listScore5',
  'listScore6',
  'listScore7',
  'listScore8',
] as const;

/**
 * Figures of a domain that lists state: facts of the pool (core/pool/facts.ts), in the order in which they are packed. Counts are of
 * links, visits a month and keywords; the position is the best one; a click's price is in minor units of its currency; scores are
 * somebody else's, as they stand, each name at a place of its own.
 */
export const LIST_FIGURES = [
  'listReferringDomains',
  'listBacklinks',
  'listTraffic',
  'listKeywords',
  'listPosition',
  'listCpc',
  ...SCORES,
] as const;
export type ListFigure = (typeof LIST_FIGURES)[number];
export const CPC = LIST_FIGURES.indexOf('listCpc');
/** The name of the score that stands at a place of its own; null: nobody has it; undefined: the fact is no such place. */
export function scoreNameAt(fact: string, names: readonly string[]): string | null | undefined {
  const place = (SCORES as readonly string[]).indexOf(fact);
  return place < 0 ? undefined : (names[place] ?? null);
}

/** Columns of lists that state a figure, beside scores. */
export const FIGURE_FIELDS: Partial<Record<ListField, ListFigure>> = {
  'referring-domains': 'listReferringDomains',
  backlinks: 'listBacklinks',
  traffic: 'listTraffic',
  keywords: 'listKeywords',
  position: 'listPosition',
  cpc: 'listCpc',
};

/** Names of the scores among the columns of a list, in their order. */
export function scoreNames(columns: readonly ListField[], told: readonly Told[]): string[] {
  return columns.flatMap((field, n) => (field === 'score' && told[n] ? [told[n].title] : []));
}

/** Figures that a list states, by its columns. @param scores at which place of SCORES a score stands, by its name. */
export function statedFigures(
  columns: readonly ListField[],
  told: readonly Told[],
  scores: Readonly<Record<string, number>>,
): ListFigure[] {
  const places = scoreNames(columns, told).flatMap((name) => scores[name] ?? []);
  const stated = new Set([...columns.flatMap((field) => FIGURE_FIELDS[field] ?? []), ...places.map((n) => SCORES[n])]);
  return LIST_FIGURES.filter((figure) => stated.has(figure));
}

/** The figures of one row: each or NaN, by the order of LIST_FIGURES. */
export interface StatedFigures {
  values: ArrayLike<number>;
  /** Of the click's price, ISO 4217; null: it does not say. */
  currency: string | null;
}

/**
 * Figures as a sighting keeps them: one after another, nothing for what is not known, the currency behind the price of a click. Null: there
 * are none. `4,12,,,,85EUR`
 */
export function packFigures({ values, currency }: StatedFigures): string | null {
  let text = '';
  let last = 0;
  for (let n = 0; n < LIST_FIGURES.length; n++) {
    if (!Number.isNaN(values[n])) {
      text += values[n];
      if (n === CPC && currency !== null) text += currency;
      last = text.length;
    }
    text += ',';
  }
  return last === 0 ? null : text.slice(0, last);
}

/** What packFigures has packed; what is not of its making is not known. */
export function unpackFigures(text: string): StatedFigures {
  const values = new Float64Array(LIST_FIGURES.length).fill(Number.NaN);
  let currency: string | null = null;
  for (const [n, given] of text.split(',').slice(0, values.length).entries()) {
    let cell = given;
    if (n === CPC && /[A-Z]{3}$/.test(cell)) {
      currency = cell.slice(-3);
      cell = cell.slice(0, -3);
    }
    if (cell !== '') values[n] = Number(cell);
  }
  return { values, currency };
}

/** What one list states of a domain. */
export interface ListStatement {
  sourceId: number;
  source: string;
  /** When the list was read, ms since 1970 UTC. */
  at: number;
  figures: StatedFigures;
}

/** Links that lists count, as those of an index stand beside each other. */
export function statedCounts(statements: readonly ListStatement[]): SourceCount[] {
  return statements.flatMap(({ sourceId, source, at, figures: { values } }) => {
    const [referringDomains, backlinks] = [values[0], values[1]].map((one) => (Number.isNaN(one) ? null : one));
    if (referringDomains === null && backlinks === null) return [];
    return { sourceId, source, kind: 'list', at, backlinks, referringDomains, nofollow: null, coverage: null };
  });
}

/** A figure that counts, and whose it is. */
export interface ChosenFigure {
  value: number;
  currency: string | null;
  from: ListStatement;
}

/**
 * Which list's figures count for a domain, each by itself: those of the source that the rule names, where it states one; by `largest` the
 * greatest, a position being better the smaller it is; else those of the list that was read last.
 */
export function chooseFigures(
  statements: readonly ListStatement[],
  rule: CountRule,
): Partial<Record<ListFigure, ChosenFigure>> {
  const chosen: Partial<Record<ListFigure, ChosenFigure>> = {};
  for (const from of statements) {
    for (const [n, figure] of LIST_FIGURES.entries()) {
      const value = from.figures.values[n];
      if (Number.isNaN(value)) continue;
      const best = chosen[figure];
      if (best === undefined || isBetter(figure, { value, from }, best, rule))
        chosen[figure] = { value, currency: n === CPC ? from.figures.currency : null, from };
    }
  }
  return chosen;
}

/** A figure as the pool holds it: the price of a click in whole units of the user's currency; null: no rate is known. */
export function poolFigure(figure: ListFigure, { value, currency }: ChosenFigure, rates: Rates): number | null {
  if (figure !== 'listCpc') return value;
  const home = homeMinor(value, currency, rates);
  return home === null ? null : home / 100;
}

type Stated = Pick<ChosenFigure, 'value' | 'from'>;
function isBetter(figure: ListFigure, one: Stated, other: Stated, rule: CountRule): boolean {
  if (typeof rule === 'object') {
    const isNamed = one.from.source === rule.source;
    if (isNamed !== (other.from.source === rule.source)) return isNamed;
  }
  if (rule === 'largest' && one.value !== other.value)
    return figure === 'listPosition' ? one.value < other.value : one.value > other.value;
  return one.from.at > other.from.at || (one.from.at === other.from.at && one.from.sourceId > other.from.sourceId);
}
