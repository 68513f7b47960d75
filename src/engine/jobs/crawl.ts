import { statfsSync } from 'node:fs';
import { freemem } from 'node:os';
import { setTimeout as sleep } from 'node:timers/promises';
import { seedAddress } from '../../core/crawl/address';
import { decodeHtml } from '../../core/crawl/decode';
import { readPage } from '../../core/crawl/links';
import { CrawlBudgets, CrawlParams, depthLimit } from '../../core/crawl/params';
import { Scope } from '../../core/crawl/scope';
import type { UnreadCause } from '../../core/crawl/unread';
import { NetError } from '../../net/errors';
import { Gate } from '../../net/gate';
import { contentType, type HttpAnswer, HttpClient } from '../../net/http';
import { retryAfterMs } from '../../net/pacer';
import { resolversOf } from '../../store/base/config';
import { write } from '../../store/base/database';
import { readJob, saveCheckpoint } from '../../store/base/jobs';
import type { QueuedPage } from '../../store/crawl/crawl';
import { assignDepths } from '../../store/crawl/crawl-depths.sql';
import { countPages } from '../../store/crawl/crawl-report';
import { switchesOf } from '../../store/crawl/find-causes';
import { putSite, sitesOf } from '../../store/crawl/sites';
import { readSource } from '../../store/sources/sources';
import { Frontier } from '../crawl/frontier';
import { HTML_TYPES, NO_PAGE_HERE, PageReader, type PageResult, withoutLinks } from '../crawl/page-reader';
import { Pipeline } from '../crawl/pipeline';
import { Connectivity, loadSites, type Site } from '../crawl/sites';
import { CrawlWriter } from '../crawl/writer';
import { RobotsCache } from '../lookups/robots';
import { type JobContext, JobError, RateMeter, Stopped } from '../runner/context';

/** Requests under way at the same time, over all sites. */
const AT_ONCE = 384;
/** Times a page is asked for before it counts as failed; between them the pause grows threefold. */
const MAX_ATTEMPTS = 4;
/** Others do not wait for the pages of a site that rests for longer. */
const LONG_REST_MS = 5000;
/** However long a server asks us to wait. */
const MAX_REST_MS = 3_600_000;
/** Pages in a row that failed at one site before it is left alone. */
const MAX_FAILED_IN_ROW = 3;
/** A site that has to rest longer than a write takes goes on without waiting for it. */
const WRITE_MS = 100;
/** Pages that may wait to be written before reading waits for them. */
const MOST_UNWRITTEN = 256;

const asksToWait = (status: number) => status === 429 || status === 503;
const TICK_MS = 100;
/** A site with nothing worth reading looks again after so many ticks at the latest. */
const MOST_TICKS = 4;
const WATCH_MS = 500;
const SAMPLE_MS = 2000;
/** A verdict so fresh is not asked for again. */
const FRESH_MS = 3 * 86_400_000;
/** Pages over which the yield is watched. */
const YIELD_PAGES = 500;
/** The crawl ends before the machine's memory does. */
const MEMORY_FLOOR_BYTES = 200 * 2 ** 20;
/** So much space is worth trying to write again. */
const SOME_SPACE_BYTES = 2 ** 20;
const DISK_WAIT_MS = 2000;
/** At the end, registries are waited for so long; what is left is the check job's. */
const PATIENCE_MS = 4000;
const MEASURE_EVERY_MS = 60_000;
const MEASURE_FINDS = 25;

