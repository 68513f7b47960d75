import { registrableDomain } from '../names/domain';
import type { CsvProblem } from './csv';
import { type ColumnTest, readTitled, type TitledInput, type Value } from './titled-table';

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
  name: { title: /^(domain|domainname|name|site|url)$/, field: 'domain' },
  phrase:
    /^(phrase|keyword|query|searchterm|searchquery|term|suchbegriff|motcl|motcle|palabraclave|parolachiave|zoekwoord)$/,
  position: { title: /^(position|place|rank|pos|currentposition)$/, field: 'position' },
  searches:
    /^(searches|searchesamonth|volume|searchvolume|monthlysearches|monthlyvolume|suchvolumen|volumederecherche|volumendebusqueda)$/,
  click: { title: /^(click|clickprice|costperclick|cpc|pricepervisit|visitcosts)$/, field: 'cpc' },
  currency: { title: /^(currency|cur)$/, field: 'currency' },
  competition: /^(competition|difficulty)$/,
  at: /^(date|at|asof|on|datum|fecha|data)$/,
} as const satisfies Record<string, ColumnTest>;
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
export function readRankings(given: TitledInput): {
  rankings: ListedRanking[];
  aside: CsvProblem[];
  problem: string | null;
} {
  const { rows, aside, missing } = readTitled(given, COLUMNS, NEEDED, readRanking);
  if (missing.length === 0) return { rankings: rows, aside, problem: null };
  const titles = missing.map((column) => TITLES[column as (typeof NEEDED)[number]]);
  return { rankings: [], aside, problem: `No line of titles names a column for ${titles.join(', ')}.` };
}

function readRanking(value: Value<Column>): Omit<ListedRanking, 'line'> | string {
  const domain = registrableDomain(value('name'));
  if (!domain) return `"${value('name').slice(0, 80)}" is no registrable domain`;
  const phrase = value('phrase').slice(0, 200);
  if (phrase === '') return 'it names no phrase';
  const position = value.number('position') ?? Number.NaN;
  if (!(position >= 1 && position <= 1000)) return `"${value('position').slice(0, 40)}" is no place among results`;
  const searches = value.number('searches') ?? Number.NaN;
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
