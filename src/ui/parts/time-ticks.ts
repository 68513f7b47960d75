import { utcTicks } from 'd3-time';
import { date, monthOf, yearOf } from '../../core/wording/format';

export interface TimeTick {
  /** ms since 1970 UTC. */
  at: number;
  label: string;
}

const DAY = 86_400_000;
const LEAST_MONTH = 27 * DAY;
const LEAST_YEAR = 364 * DAY;

const isFiner = ([first, second]: Date[]) => second !== undefined && second.getTime() - first.getTime() < DAY;

/** Moments that an axis of time names: round ones of the calendar, from days up, at most so many. @param from, to ms since 1970 UTC. */
export function timeTicks(from: number, to: number, most: number): TimeTick[] {
  const ticks = (many: number) => utcTicks(new Date(from), new Date(to), many);
  // no label tells one hour from another
  let wanted = Math.min(most, Math.max(1, Math.floor((to - from) / DAY)));
  let moments = ticks(wanted);
  // what is asked for is only about what comes
  while ((moments.length > most || isFiner(moments)) && wanted > 1) moments = ticks(--wanted);
  const step = moments.length > 1 ? moments[1].getTime() - moments[0].getTime() : to - from;
  const words = step >= LEAST_YEAR ? (at: number) => String(yearOf(at)) : step >= LEAST_MONTH ? monthOf : date;
  return moments.map((moment) => ({ at: moment.getTime(), label: words(moment.getTime()) }));
}
