/** Offsets of the zones that registries write by name, minutes east of UTC. A name that means several zones (IST, CST) is left out. */
const ZONES: Record<string, number> = {
  z: 0, ut: 0, utc: 0, gmt: 0, wet: 0, west: 60, bst: 60, cet: 60, cest: 120, mez: 60, mesz: 120, eet: 120, eest: 180, msk: 180,
  trt: 180, irst: 210, gst: 240, npt: 345, ict: 420, wib: 420, hkt: 480, sgt: 480, myt: 480, pht: 480, awst: 480, jst: 540, kst: 540,
  aest: 600, aedt: 660, nzst: 720, nzdt: 780, est: -300, edt: -240, cdt: -300, mst: -420, mdt: -360, pst: -480, pdt: -420, brt: -180,
  brst: -120, art: -180, clt: -240, clst: -180, cot: -300, pet: -300, vet: -240, uyt: -180, sast: 120,
}; // biome-ignore format: a table

/** First letters of the months' names, folded, as registries of many languages write them. */
const MONTHS: [begins: string, month: number][] = [
  ['jan janv enero gennaio ene gen ocak styczen stycznia leden ledna januar', 1],
  ['feb febr fev fevrier fevereiro subat luty lutego unor unora', 2],
  ['mar marz maerz mars marzo marco mart marzec marca brezen brezna', 3],
  ['apr avr avril abr abril aprile nisan kwiecien kwietnia duben dubna', 4],
  ['may mai mayo maggio mag maio mayis maj maja kveten kvetna', 5],
  ['jun juin junio giugno giu junho haziran czerwiec czerwca cerven cervna juni', 6],
  ['jul juil juillet julio luglio lug julho temmuz lipiec lipca cervenec cervence juli', 7],
  ['aug aout ago agosto agustos sierpien sierpnia srpen srpna', 8],
  ['sep sept septembre set settembre setembro eylul wrzesien wrzesnia zari', 9],
  ['oct okt oktober octobre out outubro ottobre ott ekim pazdziernik pazdziernika rijen rijna octubre', 10],
  ['nov novembre noviembre novembro kasim listopad listopada', 11],
  ['dec dez dezember decembre dic dicembre diciembre dezembro aralik grudzien grudnia prosinec prosince', 12],
];
const MONTH_NUMBERS = new Map(
  MONTHS.flatMap(([names, month]) => names.split(' ').map((name): [string, number] => [name, month])),
);
const ENGLISH = 'january february march april june july august september october november december'.split(' ');
for (const name of ENGLISH) MONTH_NUMBERS.set(name, MONTH_NUMBERS.get(name.slice(0, 3)) as number);

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
  for (const [word] of behind.matchAll(/[a-z]+/g)) if (word in ZONES) return ZONES[word] * 60_000;
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
