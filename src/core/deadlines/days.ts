import { TZDate } from '@date-fns/tz';
import { utc } from '@date-fns/utc';
import { addDays, formatISO, parseISO, startOfDay as startOf } from 'date-fns';

/**
 * Days and hours in a time zone. Everything is kept in UTC; what belongs to a day, and how long the day is, depends on the zone and
 * its clock changes.
 */
export interface ZonedDay<T> {
  /** `2026-11-26`. */
  key: string;
  /** First moment of the day and of the next, ms since 1970 UTC: 23, 24 or 25 hours apart. */
  from: number;
  to: number;
  items: T[];
}

export interface ZonedTime {
  /** `2026-11-26`. */
  day: string;
  /** `18:05`. */
  time: string;
}

/** One for each zone: making one takes longer than a hundred days. Of a TZDate a day and time take 100 µs, of this 4: every row asks for them. */
const clocks = new Map<string, Intl.DateTimeFormat>();

function clockOf(zone: string): Intl.DateTimeFormat {
  const known = clocks.get(zone);
  if (known) return known;
  const clock = new Intl.DateTimeFormat('en-CA', {
    timeZone: zone,
    dateStyle: 'short',
    timeStyle: 'short',
    hourCycle: 'h23',
  });
  clocks.set(zone, clock);
  return clock;
}

/** Day and time of a moment as a clock in the zone shows them. @throws RangeError on what is no zone. */
export function zonedTime(at: number, zone: string): ZonedTime {
  const [day, time] = clockOf(zone).format(at).split(', ');
  return { day, time };
}

/** First moment of a day (`2026-11-26`) in the zone, also where midnight itself is skipped. */
export function startOfDay(key: string, zone: string): number {
  const [year, month, day] = key.split('-').map(Number);
  return startOf(new TZDate(year, month - 1, day, 12, zone)).getTime();
}

export function nextDay(key: string): string {
  return formatISO(addDays(parseISO(key, { in: utc }), 1), { representation: 'date' });
}

/**
 * Sorts into days of the zone, from the day of `from` on, each there is something in.
 *
 * @param items in order of `at`, ms since 1970 UTC.
 */
export function intoDays<T extends { at: number }>(items: readonly T[], zone: string): ZonedDay<T>[] {
  const days: ZonedDay<T>[] = [];
  for (const item of items) {
    let day = days.at(-1);
    if (!day || item.at >= day.to) {
      const key = zonedTime(item.at, zone).day;
      day = { key, from: startOfDay(key, zone), to: startOfDay(nextDay(key), zone), items: [] };
      days.push(day);
    }
    day.items.push(item);
  }
  return days;
}