/**
 * Crawls the sites of the seeds, one request at a time each, best page first, and collects every outside domain that they
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
  private params: CrawlParams;
  private readonly sourceId: number;
  private readonly http: HttpClient;
  private readonly robots: RobotsCache;
  private readonly reader: PageReader;
  private readonly frontier: Frontier;
  private readonly writer: CrawlWriter;
  private readonly pipeline: Pipeline | null;
  private sites = new Map<string, Site>();
  private readonly connectivity = new Connectivity(() => this.active);
  private readonly meter = new RateMeter();
  private readonly gate = new Gate(AT_ONCE);
  /** Sites that are being read. */
  private active = 0;
  private fetched = 0;
  private started = 0;
  private minutesBefore = 0;
  private readonly startedAt = performance.now();
  private failure: unknown = null;
  private whenIdle: () => void = () => undefined;
  private message = 'reading pages';
  private stopReason: string | null = null;
  /** Sites that wait for what is worth reading to change, each until a tick. */
  private parked: { until: number; resolve(): void }[] = [];
  private ticks = 0;
  private yields: { pages: number; finds: number }[] = [];
  private measuredAt = performance.now();
  private measuredFinds = 0;

  constructor(private readonly context: JobContext) {
    const { job, settings, store } = context;
    this.params = CrawlParams.parse(job.params);
    if (job.sourceId === null) throw new JobError('The crawl lost its source.');
    this.sourceId = job.sourceId;
    this.http = new HttpClient({
      userAgent: settings.userAgent,
      connector: store.config.connector,
      allowedPrivate: settings.allowedPrivate,
      resolvers: resolversOf(settings),
      connectionsAtOnce: AT_ONCE,
    });
    this.robots = new RobotsCache(this.http, settings.userAgent);
    this.frontier = new Frontier(store, this.sourceId, this.params.order);
    this.reader = new PageReader(
      this.params,
      scopeOf(this.params, store.now()),
      (address) => this.frontier.idOf(address),
      this.frontier.addresses,
    );
    this.pipeline = this.params.checkAfter ? new Pipeline(context, this.sourceId, this.frontier) : null;
    this.writer = new CrawlWriter(
      context,
      this.sourceId,
      this.frontier,
      this.params,
      job.createdAt - FRESH_MS,
      (finds) => {
        for (const find of finds) this.pipeline?.add(find);
      },
      () => this.waitForSpace(),
    );
  }

  async run(): Promise<void> {
    const { store, signal, job } = this.context;
    this.minutesBefore = Number(job.checkpoint?.minutes ?? 0);
    this.seed();
    this.sites = loadSites(store, this.sourceId);
    this.writer.depthOf = (site) => this.sites.get(site)?.row.depth ?? depthLimit(this.params);
    const counts = countPages(store, this.sourceId);
    this.fetched = this.started = counts.done + counts.failed;
    this.writer.domains = readSource(store, this.sourceId)?.rows_taken ?? 0;
    this.pipeline?.resume(job.createdAt - FRESH_MS);
    this.report();
    const timers = [
      setInterval(() => this.weigh(), TICK_MS),
      setInterval(() => this.watch(), WATCH_MS),
      setInterval(() => this.sample(), SAMPLE_MS),
    ];
    try {
      do await this.readAll();
      while (!this.isOver() && this.settle() > 0);
      await this.writer.flush();
      if (this.failure) throw this.failure;
      if (!signal.aborted) {
        this.message = 'waiting for the last answers of registries';
        await this.pipeline?.drain(PATIENCE_MS);
      }
    } finally {
      for (const timer of timers) clearInterval(timer);
      this.weigh();
      this.sample();
      this.saveMinutes();
    }
    if (signal.aborted) throw new Stopped();
    const unanswered = this.pipeline?.unanswered ?? 0;
    const unasked =
      unanswered > 0 ? `; the lookups have stopped, ${unanswered.toLocaleString('en')} domains wait for them` : '';
    this.message = `${this.closingWords()}${unasked}`;
    this.report();
  }

  async close(): Promise<void> {
    await this.pipeline?.close();
    await this.http.close();
  }

  private seed(): void {
    const { store } = this.context;
    const change = this.frontier.beginChange();
    write(store, () => {
      for (const seed of this.params.seeds) {
        const address = seedAddress(typeof seed === 'string' ? seed : seed.address);
        if (!address) continue;
        putSite(store, this.sourceId, address.site, address.url, typeof seed === 'string' ? null : seed.depth);
        this.frontier.push(address, 'links', { depth: 0, hops: 0, viaClass: 0, isBeyond: false }, change);
      }
    });
    this.frontier.apply(change);
  }

  /** Reads all sites at the same time, until nothing waits that is to be read. */
  private async readAll(): Promise<void> {
    await new Promise<void>((resolve) => {
      this.whenIdle = resolve;
      this.startSites();
      if (this.active === 0) resolve();
    });
    if (this.failure) throw this.failure;
  }

  /** Begins with every site that has something to read and is not being read: all at the start, others when budgets grow. */
  private startSites(): void {
    for (const site of this.sites.values()) {
      if (site.isActive || site.isClosed || this.isAtItsBudget(site) || this.frontier.waitingAt(site.name) === 0)
        continue;
      site.isActive = true;
      this.active++;
      this.frontier.setReading(site.name, true);
      this.readSite(site)
        .catch((error: unknown) => {
          this.failure ??= error;
        })
        .finally(() => {
          site.isActive = false;
          this.active--;
          this.frontier.setReading(site.name, false);
          if (this.active === 0) this.whenIdle();
        });
    }
  }

  private isAtItsBudget(site: Site): boolean {
    return this.params.sitePageBudget !== null && site.pages >= this.params.sitePageBudget;
  }

  private async readSite(site: Site): Promise<void> {
    let ticks = 1;
    while (!this.isOver() && !site.isClosed && !this.isAtItsBudget(site)) {
      const page = this.frontier.take(site.name);
      if (page === 'none') {
        if (site.unwritten === 0) return;
        // what was read last may lead on
        await this.writer.flush();
        continue;
      }
      if (page === 'later') {
        await this.park(ticks);
        ticks = Math.min(MOST_TICKS, 2 * ticks);
        continue;
      }
      ticks = 1;
      if (site.isNoPage(page.url)) {
        await this.write(site, withoutLinks(page, 'skipped', NO_PAGE_HERE.reason));
        continue;
      }
      this.started++;
      site.pages++;
      const result = await this.readPage(site, page);
      // a request that brought no page costs all the same
      if (!result || (result.outcome.state === 'skipped' && result.outcome.status === null)) {
        this.started--;
        site.pages--;
      }
      if (!result) {
        if (this.context.signal.aborted) return; // the page stays in the queue
        this.frontier.putBack(page);
        continue;
      }
      await this.write(site, result);
    }
  }

  /**
   * Hands a page to the writer. What it led to and gave should be known when the next is chosen, so the write is waited for,
   * unless the site rests for longer anyway.
   */
  private async write(site: Site, result: PageResult): Promise<void> {
    site.unwritten++;
    const written = this.writer.put(result, this.gate.busy === 0).then(
      () => {
        site.unwritten--;
        if (result.outcome.state !== 'skipped') this.fetched++;
      },
      (error: unknown) => {
        this.failure ??= error;
      },
    );
    const rests = site.nextAt - performance.now() > WRITE_MS;
    if (!rests || this.writer.waiting >= MOST_UNWRITTEN) await written;
    await this.afterPage(site, result);
  }

  private async afterPage(site: Site, { page, outcome }: PageResult): Promise<void> {
    if (outcome.status === 200) site.noteType(page.url, outcome.state === 'done');
    if (!site.noteKind(outcome.kind, outcome.mark)) return;
    site.isClosed = true;
    await this.writer.putSite(site.name, 'blocking', `answers with a door instead of its pages: ${outcome.note ?? ''}`);
  }

  /** @returns null when the page is to be asked for again later. */
  private async readPage(site: Site, page: QueuedPage): Promise<PageResult | null> {
    const { signal } = this.context;
    try {
      await this.turn(site);
      let robotsDelayMs: number | null = null;
      if (this.params.robots === 'obey') {
        const { allowed, crawlDelayMs } = await this.robots.ask(page.url, signal);
        if (!allowed) return withoutLinks(page, 'skipped', 'robots.txt forbids it', { cause: 'robots' });
        robotsDelayMs = crawlDelayMs;
      }
      const answer = await this.gate.pass(() => this.get(page.url));
      this.rest(site, this.delayOf(robotsDelayMs));
      this.connectivity.answered();
      if (asksToWait(answer.status))
        return await this.again(
          site,
          page,
          `the server answered ${answer.status}`,
          retryAfterMs(answer.headers['retry-after'], Date.now()),
        );
      site.failures = 0;
      if (!site.isProbed && page.depth === 0 && answer.status === 200 && depthLimit(this.params) > 0)
        await this.probe(site, robotsDelayMs);
      return this.reader.read(page, answer, site);
    } catch (error) {
      if (signal.aborted) return null;
      if (!(error instanceof NetError)) throw error;
      this.rest(site, this.delayOf(null));
      if (!isPassing(error)) return withoutLinks(page, 'failed', error.message, { cause: causeOf(error) });
      this.connectivity.failedAt(site.name);
      return await this.again(site, page, error.message, null, causeOf(error));
    }
  }

  private get(url: string): Promise<HttpAnswer> {
    return this.http.get(url, {
      signal: this.context.signal,
      wantsBody: (status, headers) => status < 300 && HTML_TYPES.has(contentType(headers['content-type']).type),
    });
  }

  /** Asks the site once for an address that cannot exist, to know its "not found" pages when they come with 200. */
  private async probe(site: Site, robotsDelayMs: number | null): Promise<void> {
    site.isProbed = true;
    const url = new URL('/no-such-page-is-here-jl7f3q.html', site.row.seed).href;
    if (this.params.robots === 'obey' && !(await this.robots.ask(url, this.context.signal)).allowed) return;
    await this.turn(site);
    const answer = await this.gate.pass(() => this.get(url));
    this.rest(site, this.delayOf(robotsDelayMs));
    if (answer.status === 200 && answer.body.length > 0) {
      const { text } = decodeHtml(answer.body, contentType(answer.headers['content-type']).charset);
      site.nonsenseMark = readPage(text, url).mark.hash;
    }
    await this.writer.putProbe(site.name, site.nonsenseMark);
  }

  /** A page that could not be had: asked for again after a pause, a few times, then failed. */
  private async again(
    site: Site,
    page: QueuedPage,
    why: string,
    waitMs: number | null,
    cause: UnreadCause | null = 'status',
  ): Promise<PageResult | null> {
    const { retryMs } = this.params;
    if (this.connectivity.isCut) {
      // our own side: nobody is blamed
      this.rest(site, Math.max(50, retryMs / 4));
      return null;
    }
    if (page.attempts + 1 >= MAX_ATTEMPTS) {
      site.failures++;
      const result = withoutLinks(page, 'failed', why, { cause });
      if (page.depth === 0 || (site.failures >= MAX_FAILED_IN_ROW && !(await this.stillAnswers(site)))) {
        site.isClosed = true;
        await this.writer.putSite(site.name, 'unreachable', why);
      }
      return result;
    }
    page.attempts++;
    await this.writer.putAttempt(page.id);
    this.rest(site, Math.min(MAX_REST_MS, waitMs ?? retryMs * 3 ** (page.attempts - 1)));
    return null;
  }

  /** Before a site is given up it is asked for its seed once more: some break off certain pages only. */
  private async stillAnswers(site: Site): Promise<boolean> {
    try {
      await this.turn(site);
      const { status } = await this.gate.pass(() => this.get(site.row.seed));
      this.rest(site, this.delayOf(null));
      this.connectivity.answered();
      if (asksToWait(status)) return false;
      site.failures = 0;
      return true;
    } catch (error) {
      if (this.context.signal.aborted) return true;
      if (error instanceof NetError) return false;
      throw error;
    }
  }

  private delayOf(robotsDelayMs: number | null): number {
    return Math.max(this.params.delayMs ?? this.context.settings.crawlDelayMs, robotsDelayMs ?? 0);
  }

  private rest(site: Site, ms: number): void {
    site.nextAt = Math.max(site.nextAt, performance.now() + ms);
  }

  /** Waits until the site may be asked again: one request at a time, the pause counted from the end of the last. */
  private async turn(site: Site): Promise<void> {
    const wait = site.nextAt - performance.now();
    if (wait > LONG_REST_MS) this.frontier.setReading(site.name, false);
    if (wait > 0) await sleep(wait, undefined, { signal: this.context.signal }).catch(() => undefined);
    if (wait > LONG_REST_MS) this.frontier.setReading(site.name, true);
    if (this.context.signal.aborted) throw new NetError('stopped', 'stopped');
  }

  private isOver(): boolean {
    if (this.context.signal.aborted || this.stopReason !== null || this.failure !== null) return true;
    return this.started >= this.params.pageBudget;
  }

  private settle(): number {
    const { store } = this.context;
    const seedDepths = new Map<string, number>();
    for (const site of this.sites.values()) if (site.row.depth !== null) seedDepths.set(site.name, site.row.depth);
    const joined = write(store, () => assignDepths(store, this.sourceId, depthLimit(this.params), seedDepths));
    if (joined > 0) this.frontier.load();
    return joined;
  }

  private weigh(): void {
    this.frontier.weigh(this.params.pageBudget - this.started);
    this.ticks++;
    const waiting = this.parked;
    // when nobody reads, everybody is asked again
    const isIdle = this.gate.busy === 0;
    this.parked = waiting.filter(({ until }) => !isIdle && until > this.ticks);
    for (const { until, resolve } of waiting) if (isIdle || until <= this.ticks) resolve();
  }

  private park(ticks: number): Promise<void> {
    return new Promise((resolve) => this.parked.push({ until: this.ticks + ticks, resolve }));
  }

  /** Takes over what the person changed, and stops by itself where it must. */
  private watch(): void {
    const { store, job } = this.context;
    const fresh = readJob(store, job.id);
    if (fresh) {
      const before = this.params.sitePageBudget;
      Object.assign(this.params, CrawlBudgets.parse(fresh.params));
      if (this.params.sitePageBudget !== before && this.active > 0) this.startSites();
    }
    for (const { site: name, state } of sitesOf(store, this.sourceId))
      if (this.sites.get(name)?.setDropped(state === 'dropped') && this.active > 0) this.startSites();
    this.writer.finds.setSwitches(switchesOf(store, this.sourceId));
    this.saveMinutes();
    const { minutesBudget, leastFinds } = this.params;
    if (minutesBudget !== null && this.minutes() >= minutesBudget)
      this.stopReason ??= `the time budget of ${minutesBudget} min is used up`;
    const { crawlMemoryMb, diskFloorMb } = this.context.settings;
    if (process.memoryUsage.rss() > crawlMemoryMb * 2 ** 20 || freemem() < MEMORY_FLOOR_BYTES)
      this.stopReason ??= 'memory is short, so it ended here; it can read on';
    const free = freeBytes(store.folder);
    if (free < diskFloorMb * 2 ** 20)
      this.stopReason ??= `the disk has only ${Math.round(free / 2 ** 20)} MB left, so it ended here; make space, then it can read on`;
    if (leastFinds !== null && this.yieldOfLate() < leastFinds)
      this.stopReason ??= `the last ${YIELD_PAGES} pages gave fewer than ${leastFinds} finds per 1,000`;
    this.orderMeasure();
    this.report();
  }

  /** Finds per 1,000 pages over the last pages; endless until there were enough of them. */
  private yieldOfLate(): number {
    const now = { pages: this.fetched, finds: this.pipeline?.finds ?? 0 };
    this.yields.push(now);
    while (this.yields.length > 1 && now.pages - this.yields[1].pages >= YIELD_PAGES) this.yields.shift();
    const before = this.yields[0];
    if (now.pages - before.pages < YIELD_PAGES) return Number.POSITIVE_INFINITY;
    return ((now.finds - before.finds) / (now.pages - before.pages)) * 1000;
  }

  /** Now and then strength and trust of what was found are taken, so that finds do not wait for the end. */
  private orderMeasure(): void {
    const finds = this.pipeline?.lapsed ?? 0;
    if (performance.now() - this.measuredAt < MEASURE_EVERY_MS || finds - this.measuredFinds < MEASURE_FINDS) return;
    this.measuredAt = performance.now();
    this.measuredFinds = finds;
    const params = { sourceId: this.sourceId, since: this.context.job.createdAt };
    this.context.order({ kind: 'measure', sourceId: this.sourceId, params });
  }

  /** The disk is full: wait for space, and say so. */
  private async waitForSpace(): Promise<void> {
    const before = this.message;
    this.message = 'the disk is full; waiting for space, nothing is lost';
    this.report();
    do {
      await sleep(DISK_WAIT_MS, undefined, { signal: this.context.signal }).catch(() => undefined);
      if (this.context.signal.aborted) throw new Stopped();
    } while (freeBytes(this.context.store.folder) < SOME_SPACE_BYTES);
    this.message = before;
  }

  private minutes(): number {
    return this.minutesBefore + (performance.now() - this.startedAt) / 60_000;
  }

  private saveMinutes(): void {
    try {
      saveCheckpoint(this.context.store, this.context.job.id, { minutes: this.minutes() });
    } catch (error) {
      this.context.log.warn({ err: error }, 'the time could not be kept');
    }
  }

  private sample(): void {
    this.writer.sample({ pages: this.fetched, finds: this.pipeline?.finds ?? 0 });
  }

  private closingWords(): string {
    const left = this.frontier.size;
    const beyond = `${left.toLocaleString('en')} known pages were left unread`;
    if (this.stopReason) return `${this.stopReason}; ${beyond}`;
    if (left === 0) return 'every page is read';
    if (this.started >= this.params.pageBudget) return `the page budget is used up; ${beyond}`;
    return `every site that answers is read; ${beyond}`;
  }

  private report(): void {
    this.context.progress({
      done: this.fetched,
      total: this.params.pageBudget,
      unit: 'pages',
      rate: this.meter.rate(this.fetched),
      message: this.connectivity.isCut ? 'no site answers; the network seems to be cut. Trying again' : this.message,
    });
  }
}

/** @throws JobError with the pattern that cannot be read. */
function scopeOf(params: CrawlParams, now: number): Scope {
  try {
    return new Scope(params, now);
  } catch (error) {
    throw new JobError((error as Error).message);
  }
}

function causeOf({ code }: NetError): UnreadCause | null {
  return code === 'stopped' ? null : code;
}

/** Failures that may pass: the site is down, or slow, or the way to it is. */
function isPassing({ code }: NetError): boolean {
  return code === 'timeout' || code === 'connection' || code === 'refused' || code === 'name-unsure';
}

function freeBytes(folder: string): number {
  const { bavail, bsize } = statfsSync(folder);
  return bavail * bsize;
}
