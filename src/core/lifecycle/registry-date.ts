import { MONTH_NUMBERS, ZONE_MINUTES } from '../formats/calendar-words';

const TIME = /(?:^|[T\s,])(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,]\d+)?)?\s*([ap]\.?m\.?)?/i;
const OFFSET = /(?:UTC|GMT)?\s*([+-])(\d{1,2})(?::?(\d{2}))?\b/i;
const ISO_DATE = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?!\d)/;
const SPACED_DATE = /^(\d{4})[.,]?\s+(\d{1,2})[.,]?\s+(\d{1,2})\.?(?!\d)/;
const COMPACT_DATE = /^(\d{4})(\d{2})(\d{2})(?:(\d{2})(\d{2})(\d{2}))?(?!\d)/;
const ASIAN_DATE = /^(\d{4})\s*[年년]\s*(\d{1,2})\s*[月월]\s*(\d{1,2})\s*[日일]/;
const NUMBERS = /^(\d{1,2})\s*([-/.])\s*(\d{1,2})\s*\2\s*(\d{4}|\d{2})(?!\d)/;
const YEAR_NAMED = /^(\d{4})[-\s/.]+(\p{L}{3,12})\.?[-\s/.]+(\d{1,2})(?!\d)/u;
const DAY_NAMED =
  /^(\d{1,2})(?:st|nd|rd|th|\.|º|er)?[-\s/.]*(?:de\s+)?(\p{L}{3,12})\.?,?[-\s/.]*(?:de\s+|del\s+)?(\d{4}|\d{2})(?!\d)/u;
const NAME_FIRST = /^(\p{L}{3,12})\.?[-\s]+(\d{1,2})(?:st|nd|rd|th)?,?[-\s]+(\d{4})(?!\d)/u;
/** `Sat Mar 12 10:00:00 GMT 2005`, as programs of Unix write it. */
const UNIX = /^(\p{L}{3,12})\s+(\d{1,2})\s+(?=\d{1,2}:\d{2}).*?(\d{4})$/u;

/**
 * A moment as registries write it, in ms since 1970 UTC: any order of year, month and day, months by number or by name in a dozen
 * languages, weekdays, zones by name or offset, with whatever stands in brackets or behind a #.
 *
 * @param isDayFirst whether of two numbers that could both be months the first is the day.
 * @returns null when it is no date. Without a zone it is taken as UTC; without a time, as midnight.
 */
export function readRegistryDate(text: string, isDayFirst: boolean): number | null {
  const value = text
    .normalize('NFKC')
    .replace(/#.*$/, '')
    .replace(/[[\]"']/g, ' ')
    .replace(/^\s*(?:before|after|vor|avant|on|at|since|the)\s+/i, '')
    .replace(
      /^\s*(?:(?:mon|tue|wed|thu|fri|sat|sun)\p{L}*|(?:mo|di|mi|do|fr|sa|so)(?:ntag|enstag|ttwoch|nnerstag|eitag|mstag|nntag)?)[.,]?\s+(?=\p{L}|\d)/iu,
      '',
    )
    .trim();
  const day = dayOf(fold(value), isDayFirst);
  if (day === null) return null;
  const { year, month, date, rest, time } = day;
  if (year < 1970 || year > 2200 || month < 1 || month > 12) return null;
  const [hour, minute, second] = time ?? timeOf(rest) ?? [0, 0, 0];
  if (hour > 24 || minute > 59 || second > 60) return null;
  const at = Date.UTC(year, month - 1, date, hour, minute, second);
  if (new Date(Date.UTC(year, month - 1, date)).getUTCDate() !== date) return null;
  const hasTime = time !== undefined || TIME.test(rest);
  return hasTime ? at - offsetMs(rest) : at;
}

interface Day {
  year: number;
  month: number;
  date: number;
  /** What stands behind the day: time and zone. */
  rest: string;
  time?: [number, number, number];
}

function dayOf(value: string, isDayFirst: boolean): Day | null {
  const rest = (found: RegExpExecArray) => value.slice(found[0].length);
  let found = ISO_DATE.exec(value) ?? SPACED_DATE.exec(value) ?? ASIAN_DATE.exec(value);
  if (found) return { year: +found[1], month: +found[2], date: +found[3], rest: rest(found) };
  found = COMPACT_DATE.exec(value);
  if (found) {
    const time: Day['time'] = found[4] === undefined ? undefined : [+found[4], +found[5], +found[6]];
    return { year: +found[1], month: +found[2], date: +found[3], rest: rest(found), time };
  }
  found = NUMBERS.exec(value);
  if (found) {
    const [, a, mark, b, year] = found;
    // with dots the day always comes first
    const comesFirst = +a > 12 || (+b <= 12 && (isDayFirst || mark === '.'));
    return { year: fullYear(+year), month: comesFirst ? +b : +a, date: comesFirst ? +a : +b, rest: rest(found) };
  }
  found = YEAR_NAMED.exec(value);
  if (found) return named(+found[1], found[2], +found[3], rest(found));
  found = DAY_NAMED.exec(value);
  if (found) return named(fullYear(+found[3]), found[2], +found[1], rest(found));
  found = NAME_FIRST.exec(value);
  if (found) return named(+found[3], found[1], +found[2], rest(found));
  found = UNIX.exec(value);
  if (found) return named(+found[3], found[1], +found[2], value.slice(found[1].length));
  return null;
}

function named(year: number, name: string, date: number, rest: string): Day | null {
  const month = MONTH_NUMBERS.get(name) ?? MONTH_NUMBERS.get(name.slice(0, 3));
  return month === undefined ? null : { year, month, date, rest };
}

const fullYear = (year: number): number => (year >= 100 ? year : year < 70 ? 2000 + year : 1900 + year);

function timeOf(rest: string): [number, number, number] | null {
  const found = TIME.exec(rest);
  if (!found) return null;
  const half = found[4]?.[0];
  const hour = half === 'p' ? (+found[1] % 12) + 12 : half === 'a' ? +found[1] % 12 : +found[1];
  return [hour, +found[2], +(found[3] ?? 0)];
}

function offsetMs(rest: string): number {
  const behind = rest.replace(TIME, ' ');
  const found = OFFSET.exec(behind);
  if (found) {
    const minutes = +found[2] * 60 + +(found[3] ?? 0);
    if (minutes <= 14 * 60) return (found[1] === '-' ? -minutes : minutes) * 60_000;
  }
  for (const [word] of behind.matchAll(/[a-z]+/g)) if (word in ZONE_MINUTES) return ZONE_MINUTES[word] * 60_000;
  return 0;
}

function fold(text: string): string {
  return text
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .normalize('NFC')
    .replace(/ı/g, 'i')
    .replace(/ł/g, 'l');
}
