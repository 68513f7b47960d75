import { MONTH_NUMBERS, ZONE_MINUTES } from './calendar-words';

/** Which of two numbers comes first where a date is written in numbers only. */
export const DATE_ORDERS = ['day-first', 'month-first'] as const;
export type DateOrder = (typeof DATE_ORDERS)[number];

export interface DateContext {
  /** null: it cannot be told; then 05/11/2026 is not read. */
  order: DateOrder | null;
  /** What "2d 5h" and "tomorrow" count from, ms since 1970 UTC; null: they are not read. */
  now: number | null;
  /** The column holds the time that is left: 26:10:05 are hours. */
  isLeft?: boolean;
  /** Minutes east of UTC of times that name no zone; absent: 0. */
  zone?: number;
}

const NO_CONTEXT: DateContext = { order: null, now: null };
const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;

/** Names of several zones that lists mean in one way: hours of America. */
const MORE_ZONES: Record<string, number> = {
  cst: -360,
  ct: -360,
  et: -300,
  mt: -420,
  pt: -480,
  akst: -540,
  akdt: -480,
  hst: -600,
};

const UNITS: [unit: RegExp, ms: number][] = [
  [/^(w|wk|wks|weeks?|wochen?|semaines?|semanas?|settiman[ae]|weken)$/, 7 * DAY],
  [/^(d|t|days?|tage?n?|jours?|días?|dias?|giorn[oi]|dag(en)?)$/, DAY],
  [/^(h|hrs?|hours?|std|stunden?|heures?|horas?|or[ae]|uur|uren)$/, HOUR],
  [/^(m|mins?|minutes?|minuten?|minut[oi]s?)$/, MINUTE],
  [/^(s|secs?|seconds?|sekunden?|secondes?|segundos?)$/, 1000],
  [/^(mo|months?|monate?n?|mois|meses|mes)$/, 30 * DAY],
  [/^(y|yrs?|years?|jahren?|jahre|ans?|años?)$/, 365 * DAY],
];

/** What a text is before it is known which number is the month. */
type Written =
  | { kind: 'at'; at: number }
  | { kind: 'either'; dayFirst: number; monthFirst: number }
  /** From now. */
  | { kind: 'span'; ms: number }
  /** Midnight of a day counted from today, UTC, and the time of the day. */
  | { kind: 'day'; days: number; ms: number };

/**
 * A date in one of the forms that files have, as ms since 1970, UTC; times without a zone are taken as UTC. Read are ISO 8601, RFC 2822,
 * dates in numbers with points, strokes or hyphens, with months by name in several languages, with am and pm, zone names and offsets,
 * seconds, milliseconds and microseconds since 1970, days since 1900 as spreadsheets count, and what is counted from now.
 *
 * @returns null when it is no date, when there is no such day, and where day and month cannot be told apart.
 */
export function parseDate(text: string, context: DateContext = NO_CONTEXT): number | null {
  const written = writtenOf(text, context);
  switch (written?.kind) {
    case 'at':
      return written.at;
    case 'either': {
      const { dayFirst, monthFirst } = written;
      if (context.order === null && !Number.isNaN(dayFirst + monthFirst) && dayFirst !== monthFirst) return null;
      const isMonthFirst = context.order === 'month-first' || (context.order === null && Number.isNaN(dayFirst));
      const at = isMonthFirst ? monthFirst : dayFirst;
      return Number.isNaN(at) ? null : at;
    }
    case 'span':
      return context.now === null ? null : context.now + written.ms;
    case 'day':
      return context.now === null ? null : Math.floor(context.now / DAY) * DAY + written.days * DAY + written.ms;
    default:
      return null;
  }
}

/** What a column says of the order of its dates. */
export interface ToldOrder {
  /** null: no value tells. */
  order: DateOrder | null;
  /** Values that would be two different days by the one order and the other. */
  ambiguous: number;
}

/** The order in which a column writes its dates: the 28th tells that its number is the day. */
export function orderOf(values: Iterable<string>): ToldOrder {
  let dayFirst = 0;
  let monthFirst = 0;
  let ambiguous = 0;
  for (const value of values) {
    const written = writtenOf(value, NO_CONTEXT);
    if (written?.kind !== 'either') continue;
    if (Number.isNaN(written.monthFirst)) dayFirst++;
    else if (Number.isNaN(written.dayFirst)) monthFirst++;
    else if (written.dayFirst !== written.monthFirst) ambiguous++;
  }
  const order = dayFirst === monthFirst ? null : dayFirst > monthFirst ? 'day-first' : 'month-first';
  return { order, ambiguous };
}

