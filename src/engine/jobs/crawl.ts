import { setTimeout as sleep } from 'node:timers/promises';
import { z } from 'zod';
import { type CrawlAddress, normalizeAddress, seedAddress } from '../../core/crawl/address';
import { decodeHtml } from '../../core/crawl/decode';
import { type PageLink, type ReadPage, readPage, robotsDirectives } from '../../core/crawl/links';
import { registrableDomain } from '../../core/names/domain';
import { NetError } from '../../net/errors';
import { contentType, type HttpAnswer, HttpClient } from '../../net/http';
import {
  countPages,
  nextPages,
  type PageOutcome,
  type QueuedPage,
  queuedSites,
  queuePage,
  savePage,
} from '../../store/crawl';
import { write } from '../../store/database';
import { putDomain, putSighting } from '../../store/domains';
import { putLink } from '../../store/links';
import { countRows } from '../../store/sources';
import { type JobContext, JobError, RateMeter, Stopped } from '../context';
import { RobotsCache } from '../robots';
import { isExcluded } from './list';

export const CrawlParams = z.object({
  seeds: z.array(z.string()).min(1),
  depth: z.number().int().min(0).max(4),
  pageBudget: z.number().int().min(1).max(10_000_000),
  excludedEndings: z.array(z.string()).default([]),
  /** Pause between requests to one host; absent: as the settings say. */
  delayMs: z.number().int().min(0).optional(),
});

/** Redirects in a row that are followed. */
const MAX_HOPS = 5;
/** Sites read at the same time. */
const SITES_AT_ONCE = 48;
/** Addresses remembered as queued before the memory starts afresh. */
const MAX_QUEUED_KNOWN = 200_000;
/** Room in a link's number for the links of one page. */
const LINKS_PER_PAGE = 4096;
const HTML_TYPES = new Set(['text/html', 'application/xhtml+xml', '']);

/** What became of one page, not yet written. */
interface PageResult {
  page: QueuedPage;
  outcome: PageOutcome;
  inside: CrawlAddress[];
  insideDepth: number;
  insideHops: number;
  outside: (PageLink & { indexable: boolean })[];
}

/**
 * Crawls the sites of the seeds, each breadth-first and one request at a time, and collects every outside domain that they
 * link to. A page is committed together with its links and the addresses it adds to the frontier, so that a crawl that is
 * killed goes on with the pages that were in flight, and the outcome is that of an undisturbed crawl.
 */
export async function runCrawl(context: JobContext): Promise<void> {
  const crawl = new Crawl(context);
  try {
    await crawl.run();
  } finally {
    await crawl.close();
  }
}

class Crawl {
  private readonly params: z.infer<typeof CrawlParams>;
  private readonly sourceId: number;
  private readonly http: HttpClient;
  private readonly robots: RobotsCache;
  private readonly excluded: Set<string>;
  private readonly siteIds = new Map<string, number>();
  /** Addresses that are surely in the frontier; it knows itself what is queued twice, this only saves asking. */
  private readonly queued = new Set<string>();
  private readonly nextAt = new Map<string, number>();
  private readonly meter = new RateMeter();
  private pending: { result: PageResult; written: () => void; failed: (error: unknown) => void }[] = [];
  private flushing: NodeJS.Immediate | null = null;
  private fetched = 0;
  private started = 0;

  constructor(private readonly context: JobContext) {
    const { job, settings, store } = context;
    this.params = CrawlParams.parse(job.params);
    if (job.sourceId === null) throw new JobError('The crawl lost its source.');
    this.sourceId = job.sourceId;
    this.excluded = new Set(this.params.excludedEndings);
    this.http = new HttpClient({
      userAgent: settings.userAgent,
      connector: store.config.connector,
      allowedPrivate: settings.allowedPrivate,
    });
    this.robots = new RobotsCache(this.http, settings.userAgent);
  }

  async run(): Promise<void> {
    const { store, signal } = this.context;
    write(store, () => {
      for (const seed of this.params.seeds) {
        const address = seedAddress(seed);
        if (address) queuePage(store, this.sourceId, address, 0);
      }
    });
    const counts = countPages(store, this.sourceId);
    this.fetched = this.started = counts.done + counts.failed;
    this.report('reading pages');
    const sites = queuedSites(store, this.sourceId);
    let next = 0;
    const work = async () => {
      while (next < sites.length && !signal.aborted) await this.readSite(sites[next++]);
    };
    const timer = setInterval(() => this.report('reading pages'), 500);
    try {
      await Promise.all(Array.from({ length: Math.min(SITES_AT_ONCE, sites.length) }, work));
    } finally {
      clearInterval(timer);
      this.flush();
    }
    if (signal.aborted) throw new Stopped();
    const left = countPages(store, this.sourceId).queued;
    this.report(
      left > 0
        ? `the page budget is used up; ${left.toLocaleString('en')} known pages were left unread`
        : 'every page is read',
    );
  }

