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

const HOUR = 3_600_000;
const formats = new Map<string, Intl.DateTimeFormat>();

function formatOf(zone: string): Intl.DateTimeFormat {
  let format = formats.get(zone);
  if (!format) {
    format = new Intl.DateTimeFormat('en-CA', {
      timeZone: zone,
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      second: '2-digit',
      hourCycle: 'h23',
    });
    formats.set(zone, format);
  }
  return format;
}

export interface ZonedTime {
  /** `2026-11-26`. */
  day: string;
  /** `18:05`. */
  time: string;
}

/** Day and time of a moment as a clock in the zone shows them. @throws RangeError on what is no zone. */
export function zonedTime(at: number, zone: string): ZonedTime {
  const parts: Record<string, string> = {};
  for (const { type, value } of formatOf(zone).formatToParts(at)) parts[type] = value;
  return { day: `${parts.year}-${parts.month}-${parts.day}`, time: `${parts.hour}:${parts.minute}` };
}

/** First moment of a day (`2026-11-26`) in the zone, also where midnight itself is skipped. */
export function startOfDay(key: string, zone: string): number {
  const noon = Date.parse(`${key}T12:00:00Z`);
  // zones are at most 14 hours off; the day begins where its name is seen first, to the minute
  let low = noon - 27 * HOUR;
  let high = noon + 15 * HOUR;
  while (high - low > 1000) {
    const middle = (low + high) / 2;
    if (zonedTime(middle, zone).day >= key) high = middle;
    else low = middle;
  }
  return Math.round(high / 60_000) * 60_000;
}

export function nextDay(key: string): string {
  return new Date(Date.parse(`${key}T00:00:00Z`) + 24 * HOUR).toISOString().slice(0, 10);
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
