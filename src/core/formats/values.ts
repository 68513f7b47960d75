const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const ISO =
  /^(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ](\d{1,2}):(\d{2})(?::(\d{2})(?:\.\d+)?)?\s*(Z|UTC|GMT|[+-]\d{2}:?\d{2})?)?$/i;
const DOTTED = /^(\d{1,2})\.(\d{1,2})\.(\d{4})(?:[ ,]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?$/;
const SLASHED = /^(\d{1,2})\/(\d{1,2})\/(\d{4})(?:[ ,]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?$/;
const YEAR_FIRST = /^(\d{4})[/.](\d{1,2})[/.](\d{1,2})$/;
const COMPACT = /^(\d{4})(\d{2})(\d{2})$/;
const NAMED =
  /^(?:[a-z]{3,9},?\s+)?(\d{1,2})[\s-]+([a-z]{3,9})\.?,?[\s-]+(\d{4})(?:[ ,]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?(?:\s*(?:Z|UTC|GMT))?$/i;
const NAMED_FIRST = /^([a-z]{3,9})\.?\s+(\d{1,2}),?\s+(\d{4})(?:[ ,]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?$/i;

/**
 * A date in one of the usual forms, as ms since 1970, UTC. Times without a zone are taken as UTC. With slashes the month
 * comes first unless the first number is over 12 (05/11/2026 is the 11th of May).
 *
 * @returns null when it is no date; also for the 31st of June.
 */
export function parseDate(text: string): number | null {
  const value = text.trim();
  let found = ISO.exec(value);
  if (found) {
    const at = utc(+found[1], +found[2], +found[3], found[4], found[5], found[6]);
    return at === null ? null : at - zoneOffsetMs(found[7]);
  }
  found = DOTTED.exec(value);
  if (found) return utc(+found[3], +found[2], +found[1], found[4], found[5], found[6]);
  found = SLASHED.exec(value);
  if (found) {
    const [month, day] = +found[1] > 12 ? [+found[2], +found[1]] : [+found[1], +found[2]];
    return utc(+found[3], month, day, found[4], found[5], found[6]);
  }
  found = YEAR_FIRST.exec(value) ?? COMPACT.exec(value);
  if (found) return utc(+found[1], +found[2], +found[3]);
  found = NAMED.exec(value);
  if (found) return utc(+found[3], monthNumber(found[2]), +found[1], found[4], found[5], found[6]);
  found = NAMED_FIRST.exec(value);
  if (found) return utc(+found[3], monthNumber(found[1]), +found[2], found[4], found[5], found[6]);
  return null;
}

function utc(year: number, month: number, day: number, hour = '0', minute = '0', second = '0'): number | null {
  if (year < 1970 || year > 2200 || month < 1 || month > 12 || +hour > 23 || +minute > 59 || +second > 60) return null;
  const at = Date.UTC(year, month - 1, day, +hour, +minute, +second);
  return new Date(at).getUTCDate() === day || +second === 60 ? at : null;
}

function monthNumber(name: string): number {
  return MONTHS.indexOf(name.slice(0, 3).toLowerCase()) + 1;
}

function zoneOffsetMs(zone: string | undefined): number {
  if (!zone || /^(Z|UTC|GMT)$/i.test(zone)) return 0;
  const minutes = +zone.slice(1, 3) * 60 + +zone.slice(-2);
  return (zone[0] === '-' ? -minutes : minutes) * 60_000;
}

/**
 * A count or figure: `1,234`, `1.234`, `1 234`, `1.2k`, `3M`, `4.5`. A lone separator followed by exactly three digits
 * is a thousands mark. @returns null when it is no number.
 */
export function parseNumber(text: string): number | null {
  const found = /^([+-]?)([\d.,'\u00a0\u202f ]*\d)\s*([kKmM]?)$/.exec(text.trim());
  if (!found) return null;
  let digits = found[2].replace(/['\u00a0\u202f ]/g, '');
  const comma = digits.lastIndexOf(',');
  const dot = digits.lastIndexOf('.');
  if (comma >= 0 && dot >= 0) {
    digits = comma > dot ? digits.replaceAll('.', '').replace(',', '.') : digits.replaceAll(',', '');
  } else if (comma >= 0 || dot >= 0) {
    const mark = comma >= 0 ? ',' : '.';
    const groups = digits.split(mark);
    const grouped = groups.length > 2 || (groups[1].length === 3 && found[3] === '' && groups[0] !== '0');
    if (grouped && groups.slice(1).some((group) => group.length !== 3)) return null;
    digits = grouped ? groups.join('') : groups.join('.');
  }
  const value = Number(digits);
  if (!Number.isFinite(value)) return null;
  const scale = { '': 1, k: 1e3, m: 1e6 }[found[3].toLowerCase()] ?? 1;
  return (found[1] === '-' ? -1 : 1) * value * scale;
}

export interface Price {
  /** Integer minor units (cents). */
  minor: number;
  /** ISO 4217 code, or null when the text names none. */
  currency: string | null;
}

const CURRENCY_SIGNS: [sign: string, code: string][] = [
  ['€', 'EUR'],
  ['£', 'GBP'],
  ['US$', 'USD'],
  ['$', 'USD'],
];

/** A price with or without a currency: `$1,250`, `12,50 €`, `EUR 140`, `69`. @returns null when it is none. */
export function parsePrice(text: string): Price | null {
  let rest = text.trim();
  let currency: string | null = null;
  for (const [sign, code] of CURRENCY_SIGNS)
    if (rest.includes(sign)) {
      rest = rest.replace(sign, '').trim();
      currency = code;
      break;
    }
  const named = /^([A-Z]{3})\b|\b([A-Z]{3})$/.exec(rest);
  if (named && currency === null) {
    currency = named[1] ?? named[2];
    rest = rest.replace(currency, '').trim();
  }
  const value = parseNumber(rest);
  return value === null || value < 0 || value > 1e11 ? null : { minor: Math.round(value * 100), currency };
}
