const MINUTE = 60_000;
const DAY = 86_400_000;

/** The next moment at so many minutes after midnight UTC, after `now`; ms since 1970. */
export function nextDaily(minute: number, now: number): number {
  const today = Math.floor(now / DAY) * DAY + minute * MINUTE;
  return today > now ? today : today + DAY;
}