const ISO = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})$/;
const COMPACT = /^(\d{4})(\d{2})(\d{2})$/;
const NUMBERS = /^(\d{1,2})([-/.])\s?(\d{1,2})\2\s?(\d{4}|\d{2})$/;
const DAY_MONTH_YEAR =
  /^(\d{1,2})(?:st|nd|rd|th|\.|er|º)?[\s/-]*(?:of |de )?([\p{L}]{3,12})\.?,?[\s/-]*(?:de )?(\d{4}|'?\d{2})$/u;
const MONTH_DAY_YEAR = /^([\p{L}]{3,12})\.?[\s/-]*(\d{1,2})(?:st|nd|rd|th)?,?[\s/-]+(\d{4}|'\d{2})$/u;
const YEAR_MONTH_DAY = /^(\d{4})[\s/-]+([\p{L}]{3,12})\.?[\s/-]+(\d{1,2})$/u;
const CLOCK =
  /(?:^|[\sT,_]|\bat )(\d{1,2})(?::(\d{2})(?::(\d{2})(?:[.,]\d+)?)?|h(\d{2}))?\s*(a\.?m\.?|p\.?m\.?)?(?:\s*uhr)?\s*$/i;

function writtenOf(text: string, context: DateContext): Written | null {
  const value = text
    .replace(/[\s\u00a0\u202f\u2009]+/g, ' ')
    .replace(/^(\d{4})\s?[年년]\s?(\d{1,2})\s?[月월]\s?(\d{1,2})\s?[日일]/, '$1-$2-$3')
    .replace(/^(\d{8})T(\d{2})(\d{2})(\d{2})?(?=Z|[+-]|$)/, '$1 $2:$3:$4')
    .replace(/^(\d{4}-\d{2}-\d{2})T(\d{2})(?=Z|$)/, '$1 $2:00')
    .replace(/:(?=Z|[+-]|$)/, '')
    .trim();
  if (value === '' || value.length > 80) return null;
  const first = value.charCodeAt(0);
  if (first >= 48 && first <= 57) {
    const counted = countedOf(value);
    if (counted !== null) return { kind: 'at', at: counted };
  }
  const zone = context.zone ?? 0;
  return daysOf(value, zone) ?? spanOf(value, context.isLeft ?? false) ?? dateOf(value, zone);
}

/** Counted since 1970 in seconds, ms or us, since 1900 in days (a spreadsheet's), or written without marks. */
function countedOf(value: string): number | null {
  if (!/^\d{5,}(\.\d+)?$/.test(value)) return null;
  const whole = value.split('.')[0];
  const number = Number(value);
  switch (whole.length) {
    case 5:
      return number >= 20_000 && number < 80_000 ? Math.round((number - 25_569) * 86_400) * 1000 : null;
    case 8: {
      const found = COMPACT.exec(whole);
      return found ? utc(+found[1], +found[2], +found[3]) : null;
    }
    case 10:
      return number >= 5e8 && number < 4.2e9 ? Math.round(number * 1000) : null;
    case 12:
    case 14: {
      const day = utc(+whole.slice(0, 4), +whole.slice(4, 6), +whole.slice(6, 8));
      const [hour, minute, second] = [whole.slice(8, 10), whole.slice(10, 12), whole.slice(12) || '0'].map(Number);
      return day === null || hour > 23 || minute > 59 || second > 60
        ? null
        : day + hour * HOUR + minute * MINUTE + second * 1000;
    }
    case 13:
      return number >= 5e11 && number < 4.2e12 ? number : null;
    case 16:
      return Math.round(number / 1000);
    default:
      return null;
  }
}

const NEAR_DAYS: Record<string, number> = {
  today: 0, heute: 0, hoy: 0, oggi: 0, vandaag: 0, hoje: 0, "aujourd'hui": 0, tomorrow: 1, morgen: 1, mañana: 1, domani: 1,
  demain: 1, amanhã: 1, yesterday: -1, gestern: -1, ayer: -1, ieri: -1, hier: -1, gisteren: -1, ontem: -1,
}; // biome-ignore format: a list of words

function daysOf(value: string, zone: number): Written | null {
  const [, word = '', rest = ''] = /^([\p{L}']+),?(.*)$/u.exec(value) ?? [];
  const days = NEAR_DAYS[word.toLowerCase()];
  if (days === undefined) return null;
  if (rest.trim() === '') return { kind: 'day', days, ms: 0 };
  const { text, offset = zone * MINUTE } = withoutZone(rest.replace(/^ (at|um|à|a las|alle|om|às)\b/, ''));
  const clock = clockOf(` ${text.trim()}`);
  return clock === null || clock.before.trim() !== '' ? null : { kind: 'day', days, ms: clock.ms - offset };
}

/** "2d 5h", "in 3 hours", "1 day, 04:12:33 left", "5 minutes ago". */
function spanOf(value: string, isLeft: boolean): Written | null {
  const bare = value
    .toLowerCase()
    .replace(/^(ends?|closes?|closing|ending|drops?|expires?|noch|encore|quedan|nog|ancora)\b:? */, '')
    .replace(/^(in|dans|en|tra|over|em) /, '')
    .replace(/ ?(left|remaining|to go|from now|verbleibend|übrig|restants?|restantes)$/, '');
  const isAgo = / ago$|^(vor|hace|il y a) /.test(bare);
  const rest = bare.replace(/ ago$/, '').replace(/^(vor|hace|il y a) /, '');
  const [, before = rest, clock = ''] = /^(.*?)[ ,]*(\d+:\d{2}:\d{2})$/.exec(rest) ?? [];
  let ms = 0;
  let at = 0;
  const parts = /\s*(?:,|and|und|et|y|e|en)?\s*(\d+(?:[.,]\d+)?)\s*([\p{L}]+)\.?/uy;
  const units = new Set<number>();
  for (let found = parts.exec(before); found; found = parts.exec(before)) {
    const [, figure, word] = found;
    const unit = UNITS.find(([words]) => words.test(word))?.[1];
    // each unit once, the larger before the smaller
    if (unit === undefined || [...units].some((larger) => larger <= unit)) return null;
    units.add(unit);
    ms += Number(figure.replace(',', '.')) * unit;
    at = parts.lastIndex;
  }
  if (before.slice(at).trim() !== '') return null;
  if (clock !== '') {
    if (units.size === 0 && !isLeft) return null;
    const [hours, minutes, seconds] = clock.split(':').map(Number);
    ms += hours * HOUR + minutes * MINUTE + seconds * 1000;
  } else if (units.size === 0) return null;
  return { kind: 'span', ms: Math.round(isAgo ? -ms : ms) };
}

function dateOf(value: string, zone: number): Written | null {
  const [, local, place] = /^(.*\d.*?) ?[[(]?([A-Z][A-Za-z]+\/[A-Za-z_/]+)[\])]?$/.exec(value) ?? [];
  if (place !== undefined) {
    const there = dateOf(local, 0);
    const offset = there?.kind === 'at' ? offsetOf(place, there.at) : null;
    return there?.kind === 'at' && offset !== null ? { kind: 'at', at: there.at - offset } : null;
  }
  const plain = ISO.exec(value);
  if (plain) return exact(utc(+plain[1], +plain[2], +plain[3]), 0);
  const { text, offset = zone * MINUTE } = withoutZone(value);
  const clock = clockOf(text);
  // a day without a time is a day wherever it is
  const ms = clock === null ? 0 : clock.ms - offset;
  const day = (clock === null ? text : clock.before)
    .trim()
    .toLowerCase()
    .replace(/[,T]$/i, '')
    .replace(/ (at|um|à|om|kl\.?)$/, '')
    .replace(/^(on|am|le|el|il|den) /, '')
    .trim();
  const found = dayOf(day, ms) ?? dayOf(day.replace(/^\p{L}{2,12}\.?,? /u, ''), ms);
  if (found !== null) return found;
  // RFC 850 and what JavaScript prints: the year stands behind the time
  const behind = /^(?:\p{L}{3,9},? )?(\p{L}{3} \d{1,2}) (\d{1,2}:\d{2}:\d{2})(?: [a-z]{3,4})? (\d{4})$/iu.exec(text);
  return behind ? dateOf(`${behind[1]} ${behind[3]} ${behind[2]}`, zone) : null;
}

function dayOf(day: string, ms: number): Written | null {
  let found = ISO.exec(day);
  if (found) return exact(utc(+found[1], +found[2], +found[3]), ms);
  found = COMPACT.exec(day);
  if (found) return exact(utc(+found[1], +found[2], +found[3]), ms);
  found = NUMBERS.exec(day);
  if (found) return inNumbers(+found[1], +found[3], yearOf(found[4]), found[2] === '.', ms);
  found = DAY_MONTH_YEAR.exec(day);
  if (found) return exact(utc(yearOf(found[3]), monthNumber(found[2]), +found[1]), ms);
  found = MONTH_DAY_YEAR.exec(day);
  if (found) return exact(utc(yearOf(found[3]), monthNumber(found[1]), +found[2]), ms);
  found = YEAR_MONTH_DAY.exec(day);
  return found ? exact(utc(+found[1], monthNumber(found[2]), +found[3]), ms) : null;
}

const exact = (at: number | null, ms: number): Written | null => (at === null ? null : { kind: 'at', at: at + ms });

/** With points the day stands first wherever that is a date. */
function inNumbers(first: number, second: number, year: number, hasPoints: boolean, ms: number): Written | null {
  const dayFirst = utc(year, second, first);
  const monthFirst = utc(year, first, second);
  if (dayFirst === null && monthFirst === null) return null;
  if (hasPoints) return exact(dayFirst ?? monthFirst, ms);
  return { kind: 'either', dayFirst: (dayFirst ?? Number.NaN) + ms, monthFirst: (monthFirst ?? Number.NaN) + ms };
}

/** The time of the day at the end of a text, ms, and what stands before it. */
function clockOf(text: string): { ms: number; before: string } | null {
  const found = CLOCK.exec(text);
  if (!found) return null;
  const [, hours, minutes, seconds, french, half] = found;
  // a number alone is no time of the day
  if (minutes === undefined && french === undefined && half === undefined) return null;
  let hour = Number(hours);
  if (half !== undefined) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (/^p/i.test(half) ? 12 : 0);
  }
  const minute = Number(minutes ?? french ?? 0);
  const second = Number(seconds ?? 0);
  if (hour > 24 || minute > 59 || second > 60) return null;
  return { ms: hour * HOUR + minute * MINUTE + second * 1000, before: text.slice(0, found.index) };
}

/** A zone of the time zone database by its name. @returns its offset at a moment (ms since 1970, as if in UTC), ms; null: there is none. */
function offsetOf(zone: string, at: number): number | null {
  try {
    const parts = new Intl.DateTimeFormat('en', { timeZone: zone, timeZoneName: 'longOffset' }).formatToParts(at);
    const [, sign, hours, minutes = '0'] =
      /GMT([+-])(\d{2}):?(\d{2})?/.exec(parts.find(({ type }) => type === 'timeZoneName')?.value ?? '') ?? [];
    if (sign === undefined) return 0;
    return (sign === '-' ? -1 : 1) * (Number(hours) * HOUR + Number(minutes) * MINUTE);
  } catch {
    return null;
  }
}

const OFFSET = /(?:\s|(?<=\d))(?:utc|gmt)?\s?([+-])(\d{1,2}):?(\d{2})?$/i;

/** The zone at the end of a text, as ms to be taken off (absent: it names none), and what stands before it. */
function withoutZone(value: string): { text: string; offset?: number } {
  const text = value.replace(/ ?\([^)]*\)$/, '');
  const named = /(?<=\d|m\.?|uhr)\s?([a-z]{1,4})$/i.exec(text);
  const zone = named?.[1].toLowerCase() ?? '';
  const minutes = ZONE_MINUTES[zone] ?? MORE_ZONES[zone];
  if (named && minutes !== undefined) {
    const rest = text.slice(0, named.index).trim();
    // "+0000 UTC" says it twice
    const offset = OFFSET.exec(rest);
    if (offset && rest.includes(':')) return withoutZone(rest);
    return { text: rest, offset: minutes * MINUTE };
  }
  const found = /:\d{2}|T\d{2,}|\d\s?[ap]\.?m|utc|gmt/i.test(text) ? OFFSET.exec(text) : null;
  if (!found) return { text };
  const ms = Number(found[2]) * HOUR + Number(found[3] ?? 0) * MINUTE;
  return { text: text.slice(0, found.index), offset: found[1] === '-' ? -ms : ms };
}

function yearOf(text: string): number {
  const digits = text.replace("'", '');
  if (digits.length > 2) return Number(digits);
  return Number(digits) + (Number(digits) < 70 ? 2000 : 1900);
}

function utc(year: number, month: number, day: number): number | null {
  if (year < 1970 || year > 2200 || month < 1 || month > 12) return null;
  const at = Date.UTC(year, month - 1, day);
  return day >= 1 && new Date(at).getUTCDate() === day ? at : null;
}

/** 0: there is no such month. */
function monthNumber(name: string): number {
  const plain = name.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
  return MONTH_NUMBERS.get(plain) ?? MONTH_NUMBERS.get(plain.slice(0, 3)) ?? 0;
}