  async close(): Promise<void> {
    await this.http.close();
  }

  private async readSite(site: string): Promise<void> {
    const { store, signal } = this.context;
    while (!signal.aborted && this.started < this.params.pageBudget) {
      const [page] = nextPages(store, this.sourceId, site, 1);
      if (!page) return;
      this.started++;
      let result: PageResult;
      try {
        result = await this.readPage(page);
      } catch (error) {
        if (signal.aborted) return; // the page stays in the queue
        throw error;
      }
      if (result.outcome.state === 'skipped') this.started--;
      await this.commit(result);
    }
  }

  private async readPage(page: QueuedPage): Promise<PageResult> {
    const { signal } = this.context;
    let answer: HttpAnswer;
    try {
      const { allowed, crawlDelayMs } = await this.robots.ask(page.url, signal);
      if (!allowed) return this.without(page, 'skipped', 'robots.txt forbids it');
      await this.waitTurn(page.host, crawlDelayMs);
      answer = await this.http.get(page.url, {
        signal,
        wantsBody: (status, headers) => status < 300 && HTML_TYPES.has(contentType(headers['content-type']).type),
      });
    } catch (error) {
      if (!(error instanceof NetError) || signal.aborted) throw error;
      return this.without(page, 'failed', error.message);
    }
    return this.judge(page, answer);
  }

  /** One request at a time per host, `delay` apart, counted from the end of the last. */
  private async waitTurn(host: string, robotsDelayMs: number | null): Promise<void> {
    const delay = Math.max(this.params.delayMs ?? this.context.settings.crawlDelayMs, robotsDelayMs ?? 0);
    const wait = (this.nextAt.get(host) ?? 0) - performance.now();
    if (wait > 0) await sleep(wait, undefined, { signal: this.context.signal });
    this.nextAt.set(host, performance.now() + delay);
  }

  private judge(page: QueuedPage, answer: HttpAnswer): PageResult {
    const { type, charset } = contentType(answer.headers['content-type']);
    const base = { status: answer.status, contentType: type };
    if (answer.status >= 300 && answer.status < 400) return this.redirected(page, answer, base);
    if (answer.status >= 400) return this.without(page, 'failed', `the server answered ${answer.status}`, base);
    if (!HTML_TYPES.has(type)) return this.without(page, 'skipped', `${type} is not read`, base);
    const decoded = decodeHtml(answer.body, charset);
    const read = readPage(decoded.text, page.url);
    const header = robotsDirectives(answer.headers['x-robots-tag'] ?? '');
    read.noindex ||= header.noindex;
    read.nofollow ||= header.nofollow;
    const { inside, outside } = this.sortLinks(page, read);
    return {
      page,
      inside,
      insideDepth: page.depth + 1,
      insideHops: 0,
      outside,
      outcome: {
        state: 'done',
        ...base,
        charset: decoded.charset,
        title: read.title,
        noindex: read.noindex,
        nofollow: read.nofollow,
        canonical: read.canonical,
        note: null,
        bytes: answer.body.length,
        linksOut: outside.length,
      },
    };
  }

  private sortLinks(page: QueuedPage, read: ReadPage): Pick<PageResult, 'inside' | 'outside'> {
    const inside: CrawlAddress[] = [];
    const outside = new Map<string, PageLink & { indexable: boolean }>();
    const indexable = !read.noindex && (read.canonical === null || read.canonical === page.url);
    for (const link of read.links) {
      if (link.site === page.site) {
        if (page.depth < this.params.depth) inside.push(link);
      } else if (!outside.has(link.url) && outside.size < LINKS_PER_PAGE)
        outside.set(link.url, { ...link, nofollow: link.nofollow || read.nofollow, indexable });
    }
    return { inside, outside: [...outside.values()] };
  }

