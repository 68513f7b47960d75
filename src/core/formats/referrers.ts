import ipaddr from 'ipaddr.js';
import { registrableDomain } from '../names/domain';
import { parseNumber } from './amounts';
import { parseDate } from './dates';
import type { ReferrerCuts, ReferrerField } from './referrer-fields';

/** One referring domain, as a file lists it. Times in ms since 1970 UTC; null: the file does not say. */
export interface Referrer {
  name: string;
  ending: string;
  strength: number | null;
  lastSeenAt: number | null;
  country: string | null;
  language: string | null;
  family: 4 | 6 | null;
  links: number | null;
}

export const CUT_NAMES = ['strength', 'last seen', 'ending', 'country', 'language', 'address family'] as const;
export type CutName = (typeof CUT_NAMES)[number];

const HEADER_WORDS: [ReferrerField, RegExp][] = [
  [
    'domain',
    /^(domain|referringdomain|referrer|refdomain|linkingdomain|sourcedomain|source|sourceurl|site|host|url|referringpage|from|name)$/,
  ],
  ['strength', /^(strength|score|rating|rank|power|weight|sitestrength)$/],
  ['last-seen', /^(lastseen|last|lastcheck|lastchecked|lastcrawled|seen|lastvisited|dateseen)$/],
  ['country', /^(country|countrycode|geo|location)$/],
  ['language', /^(language|lang|languagecode|locale)$/],
  ['address', /^(ip|ipaddress|address|ipv4|ipv6|hostaddress)$/],
  ['links', /^(links|backlinks|linkcount|numberoflinks|totallinks)$/],
];

/**
 * Meaning of each column by its title, only the first of a kind, and of columns of addresses by what stands in them: a column of domains or
 * web addresses is the domain, one of IP addresses the address, whatever they are called.
 *
 * @param rows the first rows below the header.
 */
export function guessReferrerColumns(header: string[], rows: readonly string[][] = []): ReferrerField[] {
  const columns = byTitle(header);
  const share = (index: number, is: (text: string) => boolean) =>
    rows.length === 0 ? 0 : rows.filter((row) => is((row[index] ?? '').trim())).length / rows.length;
  const settle = (field: ReferrerField, is: (text: string) => boolean) => {
    const titled = columns.indexOf(field);
    if (titled >= 0 && share(titled, is) >= FEW_VALUES) return;
    const shares = columns.map((_, index) => share(index, is));
    const best = shares.indexOf(Math.max(0, ...shares));
    if (best < 0 || shares[best] < MOST_VALUES) return;
    if (titled >= 0) columns[titled] = 'ignore';
    columns[best] = field;
  };
  settle('address', (text) => ipaddr.isValid(text) && /[.:]/.test(text));
  settle('domain', isDomain);
  return columns;
}

/**
 * How a referrer file begins: how many rows stand up to its titles, and these. They are looked for above the first row that names a domain,
 * in the column that most rows have one in: the row with most titles that are known, else the first as wide as the rows below. A file of
 * nothing but domains has none: its columns are called by nothing.
 */
export function referrerHead(rows: readonly string[][]): { headRows: number; header: string[] } {
  const width = Math.max(1, ...rows.map((row) => row.length));
  const named = (row: readonly string[], column: number) => isDomain((row[column] ?? '').trim());
  const counts = Array.from({ length: width }, (_, column) => rows.filter((row) => named(row, column)).length);
  const column = counts.indexOf(Math.max(...counts));
  const first = rows.findIndex((row) => named(row, column));
  if (first === 0) return { headRows: 0, header: new Array<string>(width).fill('') };
  // where nothing is a domain, the first row is taken for the titles
  const above = rows.slice(0, first < 0 ? 1 : first);
  const known = above.map((row) => byTitle(row).filter((field) => field !== 'ignore').length);
  const most = Math.max(...known);
  const wide = above.findIndex((row) => row.length === (rows[first]?.length ?? row.length));
  const at = most > 0 ? known.indexOf(most) : Math.max(0, wide);
  return { headRows: at + 1, header: above[at] ?? [] };
}

const isDomain = (text: string) => registrableDomain(text) !== null && !text.includes('@') && !bareAddress(text);

