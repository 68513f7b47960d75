/** Which mark parts whole numbers from their fractions in a column; null: nothing tells, and a lone mark before three digits groups. */
export type DecimalMark = '.' | ',' | null;

/** What stands where there is no value. */
const EMPTY =
  /^(?:[-\u2013\u2014_.?]+|n\/?a|#n\/a|null|none|nil|nan|undefined|unknown|unbekannt|inconnu|k\.?\s?a\.?|tbd|tba|\(none\)|\(null\))$/i;

/** Whether a cell says that there is nothing to be said. */
export function isEmptyValue(text: string): boolean {
  return text.trim() === '' || EMPTY.test(text.trim());
}

const SPACES = /[\s\u00a0\u202f\u2009]/g;
const APOSTROPHES = /['\u2019\u02bc`]/g;
const SCALES: [words: RegExp, scale: number][] = [
  [/^(?:k|tsd\.?|thousand|mil)$/i, 1e3],
  [/^(?:m|mm|mn|mio\.?|mln\.?|mill?\.?|millions?|millionen)$/i, 1e6],
  [/^(?:b|bn|billions?|mrd\.?)$/i, 1e9],
];
const NUMBER = /^([+\u2212-]?)(\d[\d.,]*|[.,]\d+)([a-zA-Z]+\.?)?([+%]?)$/;

/** Digits with marks: the whole part, the fraction, and which mark parted them; null: they make no number. */
function digitsOf(text: string, mark: DecimalMark, isScaled: boolean): number | null {
  const comma = text.lastIndexOf(',');
  const dot = text.lastIndexOf('.');
  let decimal: '.' | ',' | null = null;
  if (comma >= 0 && dot >= 0) decimal = comma > dot ? ',' : '.';
  else if (comma >= 0 || dot >= 0) {
    const only = comma >= 0 ? ',' : '.';
    const groups = text.split(only);
    const isGrouped = groups.length > 2 || (groups[1].length === 3 && groups[0] !== '' && !/^0+$/.test(groups[0]));
    const isDecimal = groups.length === 2 && (!isGrouped || mark === only || isScaled);
    decimal = isDecimal ? only : null;
  }
  const at = decimal === null ? -1 : text.lastIndexOf(decimal);
  const whole = at < 0 ? text : text.slice(0, at);
  const fraction = at < 0 ? '' : text.slice(at + 1);
  const groups = whole.split(/[.,]/);
  if (!isGrouping(groups) || /[.,]/.test(fraction)) return null;
  const value = Number(`${groups.join('')}.${fraction === '' ? '0' : fraction}`);
  return Number.isFinite(value) ? value : null;
}

/** 1,234,567, and 12,34,567 as in India. */
function isGrouping(groups: readonly string[]): boolean {
  if (groups.length === 1) return true;
  const [first, ...rest] = groups;
  const isWest = first.length <= 3 && first.length > 0 && rest.every((group) => group.length === 3);
  const middle = rest.slice(0, -1);
  const isIndian = first.length <= 2 && middle.every((group) => group.length === 2) && rest.at(-1)?.length === 3;
  return isWest || (isIndian && rest.length > 1);
}

/**
 * A count or figure: `1,234`, `1.234`, `1 234`, `1'234.50`, `12,34,567`, `1.2k`, `3M`, `4.5`, `45%` (as 45), `~100`, `1000+`, `(12)` below
 * nought. A lone mark before exactly three digits groups, unless `mark` says that it does not.
 *
 * @returns null when it is no number.
 */
export function parseNumber(text: string, mark: DecimalMark = null): number | null {
  const bare = text
    .replace(SPACES, '')
    .replace(APOSTROPHES, '')
    .replace(/^[~\u2248]|^ca\.?(?=\d)/i, '');
  // as spreadsheets write what is too wide for a column
  if (/^[+-]?\d(?:\.\d+)?e[+-]?\d{1,2}$/i.test(bare)) return Number(bare);
  const negative = /^\((.+)\)$/.exec(bare);
  const found = NUMBER.exec(negative ? negative[1] : bare);
  if (!found) return null;
  const [, sign, digits, word = ''] = found;
  const scale = word === '' ? 1 : SCALES.find(([words]) => words.test(word))?.[1];
  if (scale === undefined) return null;
  const value = digitsOf(digits, mark, word !== '');
  if (value === null) return null;
  const isNegative = negative !== null || sign === '-' || sign === '\u2212';
  const scaled = scale === 1 ? value : Number((value * scale).toPrecision(15));
  return isNegative ? -scaled : scaled;
}

/** The mark that parts fractions in a column: 12.50 and 1,234.5 tell that it is the point. */
export function markOf(values: Iterable<string>): DecimalMark {
  let points = 0;
  let commas = 0;
  for (const value of values) {
    const found = /\d[\d.,'\u2019\s\u00a0\u202f]*\d/.exec(value)?.[0].replace(SPACES, '').replace(APOSTROPHES, '');
    if (found === undefined) continue;
    const comma = found.lastIndexOf(',');
    const dot = found.lastIndexOf('.');
    if (comma >= 0 && dot >= 0) dot > comma ? points++ : commas++;
    else if (comma >= 0 || dot >= 0) {
      const groups = found.split(comma >= 0 ? ',' : '.');
      const isTold = groups.length === 2 && (groups[1].length !== 3 || /^0*$/.test(groups[0]));
      if (isTold) comma >= 0 ? commas++ : points++;
      // grouped twice: the other one parts fractions
      else if (groups.length > 2) comma >= 0 ? points++ : commas++;
    }
  }
  if (points === commas) return null;
  return points > commas ? '.' : ',';
}

export interface Price {
  /** Integer minor units (cents). */
  minor: number;
  /** ISO 4217 code, or null when the text names none. */
  currency: string | null;
}

/** Signs and words, the longer before those that are part of them. A krona that does not say whose it is has no code. */
const CURRENCIES: [words: RegExp, code: string | null][] = [
  [/US\s?\$|\$\s?US|u\.s\.\s?dollars?|us[\s-]?dollars?/i, 'USD'],
  [/(?:CA|C)\s?\$|\$\s?CA|canadian\s?dollars?/i, 'CAD'],
  [/(?:AU|A)\s?\$|\$\s?AU|australian\s?dollars?/i, 'AUD'],
  [/NZ\s?\$/i, 'NZD'],
  [/HK\s?\$/i, 'HKD'],
  [/(?:SG|S)\s?\$/i, 'SGD'],
  [/NT\s?\$/i, 'TWD'],
  [/MX\s?\$/i, 'MXN'],
  [/R\s?\$|\breais\b|\breal\b/i, 'BRL'],
  [/\u20ac|\beuros?\b/i, 'EUR'],
  [/\u00a3|\bpounds?( sterling)?\b|\bsterling\b/i, 'GBP'],
  [/\$|\bdollars?\b|\bbucks?\b/i, 'USD'],
  [/CN\s?[\u00a5\uffe5]|\u5143|\u4eba\u6c11\u5e01|\byuan\b|\brmb\b/i, 'CNY'],
  [/[\u00a5\uffe5]|\u5186|\byen\b/i, 'JPY'],
  [/\u20b9|\brs\.?(?=\s?\d)|\brupees?\b/i, 'INR'],
  [/\u20bd|\u0440\u0443\u0431\.?|\brubles?\b|\broubles?\b/i, 'RUB'],
  [/\u20a9|\bwon\b/i, 'KRW'],
  [/z\u0142|\bzloty\b|\bz\u0142otych\b/i, 'PLN'],
  [/k\u010d/i, 'CZK'],
  [/\u20ba|\btl\b|\blira\b/i, 'TRY'],
  [/\u20b4/i, 'UAH'],
  [/\u20aa/i, 'ILS'],
  [/\u0e3f|\bbaht\b/i, 'THB'],
  [/\u20ab/i, 'VND'],
  [/\u20b1/i, 'PHP'],
  [/\bs?fr\.?(?=[\s\d]|$)|\bfranken\b|\bswiss francs?\b/i, 'CHF'],
  [/\bft\b|\bforint\b/i, 'HUF'],
  [/\blei\b/i, 'RON'],
  [/\u043b\u0432\.?|\bleva?\b/i, 'BGN'],
  [/\bswedish kron[oe]r\b/i, 'SEK'],
  [/\bkr\.?(?=[\s\d]|$)|\bkron[aoe]r?\b/i, null],
  [/\brand\b|^R(?=\s?\d)/i, 'ZAR'],
];
const CODES = new Set(Intl.supportedValuesOf('currency'));
const CODE = /(?<![a-z])([a-z]{3})(?![a-z])/gi;

/** The currency that a text names, as its ISO 4217 code, and what is left of the text. */
function currencyIn(text: string): { currency: string | null; rest: string } {
  for (const [named, code] of text.matchAll(CODE))
    if (CODES.has(code.toUpperCase()))
      return {
        currency: code.toUpperCase(),
        rest: text.replace(named, ' ').replace(/[\u20ac$\u00a3\u00a5\u20b9]/, ' '),
      };
  for (const [words, currency] of CURRENCIES) if (words.test(text)) return { currency, rest: text.replace(words, ' ') };
  return { currency: null, rest: text };
}

/** The code of a currency that a cell names by code, sign or word; null: none. */
export function parseCurrency(text: string): string | null {
  const { currency, rest } = currencyIn(text.trim());
  return /^[\s.()]*$/.test(rest) ? currency : null;
}

/** What stands where a price is to be asked for. */
const ASKED =
  /^(?:(?:make|best|submit|accept(?:ing|s)?|taking|any)?\s?(?:an |your )?offers?|open to offers|negotiable|vb|verhandlungsbasis|(?:price )?(?:on|upon) request|auf anfrage|preis auf anfrage|sur demande|contact(?: us| seller)?|ask|inquire|enquire|poa|no bids?(?: yet)?|keine gebote|bid|reserve not met)$/i;

/** Whether a cell of prices says that there is none to be read: nothing, or that one should ask. */
export function isNoPrice(text: string): boolean {
  return isEmptyValue(text) || ASKED.test(text.trim());
}

const MOST_PRICE = 1e11;

/**
 * A price with or without a currency: `$1,250`, `12,50 €`, `eur 140`, `CHF 1'200.-`, `69 dollars`, `from 12 EUR`.
 *
 * @param mark as for parseNumber. @returns null when it is none, and below nought.
 */
export function parsePrice(text: string, mark: DecimalMark = null): Price | null {
  const { currency, rest } = currencyIn(text.trim());
  const bare = rest
    .trim()
    .replace(
      /^(?:from|starting at|starts at|start|min\.?|ab|à partir de|desde|da|od|only|nur|bid|current bid|ask|price|usd)\s*:?\s+/i,
      '',
    )
    .replace(/[.,]\s?[-\u2013\u2014]{1,2}$/, '')
    .replace(
      /\s*(?:\(?(?:incl?|excl?|inkl|exkl|zzgl|plus|ex|hors|ht|ttc|btw|vat|mwst|tax|\/ ?(?:yr|year|jahr|an)|per year|pro jahr|fixed|firm|fix|obo|ono)[^\d]*)$/i,
      '',
    )
    .trim();
  const value = parseNumber(bare, mark);
  return value === null || value < 0 || value > MOST_PRICE ? null : { minor: Math.round(value * 100), currency };
}

const YES =
  /^(?:y|yes|true|t|1|on|x|\u2713|\u2714|\u2705|ja|j|wahr|oui|vrai|s[i\u00ed]|verdadero|sim|verdadeiro|v|vero|tak|ano|da|\u0434\u0430|hai|kyll\u00e4|igen|evet|\u662f)$/i;
const NO =
  /^(?:n|no|false|f|0|off|\u2717|\u2718|\u274c|nein|falsch|non|faux|falso|n[a\u00e3]o|nee|nej|nei|nie|ne|\u043d\u0435\u0442|ei|nem|hay\u0131r|\u5426)$/i;

/** Yes or no, in several languages or as a sign; null: neither. */
export function parseYesNo(text: string): boolean | null {
  const word = text.trim();
  if (YES.test(word)) return true;
  return NO.test(word) ? false : null;
}