  private redirected(page: QueuedPage, answer: HttpAnswer, base: { status: number; contentType: string }): PageResult {
    const target = normalizeAddress(answer.headers.location ?? '', page.url);
    if (!target) return this.without(page, 'failed', 'redirects to nowhere', base);
    const result = this.without(page, 'done', `redirects to ${target.url}`, base);
    if (target.site !== page.site) {
      // the seed's own site may have moved; what it moved to is a find, not a part of this site
      result.outside.push({ ...target, anchor: '', nofollow: false, indexable: true });
      result.outcome.linksOut = 1;
    } else if (page.hops >= MAX_HOPS)
      return this.without(page, 'failed', `more than ${MAX_HOPS} redirects in a row`, base);
    else result.inside.push(target);
    return result;
  }

  private without(
    page: QueuedPage,
    state: PageOutcome['state'],
    note: string,
    base: Partial<PageOutcome> = {},
  ): PageResult {
    return {
      page,
      inside: [],
      insideDepth: page.depth,
      insideHops: page.hops + 1,
      outside: [],
      outcome: {
        status: null,
        contentType: null,
        charset: null,
        title: null,
        noindex: false,
        nofollow: false,
        canonical: null,
        bytes: 0,
        linksOut: 0,
        ...base,
        state,
        note,
      },
    };
  }

  /** Resolves when the result is on disk. Results that arrive in the same turn share a transaction. */
  private commit(result: PageResult): Promise<void> {
    return new Promise((written, failed) => {
      this.pending.push({ result, written, failed });
      this.flushing ??= setImmediate(() => this.flush());
    });
  }

  private flush(): void {
    this.flushing = null;
    const batch = this.pending;
    this.pending = [];
    if (batch.length === 0) return;
    const { store } = this.context;
    let found: number[];
    try {
      found = write(store, () => {
        const ids = batch.flatMap(({ result }) => this.writeResult(result));
        countRows(store, this.sourceId, { rows_read: batch.length });
        return ids;
      });
    } catch (error) {
      for (const { failed } of batch) failed(error);
      return;
    }
    if (found.length > 0) this.context.changed(found, this.sourceId);
    for (const { result, written } of batch) {
      if (result.outcome.state !== 'skipped') this.fetched++;
      written();
    }
  }

  /** @returns ids of domains that this crawl names for the first time. */
  private writeResult({ page, outcome, inside, insideDepth, insideHops, outside }: PageResult): number[] {
    const { store } = this.context;
    const at = store.now();
    savePage(store, page.id, at, outcome);
    for (const address of inside) {
      if (this.queued.has(address.url)) continue;
      if (this.queued.size >= MAX_QUEUED_KNOWN) this.queued.clear();
      this.queued.add(address.url);
      queuePage(store, this.sourceId, address, insideDepth, insideHops);
    }
    const found: number[] = [];
    const fromId = outside.length > 0 ? this.siteId(page.site, false, at) : null;
    let ordinal = 0;
    let excluded = 0;
    let fresh = 0;
    for (const link of outside) {
      let id = this.siteIds.get(link.site);
      if (id === undefined) {
        const domain = registrableDomain(link.site);
        if (!domain) continue;
        if (isExcluded(domain.ending, this.excluded)) {
          excluded++;
          continue;
        }
        const put = putDomain(store, domain, true, at);
        id = put.id;
        if (put.isNew) fresh++;
        this.siteIds.set(link.site, id);
        const said = { url: page.url, site: page.site, anchor: link.anchor, target: link.url, depth: page.depth };
        if (putSighting(store, id, this.sourceId, at, null, said)) found.push(id);
      }
      if (fromId !== null)
        putLink(store, {
          toId: id,
          sourceId: this.sourceId,
          seq: page.id * LINKS_PER_PAGE + ordinal++,
          fromId,
          fromUrl: page.url,
          toUrl: link.url,
          anchor: link.anchor,
          nofollow: link.nofollow,
          indexable: link.indexable,
          firstSeenAt: null,
          lastSeenAt: at,
        });
    }
    if (excluded > 0 || found.length > 0)
      countRows(store, this.sourceId, { rows_excluded: excluded, rows_taken: found.length, domains_new: fresh });
    return found;
  }

  private siteId(site: string, inPool: boolean, at: number): number | null {
    const domain = registrableDomain(site);
    return domain ? putDomain(this.context.store, domain, inPool, at).id : null;
  }

  private report(message: string): void {
    const { pageBudget } = this.params;
    this.context.progress({
      done: this.fetched,
      total: pageBudget,
      unit: 'pages',
      rate: this.meter.rate(this.fetched),
      message,
    });
  }
}