/** A column is what its title says when at least so many of its values may be that. */
const FEW_VALUES = 0.3;
/** A column is what its values are when so many of them are. */
const MOST_VALUES = 0.7;

function byTitle(header: string[]): ReferrerField[] {
  const used = new Set<ReferrerField>();
  return header.map((title) => {
    const word = title.toLowerCase().replace(/[^a-z0-9]/g, '');
    const field = HEADER_WORDS.find(([, words]) => words.test(word))?.[0] ?? 'ignore';
    if (field === 'ignore' || used.has(field)) return 'ignore';
    used.add(field);
    return field;
  });
}

/** The key under which a mapping is found again: the titles, whatever their case and spacing. */
export function headerKey(header: string[]): string {
  return header
    .map((title) => title.trim().toLowerCase().replace(/\s+/g, ' '))
    .join('|')
    .slice(0, 2000);
}

/** Why a row names no domain, in words, and the same of all rows that are set aside alike. */
export interface NoReferrer {
  aside: string;
  alike: string;
}

/** Reads one row. */
export function readReferrer(fields: string[], columns: readonly ReferrerField[]): Referrer | NoReferrer {
  const value = (field: ReferrerField): string => (fields[columns.indexOf(field)] ?? '').trim();
  const text = value('domain');
  if (text === '') return asideFor('the row names no domain');
  if (bareAddress(text)) return asideFor('a bare address, not a domain');
  const domain = registrableDomain(text);
  if (!domain) return asideFor(`"${text.slice(0, 80)}" is no registrable domain`, 'not a registrable domain');
  return {
    ...domain,
    strength: parseNumber(value('strength')),
    lastSeenAt: parseDate(value('last-seen')),
    country: code(value('country')),
    language: code(value('language')),
    family: familyOf(value('address')),
    links: parseNumber(value('links')),
  };
}

const asideFor = (aside: string, alike = aside): NoReferrer => ({ aside, alike });

/** @returns the first cut that keeps the referrer out, or null when it stays. */
export function cutBy(referrer: Referrer, cuts: ReferrerCuts, now: number): CutName | null {
  const { keepUnknown } = cuts;
  const outside = (isAsked: boolean, known: boolean, passes: boolean) => isAsked && (known ? !passes : !keepUnknown);
  if (
    outside(
      cuts.leastStrength !== null,
      referrer.strength !== null,
      (referrer.strength ?? 0) >= (cuts.leastStrength ?? 0),
    )
  )
    return 'strength';
  const since = now - (cuts.seenWithinDays ?? 0) * 86_400_000;
  if (outside(cuts.seenWithinDays !== null, referrer.lastSeenAt !== null, (referrer.lastSeenAt ?? 0) >= since))
    return 'last seen';
  const top = referrer.ending.slice(referrer.ending.lastIndexOf('.') + 1);
  if (cuts.endingsOut.includes(referrer.ending) || cuts.endingsOut.includes(top)) return 'ending';
  if (outside(cuts.countries.length > 0, referrer.country !== null, cuts.countries.includes(referrer.country ?? '')))
    return 'country';
  if (outside(cuts.languages.length > 0, referrer.language !== null, cuts.languages.includes(referrer.language ?? '')))
    return 'language';
  if (outside(cuts.family !== null, referrer.family !== null, referrer.family === cuts.family)) return 'address family';
  return null;
}

function bareAddress(text: string): boolean {
  const host = text.replace(/^[a-z]+:\/\//i, '').split(/[/?#]/, 1)[0];
  return ipaddr.isValid(host.replace(/^\[|\](:\d+)?$/g, '')) || /^\d{1,3}(\.\d{1,3}){3}(:\d+)?$/.test(host);
}

function familyOf(text: string): 4 | 6 | null {
  if (!ipaddr.isValid(text)) return null;
  return ipaddr.process(text).kind() === 'ipv4' ? 4 : 6;
}

/** `en-GB` and `EN` are `en`; anything that is no short code is not known. */
function code(text: string): string | null {
  return /^([a-z]{2,3})(?:[-_].*)?$/i.exec(text)?.[1].toLowerCase() ?? null;
}
