import { XMLParser } from 'fast-xml-parser';
import { z } from 'zod';
import type { CsvProblem } from '../formats/csv';
import { parseDate } from '../formats/dates';
import { readTitled, type TitledInput } from '../formats/titled-table';

/** Rates as a table of them says. */
export interface RateTable {
  /** What one unit of each currency is worth in the wanted one, by ISO 4217 code; the wanted one is not among them. */
  worth: Record<string, number>;
  /** The day that they are of, ms since 1970 UTC; null: the table does not say. */
  at: number | null;
  /** The currency that the table counts in, ISO 4217; null: it says at once what each is worth in the wanted one. */
  base: string | null;
  aside: CsvProblem[];
  /** Why nothing could be taken; null: something was. */
  problem: string | null;
}

/** So many of a currency are worth one unit of the base, or of the wanted currency. */
interface Quote {
  currency: string;
  perBase: number;
  at: number | null;
}

const CODE = /^[A-Z]{3}$/;
const MOST_AWAY = 1e9;

/**
 * Reads a table of rates: the XML in which central banks publish them (the reference rates of the euro, and SDMX-ML 2.1 series with a
 * currency and its denominator), tables with a line for a currency (currency and rate, with the base that the rates are per; or currency and
 * worth), and tables with a column for a currency and a line for a day, of which the latest is taken. Rates of a base are counted over to
 * the wanted currency.
 *
 * @param home the wanted currency, ISO 4217.
 * @param base what one unit of counts so many of the others, where the table does not say so; null: the euro.
 */
export function readRateTable(given: TitledInput, home: string, base: string | null = null): RateTable {
  const text = typeof given === 'string' ? given.trimStart() : '';
  if (text.startsWith('<') && /<(\w+:)?(Cube|Series)\b/.test(text)) return crossed(quotesOfXml(text), home);
  const wide = typeof given === 'string' ? quotesOfWide(given) : null;
  if (wide) return crossed({ base: base ?? 'EUR', quotes: wide, aside: [] }, home);
  return readLong(given, home, base);
}

interface Quotes {
  base: string;
  quotes: Quote[];
  aside: CsvProblem[];
}

const nothing = (problem: string, aside: CsvProblem[] = []): RateTable => ({
  worth: {},
  at: null,
  base: null,
  aside,
  problem,
});

/** From so many per base to worth in the wanted currency. */
function crossed({ base, quotes, aside }: Quotes, home: string): RateTable {
  if (quotes.length === 0) return nothing('It has no rates that can be read.', aside);
  const per = new Map(quotes.map(({ currency, perBase }) => [currency, perBase]));
  per.set(base, 1);
  const own = per.get(home);
  if (own === undefined) return nothing(`It has no rate of ${home}, so nothing can be counted in it.`, aside);
  const worth = Object.fromEntries(
    [...per]
      .filter(([currency]) => currency !== home)
      .map(([currency, perBase]) => [currency, rounded(own / perBase)] as const),
  );
  return { worth, at: latest(quotes), base, aside, problem: null };
}

/** Ten digits that count: more than any table has. */
const rounded = (rate: number): number => Number(rate.toPrecision(10));

const latest = (quotes: readonly Quote[]): number | null =>
  quotes.reduce<number | null>((last, { at }) => (at !== null && (last === null || at > last) ? at : last), null);

const isRate = (value: number | null): value is number => value !== null && value > 0 && value <= MOST_AWAY;

const Attributes = z.looseObject({
  '@currency': z.string().optional(),
  '@rate': z.string().optional(),
  '@time': z.string().optional(),
  '@CURRENCY': z.string().optional(),
  '@CURRENCY_DENOM': z.string().optional(),
  '@TIME_PERIOD': z.string().optional(),
  '@OBS_VALUE': z.string().optional(),
});

/** Rates of the euro per day, and series of one currency against another; of several days the latest. */
function quotesOfXml(text: string): Quotes {
  const parser = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    removeNSPrefix: true,
    parseAttributeValue: false,
  });
  let root: unknown;
  try {
    root = parser.parse(text);
  } catch {
    return { base: 'EUR', quotes: [], aside: [] };
  }
  const found: (Quote & { base: string })[] = [];
  const aside: CsvProblem[] = [];
  const add = (currency: string, base: string, value: string, day: string) => {
    const perBase = Number(value);
    const at = parseDate(day);
    if (CODE.test(currency) && CODE.test(base) && isRate(perBase)) found.push({ currency, base, perBase, at });
    else
      aside.push({
        line: found.length + aside.length + 1,
        reason: 'no rate',
        sample: `${currency} ${value}`.slice(0, 80),
      });
  };
  walk(root, '', (node, day) => {
    const { data } = Attributes.safeParse(node);
    if (!data) return day;
    const {
      '@time': time,
      '@currency': currency,
      '@rate': rate,
      '@CURRENCY': code,
      '@CURRENCY_DENOM': denominator,
    } = data;
    if (currency !== undefined && rate !== undefined) add(currency, 'EUR', rate, day);
    if (code !== undefined && denominator !== undefined)
      for (const one of listed(data.Obs)) {
        const { data: seen } = Attributes.safeParse(one);
        if (seen?.['@OBS_VALUE'] !== undefined) add(code, denominator, seen['@OBS_VALUE'], seen['@TIME_PERIOD'] ?? '');
      }
    return time ?? day;
  });
  const base = found[0]?.base ?? 'EUR';
  const newest = new Map<string, Quote>();
  for (const one of found) {
    if (one.base !== base) aside.push({ line: 0, reason: `counted in ${one.base}`, sample: one.currency });
    else if ((newest.get(one.currency)?.at ?? Number.NEGATIVE_INFINITY) <= (one.at ?? 0)) newest.set(one.currency, one);
  }
  const day = latest([...newest.values()]);
  return { base, quotes: [...newest.values()].filter(({ at }) => at === day), aside };
}

