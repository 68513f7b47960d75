import { RE2JS } from 're2js';
import type { CrawlAddress } from './address';

/** What to do with addresses that carry a query. `few`: at most two parameters, which is where combinations begin. */
export const QUERY_POLICIES = ['all', 'few', 'none'] as const;
export type QueryPolicy = (typeof QUERY_POLICIES)[number];

export interface ScopeRules {
  /** Registrable domains that are inside. */
  subdomains: 'inside' | 'outside';
  query: QueryPolicy;
  /** Path patterns (RE2 syntax, linear time). Empty: every path is in. */
  pathsIn: string[];
  pathsOut: string[];
}

export const TRAP_KINDS = ['calendar', 'deeper', 'facets', 'copies', 'not-found'] as const;
export type TrapKind = (typeof TRAP_KINDS)[number];

/** Why an address inside a site is not followed. `trap` names the kind when it is one. */
export interface NotFollowed {
  trap: TrapKind | null;
  reason: string;
}

const MAX_PARAMETERS_FEW = 2;
const MAX_SEGMENTS = 14;
/** A path segment that stands so often in one path is a link that was resolved against itself. */
const MAX_REPEATS = 3;
/** Months to come that a calendar may still show; later ones hold nothing that lapsed. */
const CALENDAR_MONTHS_AHEAD = 2;
const FIRST_WEB_YEAR = 1991;

/**
 * Decides which addresses inside a site are followed. Every rule looks at the address alone, so the outcome is the same
 * in whatever order the pages are read.
 */
export class Scope {
  private readonly pathsIn: RE2JS[];
  private readonly pathsOut: RE2JS[];
  private readonly lastMonth: number;

  /**
   * @param now ms since 1970, UTC: what "months to come" counts from.
   * @throws RangeError with the pattern, when one cannot be read.
   */
  constructor(
    private readonly rules: ScopeRules,
    now: number,
  ) {
    this.pathsIn = rules.pathsIn.map(compile);
    this.pathsOut = rules.pathsOut.map(compile);
    const date = new Date(now);
    this.lastMonth = date.getUTCFullYear() * 12 + date.getUTCMonth() + CALENDAR_MONTHS_AHEAD;
  }

  /** Whether an address belongs to the site of a seed. */
  isInside(address: Pick<CrawlAddress, 'host' | 'site'>, site: string, seedHost: string): boolean {
    if (address.site !== site) return false;
    return this.rules.subdomains === 'inside' || bare(address.host) === bare(seedHost);
  }

  /** @returns null when the address is to be followed. */
  refuse(address: CrawlAddress): NotFollowed | null {
    const start = address.url.indexOf('/', address.url.indexOf('//') + 2);
    const mark = address.url.indexOf('?', start);
    const path = mark < 0 ? address.url.slice(start) : address.url.slice(start, mark);
    const query = mark < 0 ? '' : address.url.slice(mark + 1);
    if (this.pathsIn.length > 0 && !this.pathsIn.some((pattern) => pattern.matcher(path).find()))
      return { trap: null, reason: 'the path is in none of the patterns' };
    if (this.pathsOut.some((pattern) => pattern.matcher(path).find()))
      return { trap: null, reason: 'the path is in a pattern that is out' };
    if (query !== '') {
      const refused = this.refuseQuery(query);
      if (refused) return refused;
    }
    if (NO_PAGE.test(path)) return NOT_A_PAGE;
    return refuseDepth(path) ?? this.refuseCalendar(path, query);
  }

  private refuseQuery(query: string): NotFollowed | null {
    const { query: policy } = this.rules;
    if (policy === 'all') return null;
    if (policy === 'none') return { trap: null, reason: 'the address has a query' };
    const names = query.split('&').map((pair) => pair.split('=', 1)[0]);
    if (names.length > MAX_PARAMETERS_FEW || new Set(names).size < names.length)
      return { trap: 'facets', reason: 'filters that combine without end' };
    return null;
  }

  private refuseCalendar(path: string, query: string): NotFollowed | null {
    const month = calendarMonth(path, query);
    if (month === null) return null;
    if (month > this.lastMonth) return { trap: 'calendar', reason: 'a calendar of months to come' };
    if (month < FIRST_WEB_YEAR * 12) return { trap: 'calendar', reason: 'a calendar from before the web' };
    return null;
  }
}

const NOT_A_PAGE: NotFollowed = { trap: null, reason: 'no page by its ending' };
/** Files that are never pages, whatever site they lie on. Text formats are left to what the site answers. */
const NO_PAGE =
  /\.(?:pdf|ps|eps|dvi|djvu|epub|mobi|docx?|xlsx?|pptx?|od[tspg]|rtf|zip|gz|tgz|bz2|xz|zst|7z|rar|tar|jar|war|exe|msi|dmg|pkg|iso|img|deb|rpm|apk|bin|so|dll|whl|jpe?g|png|gif|webp|avif|bmp|ico|tiff?|svgz?|psd|mp[234]|m4[av]|ogg|og[av]|opus|flac|wav|mid|avi|mov|wmv|mkv|webm|flv|woff2?|ttf|otf|eot|css|js|mjs|map|wasm|swf|torrent|sig|sqlite|db)$/i;

/** Month that an address shows when it is a calendar's, as year * 12 + month; null when it is none. */
export function calendarMonth(path: string, query: string): number | null {
  const inPath = /(?:^|\/)(\d{4})[-/](0[1-9]|1[0-2])(?:[-/](?:0[1-9]|[12]\d|3[01]))?(?:\.\w{1,5}|\/)?$/.exec(path);
  if (inPath) return Number(inPath[1]) * 12 + Number(inPath[2]) - 1;
  if (query === '') return null;
  const parameters = new URLSearchParams(query);
  const dated = /^(\d{4})-?(0[1-9]|1[0-2])/.exec(parameters.get('date') ?? parameters.get('month') ?? '');
  if (dated) return Number(dated[1]) * 12 + Number(dated[2]) - 1;
  const year = Number(parameters.get('year') ?? parameters.get('y'));
  const month = Number(parameters.get('month') ?? parameters.get('m'));
  return year >= 1000 && year <= 9999 && month >= 1 && month <= 12 ? year * 12 + month - 1 : null;
}

function refuseDepth(path: string): NotFollowed | null {
  const segments = path.split('/').filter(Boolean);
  if (segments.length > MAX_SEGMENTS) return { trap: 'deeper', reason: `more than ${MAX_SEGMENTS} folders deep` };
  if (segments.length < MAX_REPEATS) return null;
  const counts = new Map<string, number>();
  for (const segment of segments) {
    const count = (counts.get(segment) ?? 0) + 1;
    if (count >= MAX_REPEATS)
      return { trap: 'deeper', reason: `"${segment.slice(0, 40)}" again and again in one path` };
    counts.set(segment, count);
  }
  return null;
}

function compile(pattern: string): RE2JS {
  const problem = patternProblem(pattern);
  if (problem) throw new RangeError(problem);
  return RE2JS.compile(pattern);
}

/** What is wrong with a path pattern, for the person who wrote it; null when nothing is. */
export function patternProblem(pattern: string): string | null {
  try {
    RE2JS.compile(pattern);
    return null;
  } catch (error) {
    return `The path pattern "${pattern.slice(0, 80)}" cannot be read: ${(error as Error).message}`;
  }
}

function bare(host: string): string {
  return host.startsWith('www.') ? host.slice(4) : host;
}
