import { registrableDomain } from '../names/domain';
import type { CsvProblem } from './csv';
import { readTitled, type Value } from './titled-table';

/** A phrase that a domain is found by, as a list estimates it. */
export interface ListedRanking {
  line: number;
  /** Registrable domain, A-labels. */
  name: string;
  phrase: string;
  position: number;
  searches: number;
  clickMinor: number;
  currency: string | null;
  /** 0 to 1; null: not said. */
  competition: number | null;
  /** ms since 1970 UTC; null: not said. */
  at: number | null;
}

const COLUMNS = {
  name: /^(domain|domainname|name|site|url)$/,
  phrase: /^(phrase|keyword|query|searchterm|term)$/,
  position: /^(position|place|rank|pos)$/,
  searches: /^(searches|searchesamonth|volume|searchvolume|monthlysearches)$/,
  click: /^(click|clickprice|costperclick|cpc|pricepervisit|visitcosts)$/,
  currency: /^(currency|cur)$/,
  competition: /^(competition|difficulty)$/,
  at: /^(date|at|asof|on)$/,
} as const;
type Column = keyof typeof COLUMNS;
const NEEDED = ['name', 'phrase', 'position', 'searches'] as const;
const TITLES: Record<(typeof NEEDED)[number], string> = {
  name: 'domain',
  phrase: 'phrase',
  position: 'position',
  searches: 'searches',
};

/**
 * Reads a list of phrases that domains are found by: a table with a header, its columns found by their titles (domain, phrase, position,
 * searches a month; price of a visit, currency, competition and date where they are there).
 *
 * @returns problem where the table has no such columns.
 */
export function readRankings(text: string): { rankings: ListedRanking[]; aside: CsvProblem[]; problem: string | null } {
  const { rows, aside, missing } = readTitled(text, COLUMNS, NEEDED, readRanking);
  if (missing.length === 0) return { rankings: rows, aside, problem: null };
  const titles = missing.map((column) => TITLES[column as (typeof NEEDED)[number]]);
  return { rankings: [], aside, problem: `The first line names no column for ${titles.join(', ')}.` };
}

function readRanking(value: Value<Column>): Omit<ListedRanking, 'line'> | string {
  const domain = registrableDomain(value('name'));
  if (!domain) return `"${value('name').slice(0, 80)}" is no registrable domain`;
  const phrase = value('phrase').slice(0, 200);
  if (phrase === '') return 'it names no phrase';
  const position = Number(value('position'));
  if (!(position >= 1 && position <= 1000)) return `"${value('position').slice(0, 40)}" is no place among results`;
  const searches = Number(value('searches').replace(/[ ,](?=\d{3})/g, ''));
  if (!(searches >= 0 && searches <= 1e10)) return `"${value('searches').slice(0, 40)}" is no number of searches`;
  const price = value('click') === '' ? { minor: 0, currency: null } : value.price('click');
  if (!price) return `"${value('click').slice(0, 40)}" is no price`;
  return {
    name: domain.name,
    phrase,
    position: Math.round(position),
    searches: Math.round(searches),
    clickMinor: price.minor,
    currency: price.currency ?? value.currency('currency'),
    competition: shareOf(value('competition')),
    at: value('at') === '' ? null : value.date('at'),
  };
}

/** "0.4", "40" or "40%" as a share. */
function shareOf(text: string): number | null {
  const number = Number.parseFloat(text);
  if (!(number >= 0 && number <= 100)) return null;
  return text.includes('%') || number > 1 ? number / 100 : number;
}