const listed = (value: unknown): unknown[] => (value === undefined ? [] : Array.isArray(value) ? value : [value]);

/** Goes through a tree; `see` is given what it gave for the node above. */
function walk(node: unknown, above: string, see: (node: object, above: string) => string): void {
  if (typeof node !== 'object' || node === null) return;
  const told = Array.isArray(node) ? above : see(node, above);
  for (const child of Object.values(node)) walk(child, told, see);
}

/** A line of codes above lines of a day each: the latest of them. null: it is another table. */
function quotesOfWide(text: string): Quote[] | null {
  const lines = text
    .replace(/^\ufeff/, '')
    .split(/\r?\n/)
    .map((line) => line.split(/[,;\t]/).map((cell) => cell.trim().replace(/^"|"$/g, '')));
  const at = lines.slice(0, 10).findIndex((cells) => cells.filter((cell) => CODE.test(cell)).length >= 3);
  if (at < 0) return null;
  const codes = lines[at];
  const days = lines
    .slice(at + 1)
    .map((cells) => ({ cells, day: parseDate(cells[0] ?? '') }))
    .filter(({ cells }) => cells.length > 3);
  const [newest] = days.sort((a, b) => (b.day ?? 0) - (a.day ?? 0));
  if (!newest) return null;
  return codes.flatMap((currency, n): Quote[] => {
    const perBase = Number(newest.cells[n] || Number.NaN);
    return CODE.test(currency) && isRate(perBase) ? [{ currency, perBase, at: newest.day }] : [];
  });
}

const COLUMNS = {
  currency: /^(currency|currencycode|code|iso|isocode|whrung|waehrung|devise|moneda|valuta|target|quote|to)$/,
  worth: /^(worth|value|wert|inhome|inmine)$/,
  rate: /^(rate|exchangerate|mid|middle|average|close|reference|kurs|taux|tipo|tasso|koers)$/,
  units: /^(units?|nominal|amount|per|quantity|anzahl|einheiten)$/,
  base: /^(base|basecurrency|from|source|against|denominator|basis)$/,
  day: /^(date|day|time|asof|datum|jour|fecha|data|validon|published)$/,
} as const;

/** A line for a currency. */
function readLong(given: TitledInput, home: string, assumed: string | null): RateTable {
  const direct = readTitled(given, COLUMNS, ['currency', 'worth'], (value) =>
    quoteOf(value('currency'), value.number('worth'), value.number('units'), value.date('day')),
  );
  if (direct.missing.length === 0) {
    const mine = direct.rows.filter(({ currency }) => currency !== home);
    if (mine.length === 0) return nothing('It has no rates that can be read.', direct.aside);
    const day = latest(mine);
    const worth = Object.fromEntries(
      mine.filter(({ at }) => at === day).map(({ currency, perBase }) => [currency, rounded(perBase)] as const),
    );
    return { worth, at: day, base: null, aside: direct.aside, problem: null };
  }
  const bases = new Set<string>();
  const { rows, aside, missing } = readTitled(given, COLUMNS, ['currency', 'rate'], (value) => {
    const quote = quoteOf(value('currency'), value.number('rate'), null, value.date('day'));
    const base = value('base').toUpperCase();
    if (typeof quote !== 'string' && base !== '') bases.add(base);
    return quote;
  });
  if (missing.length > 0)
    return nothing('No line of titles names columns for a currency and its rate or what it is worth.', aside);
  if (bases.size > 1)
    return nothing(`Its rates are per one of ${[...bases].sort().join(', ')}: bring in one of them at a time.`, aside);
  const day = latest(rows);
  const [base = assumed ?? 'EUR'] = bases;
  return crossed({ base, quotes: rows.filter(({ at }) => at === day), aside }, home);
}

function quoteOf(code: string, figure: number | null, units: number | null, at: number | null): Quote | string {
  const currency = code.toUpperCase();
  if (!CODE.test(currency)) return `"${code.slice(0, 20)}" is no currency`;
  if (!isRate(figure)) return `${currency} has no rate`;
  return { currency, perBase: figure / (units !== null && units > 0 ? units : 1), at };
}
