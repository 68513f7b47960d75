/** What a web server's log says that redirects carried. */
export interface LogTally {
  /** Requests by old path, of those that were sent on (301, 302, 307, 308) and of those told gone (404, 410). */
  moved: Map<string, number>;
  gone: Map<string, number>;
  /** When the first and the last request was, ms since 1970 UTC; null: none was read. */
  from: number | null;
  to: number | null;
  lines: number;
  /** Lines that are of no log, and requests of programs that say they are. */
  aside: number;
  robots: number;
}

/** Common Log Format as httpd and nginx write it, with or without what "combined" adds: referrer and program. */
const LINE =
  /^\S+ \S+ \S+ \[([^\]]{1,40})\] "([A-Z]{3,10}) (\S{1,4000})(?: HTTP\/[\d.]+)?" (\d{3}) \S+(?: "(?:[^"\\]|\\.)*" "((?:[^"\\]|\\.)*)")?/;
const ROBOT = /bot\b|crawl|spider|slurp|preview|monitor|curl\/|wget\/|python-|go-http|headless/i;
const MONTHS = 'JanFebMarAprMayJunJulAugSepOctNovDec';

/** Distinct paths that are counted each; those of a made-up flood are set aside. */
const MOST_PATHS = 500_000;

export const emptyTally = (): LogTally => ({
  moved: new Map(),
  gone: new Map(),
  from: null,
  to: null,
  lines: 0,
  aside: 0,
  robots: 0,
});

/** Counts what came in by old addresses. Lines that cannot be read are set aside; no line makes it fail. */
export function tallyLog(lines: Iterable<string>): LogTally {
  const tally = emptyTally();
  for (const line of lines) tallyLine(tally, line);
  return tally;
}

/** Counts one line more. */
export function tallyLine(tally: LogTally, line: string): void {
  if (line.trim() === '') return;
  tally.lines++;
  const found = LINE.exec(line.slice(0, 10_000));
  const at = found && timeOf(found[1]);
  if (!found || at === null) {
    tally.aside++;
    return;
  }
  const [, , method, target, status, program = ''] = found;
  if (ROBOT.test(program)) {
    tally.robots++;
    return;
  }
  if (method !== 'GET') return;
  const into = /^30[1278]$/.test(status) ? tally.moved : /^(404|410)$/.test(status) ? tally.gone : null;
  if (!into) return;
  const path = pathOf(target);
  if (into.size >= MOST_PATHS && !into.has(path)) {
    tally.aside++;
    return;
  }
  into.set(path, (into.get(path) ?? 0) + 1);
  tally.from = Math.min(tally.from ?? at, at);
  tally.to = Math.max(tally.to ?? at, at);
}

/** A request may name the whole address (RFC 9112, 3.2.2). */
const pathOf = (target: string) => target.replace(/^https?:\/\/[^/]*/i, '') || '/';

/** As in 26/Nov/2026:23:40:01 +0100. @returns ms since 1970 UTC; null: it is no time. */
function timeOf(text: string): number | null {
  const found = /^(\d{2})\/([A-Z][a-z]{2})\/(\d{4}):(\d{2}):(\d{2}):(\d{2}) ([+-])(\d{2})(\d{2})$/.exec(text);
  if (!found) return null;
  const [, day, month, year, hour, minute, second, sign, zoneHour, zoneMinute] = found;
  const number = MONTHS.indexOf(month);
  if (number < 0 || number % 3 !== 0) return null;
  const zone = (sign === '-' ? -1 : 1) * (Number(zoneHour) * 60 + Number(zoneMinute)) * 60_000;
  return Date.UTC(Number(year), number / 3, Number(day), Number(hour), Number(minute), Number(second)) - zone;
}

/** What was carried of what came: requests that a rule sends on, over all that old addresses got. */
export interface CarriedOutcome {
  came: number;
  moved: number;
  /** Sent on by a rule that is like the old page, weighed by how much. */
  relevant: number;
  /** Old paths that were asked for and have no rule, the most wanted first. */
  missed: { path: string; requests: number }[];
}

const MISSED = 10;

/**
 * Holds what came against the rules.
 *
 * @param rules where an old path moves and how alike that is, 0 to 1; to null: gone on purpose.
 */
export function carriedOutcome(
  hits: ReadonlyMap<string, number>,
  rules: ReadonlyMap<string, { to: string | null; confidence: number }>,
): CarriedOutcome {
  let [came, moved, relevant] = [0, 0, 0];
  const missed: CarriedOutcome['missed'] = [];
  for (const [path, requests] of hits) {
    const rule = rules.get(path);
    came += requests;
    if (rule?.to) {
      moved += requests;
      relevant += requests * rule.confidence;
    } else if (!rule) missed.push({ path, requests });
  }
  missed.sort((a, b) => b.requests - a.requests || a.path.localeCompare(b.path));
  return { came, moved, relevant, missed: missed.slice(0, MISSED) };
}
