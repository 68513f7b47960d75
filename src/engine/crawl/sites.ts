import type { Store } from '../../store/base/database';
import { eachMark } from '../../store/crawl/crawl';
import { readBySite } from '../../store/crawl/crawl-report';
import { type CrawlSite, sitesOf } from '../../store/crawl/sites';
import type { SiteMemory } from './page-reader';

/** Texts remembered by site; beyond that, copies are told for the latest only. */
const MAX_MARKS = 500_000;
/** Failures in a row, over several sites, that mean our own network and not theirs. */
const CUT_FAILURES = 8;
const CUT_SITES = 3;
/** A site that shows a door to so many pages, and little else, is blocking. */
const BLOCKING_PAGES = 6;
const BLOCKING_SHARE = 0.8;
/** So many addresses of one ending that were no pages, and none that was, speak for the rest. */
const OTHERS_ENOUGH = 2;

/** One site of a crawl while it is read. */
export class Site implements SiteMemory {
  readonly seedHost: string;
  nonsenseMark: number | null;
  isProbed: boolean;
  /** Pages read or failed, in all parts of the crawl. */
  pages = 0;
  /** Pages read and not yet on disk. */
  unwritten = 0;
  judged = 0;
  doors = 0;
  /** Times in a row that it could not be reached. */
  failures = 0;
  /** performance.now() from when it may be asked again. */
  nextAt = 0;
  isClosed: boolean;
  private isDropped: boolean;
  /** It is being read. */
  isActive = false;

  constructor(
    readonly row: CrawlSite,
    private readonly marks: Marks,
  ) {
    this.seedHost = new URL(row.seed).host;
    this.nonsenseMark = row.nonsenseMark;
    this.isProbed = row.probed === 1;
    this.isClosed = row.state !== 'reading';
    this.isDropped = row.state === 'dropped';
  }

  get name(): string {
    return this.row.site;
  }

  /** Takes over whether a person wants it left alone. @returns whether it is to be read again. */
  setDropped(isDropped: boolean): boolean {
    const comesBack = this.isDropped && !isDropped;
    if (isDropped) this.isClosed = true;
    else if (comesBack) this.isClosed = false;
    this.isDropped = isDropped;
    return comesBack;
  }

  /** By the ending of addresses: how many were pages, and how many something else. */
  private readonly endings = new Map<string, { pages: number; others: number }>();

  /** Takes in whether an address gave a page. */
  noteType(url: string, isPage: boolean): void {
    const ending = endingOf(url);
    if (ending === '') return;
    const counts = this.endings.get(ending) ?? { pages: 0, others: 0 };
    if (isPage) counts.pages++;
    else counts.others++;
    this.endings.set(ending, counts);
  }

  isNoPage(url: string): boolean {
    const counts = this.endings.get(endingOf(url));
    return counts !== undefined && counts.pages === 0 && counts.others >= OTHERS_ENOUGH;
  }

  sameText(mark: number): number {
    return this.marks.count(this.name, mark);
  }

  /** Takes in what a page was. @returns whether the site now counts as blocking. */
  noteKind(kind: string | null, mark: number | null): boolean {
    if (mark !== null) this.marks.add(this.name, mark);
    if (kind === null) return false;
    this.judged++;
    if (kind === 'challenge' || kind === 'consent') this.doors++;
    return this.doors >= BLOCKING_PAGES && this.doors >= this.judged * BLOCKING_SHARE;
  }
}

/** `.txt` of `/notes/bees.txt?x=1`; empty where the last part of the path has none. */
function endingOf(url: string): string {
  const path = url.slice(url.indexOf('/', 8)).split('?', 1)[0];
  return /\.[a-z0-9]{1,8}$/i.exec(path)?.[0].toLowerCase() ?? '';
}

/** Counts of texts by site. */
export class Marks {
  private readonly counts = new Map<string, number>();

  count(site: string, mark: number): number {
    return this.counts.get(`${site} ${mark}`) ?? 0;
  }

  add(site: string, mark: number, pages = 1): void {
    if (this.counts.size >= MAX_MARKS) this.counts.clear();
    const key = `${site} ${mark}`;
    this.counts.set(key, (this.counts.get(key) ?? 0) + pages);
  }
}

/** The sites of a crawl, as far as they are read already. */
export function loadSites(store: Store, sourceId: number): Map<string, Site> {
  const marks = new Marks();
  for (const { site, mark, pages } of eachMark(store, sourceId)) marks.add(site, mark, pages);
  const read = readBySite(store, sourceId);
  const sites = new Map<string, Site>();
  for (const row of sitesOf(store, sourceId)) {
    const site = new Site(row, marks);
    site.pages = read.get(row.site) ?? 0;
    sites.set(row.site, site);
  }
  return sites;
}

/**
 * Tells a site that is down from a network that is: when sites fail one after another and none answers between, the cable is
 * out. Nobody is written off for that.
 */
export class Connectivity {
  private failed = new Set<string>();
  private inRow = 0;

  constructor(private readonly siteCount: () => number) {}

  answered(): void {
    this.inRow = 0;
    this.failed.clear();
  }

  failedAt(site: string): void {
    this.inRow++;
    this.failed.add(site);
  }

  get isCut(): boolean {
    const sites = this.siteCount();
    return (
      sites >= 2 && this.failed.size >= Math.min(CUT_SITES, sites) && this.inRow >= Math.min(CUT_FAILURES, 2 * sites)
    );
  }
}
