import { setTimeout as sleep } from 'node:timers/promises';
import { z } from 'zod';
import { type CrawlAddress, normalizeAddress, seedAddress } from '../../core/crawl/address';
import { isIndexableKind, judgeContent, type PageKind } from '../../core/crawl/content';
import { decodeHtml } from '../../core/crawl/decode';
import { forecast, type ReadOfTrial } from '../../core/crawl/forecast';
import { LevelSample, nextToRead } from '../../core/crawl/level-sample';
import { forwardOf, type ReadPage, readPage } from '../../core/crawl/links';
import type { TrialReport } from '../../core/crawl/trial-report';
import { registrableDomain } from '../../core/names/domain';
import { NetError } from '../../net/errors';
import { contentType, type HttpAnswer, HttpClient } from '../../net/http';
import { retryAfterMs } from '../../net/pacer';
import { resolversOf } from '../../store/base/config';
import { putJobRow } from '../../store/base/jobs';
import { HTML_TYPES } from '../crawl/page-reader';
import { inParallel } from '../lookups/checker';
import { RobotsCache } from '../lookups/robots';
import { type JobContext, RateMeter, throwIfStopped } from '../runner/context';

export const TrialParams = z.object({ seeds: z.array(z.string()).min(1), delayMs: z.number().int().min(0).optional() });

const SITES_AT_ONCE = 24;
/** Pages read of each site beside its home page. */
const SAMPLED_PAGES = 30;
/** Of one level, before the next is looked at. */
const PAGES_A_TURN = 6;
/** Links from the home page to the deepest that are read. */
const DEEPEST = 3;
/** Addresses that are sorted into kinds, of each level. */
const MAX_LOOKED_AT = 500;
const MAX_HOPS = 4;
/** Domains that a trial names one by one; how far sites overlap shows with fewer. */
const MOST_NAMES = 400;
/** A server that asks for a longer pause is taken at its word: it does not answer. */
const MAX_WAIT_MS = 5000;
/** robots.txt that forbids more than this leaves nothing to crawl. */
const FORBIDS_MOST = 0.9;

/** Reads a few pages of each seed and says what a crawl would get. */
export async function runTrial(context: JobContext): Promise<void> {
  const { store, job, settings, signal } = context;
  const params = TrialParams.parse(job.params);
  const http = new HttpClient({
    userAgent: settings.userAgent,
    connector: store.config.connector,
    allowedPrivate: settings.allowedPrivate,
    resolvers: resolversOf(settings),
    timeoutMs: 10_000,
  });
  const robots = new RobotsCache(http, settings.userAgent);
  const meter = new RateMeter();
  const done = Number(job.checkpoint?.done ?? 0);
  let finished = done;
  const report = (message: string) =>
    context.progress({
      done: finished,
      total: params.seeds.length,
      unit: 'seeds',
      rate: meter.rate(finished),
      message,
    });
  report('reading a few pages of each seed');
  try {
    await inParallel([...params.seeds.entries()], SITES_AT_ONCE, async ([index, seed]) => {
      throwIfStopped(signal);
      const row = await new SeedTrial(context, http, robots, params.delayMs ?? settings.crawlDelayMs).run(seed);
      putJobRow(store, job.id, index, row);
      finished++;
      report('reading a few pages of each seed');
    });
  } finally {
    await http.close();
  }
  throwIfStopped(signal);
  report('every seed was tried');
}

interface Got {
  status: number;
  url: string;
  page: ReadPage | null;
  kind: PageKind | null;
  reason: string;
  elapsedMs: number;
}

/** A page of the sample. */
interface Sampled extends Got {
  depth: number;
  isChosen: boolean;
}

class SeedTrial {
  private nonsense: number | null = null;
  private readonly marks = new Map<number, number>();
  private readonly kinds: TrialReport['kinds'] = {};
  private last = 0;

  constructor(
    private readonly context: JobContext,
    private readonly http: HttpClient,
    private readonly robots: RobotsCache,
    private delayMs: number,
  ) {}

  async run(seed: string): Promise<TrialReport> {
    const address = seedAddress(seed);
    const report: TrialReport = {
      seed,
      site: address?.site ?? null,
      works: false,
      reason: null,
      status: null,
      pages: 0,
      kinds: this.kinds,
      forbidden: 0,
      msPerPage: 0,
      delayMs: this.delayMs,
      outsidePerPage: 0,
      domains: 0,
      names: [],
      forecasts: [],
    };
    if (!address) return { ...report, reason: 'this is no web address' };
    try {
      return await this.readSite(address, report);
    } catch (error) {
      if (!(error instanceof NetError) || this.context.signal.aborted) throw error;
      return { ...report, reason: error.message };
    }
  }

  private async readSite(address: CrawlAddress, report: TrialReport): Promise<TrialReport> {
    const allowed = await this.robots.ask(address.url, this.context.signal);
    report.delayMs = this.delayMs = Math.max(this.delayMs, allowed.crawlDelayMs ?? 0);
    if (!allowed.allowed) return { ...report, forbidden: 1, reason: 'robots.txt forbids the seed itself' };
    const home = await this.get(address);
    report.status = home.status;
    if (home.status !== 200) return { ...report, reason: whyNot(home) };
    if (!home.page) return { ...report, reason: home.reason };
    const probe = await this.get(
      normalizeAddress('/no-such-page-is-here-jl7f3q.html', home.url) as CrawlAddress,
      false,
    );
    this.nonsense = probe.status === 200 && probe.page ? probe.page.mark.hash : null;
    this.count(home);
    const inside = distinct(home.page, address.site);
    let forbidden = 0;
    for (const url of inside) if (!(await this.isAllowed(url))) forbidden++;
    report.forbidden = inside.length === 0 ? 0 : forbidden / inside.length;
    const got: Sampled[] = [{ ...home, depth: 0, isChosen: false }];
    const known = new Set([home.url, ...inside]);
    const levels = Array.from({ length: DEEPEST }, () => new LevelSample());
    levels[0].add(await this.allowed(inside));
    for (let left = SAMPLED_PAGES; left > 0; ) {
      const level = nextToRead(levels);
      if (!level) break;
      const fresh: string[] = [];
      for (const next of level.take(Math.min(PAGES_A_TURN, left))) {
        const one = await this.read(normalizeAddress(next.url) as CrawlAddress);
        this.count(one);
        got.push({ ...one, depth: levels.indexOf(level) + 1, isChosen: next.isChosen });
        const found = one.page ? distinct(one.page, address.site).filter((link) => !known.has(link)) : [];
        level.has(next, found);
        fresh.push(...found);
        left--;
      }
      for (const url of fresh) known.add(url);
      levels[levels.indexOf(level) + 1]?.add(await this.allowed([...new Set(fresh)]));
    }
    return this.judge(address, report, got, inside, levels);
  }

  private judge(
    address: CrawlAddress,
    report: TrialReport,
    got: Sampled[],
    inside: string[],
    levels: LevelSample[],
  ): TrialReport {
    const pages = got.flatMap(({ page }) => page ?? []);
    const sampled: ReadOfTrial[] = got.flatMap(({ page, depth, isChosen }) =>
      page ? [{ depth, isChosen, outside: outsideDomains(page, address.site) }] : [],
    );
    const names = [...new Set(sampled.flatMap(({ outside }) => outside))];
    const links = pages.reduce(
      (sum, page) => sum + page.links.filter((link) => link.address.site !== address.site).length,
      0,
    );
    const doors = (this.kinds.challenge ?? 0) + (this.kinds.consent ?? 0);
    const content = got.filter((one) => one.kind !== null && isIndexableKind(one.kind)).length;
    const msPerPage = got.reduce((sum, one) => sum + one.elapsedMs, 0) / got.length;
    const read: TrialReport = {
      ...report,
      pages: got.length,
      msPerPage: Math.round(msPerPage),
      outsidePerPage: links / Math.max(1, pages.length),
      domains: names.length,
      names: names.slice(0, MOST_NAMES),
      forecasts: forecast({
        homeLinks: inside.length,
        levels: levels.map((level) => level.sampled()).filter((pages) => pages.length > 0),
        read: sampled,
        failed: got.length - sampled.length,
        msPerPage,
        delayMs: this.delayMs,
      }),
    };
    const door = got.find((one) => one.kind === 'challenge' || one.kind === 'consent');
    if (door && doors >= content)
      read.reason = `answers 200 with ${door.kind === 'consent' ? 'a consent wall' : 'a challenge'}: ${door.reason}`;
    else if (read.forbidden >= FORBIDS_MOST)
      read.reason = `robots.txt forbids ${Math.round(read.forbidden * 100)}% of the links of its home page`;
    else if (inside.length === 0 && read.domains === 0) read.reason = 'its home page links to nothing';
    read.works = read.reason === null;
    if (read.works && this.nonsense !== null)
      read.reason = 'answers 200 to addresses that do not exist; told by their text';
    return read;
  }

  /** Those of the first addresses that robots.txt allows. */
  private async allowed(urls: readonly string[]): Promise<string[]> {
    const allowed: string[] = [];
    for (const url of urls.slice(0, MAX_LOOKED_AT)) if (await this.isAllowed(url)) allowed.push(url);
    return allowed;
  }

  /** A host of the site that does not answer, beside the seed's own, allows nothing. */
  private async isAllowed(url: string): Promise<boolean> {
    try {
      return (await this.robots.ask(url, this.context.signal)).allowed;
    } catch (error) {
      if (!(error instanceof NetError) || this.context.signal.aborted) throw error;
      return false;
    }
  }

  /** A page beside the home page: when it cannot be had, that says nothing of the site. */
  private async read(address: CrawlAddress): Promise<Got> {
    try {
      return await this.get(address);
    } catch (error) {
      if (!(error instanceof NetError) || this.context.signal.aborted) throw error;
      return { status: 0, url: address.url, page: null, kind: null, reason: error.message, elapsedMs: 0 };
    }
  }

  private async get(address: CrawlAddress, judge = true): Promise<Got> {
    let url = address.url;
    for (let hop = 0; ; hop++) {
      const wait = this.last + this.delayMs - performance.now();
      if (this.last > 0 && wait > 0) await sleep(wait, undefined, { signal: this.context.signal });
      const answer = await this.ask(url);
      const { type, charset } = contentType(answer.headers['content-type']);
      const base = {
        status: answer.status,
        url,
        page: null,
        kind: null,
        reason: '',
        elapsedMs: answer.elapsedMs,
      };
      if (answer.status >= 300 && answer.status < 400) {
        const target = normalizeAddress(answer.headers.location ?? '', url);
        if (!target || hop >= MAX_HOPS) return { ...base, reason: 'redirects without end' };
        if (target.site !== address.site) return { ...base, reason: `has moved to ${target.site}` };
        url = target.url;
        continue;
      }
      if (answer.status !== 200) return base;
      if (!HTML_TYPES.has(type)) return { ...base, reason: `is ${type}, not a page` };
      const html = decodeHtml(answer.body, charset).text;
      const page = readPage(html, url);
      if (!judge) return { ...base, page };
      const { mark } = page;
      const outside = outsideDomains(page, address.site).length;
      const verdict = judgeContent({
        title: page.title,
        visible: () => page.visible,
        mark,
        linksInside: page.links.length - outside,
        linksOutside: outside,
        nonsenseHash: this.nonsense,
        forwardsTo: forwardOf(page, html, url),
        sameText: this.marks.get(mark.hash) ?? 0,
      });
      this.marks.set(mark.hash, (this.marks.get(mark.hash) ?? 0) + 1);
      return { ...base, page, kind: verdict.kind, reason: verdict.reason };
    }
  }

  /** One request; a server that asks to wait a little is asked once more. */
  private async ask(url: string): Promise<HttpAnswer> {
    const get = () =>
      this.http.get(url, { signal: this.context.signal }).finally(() => {
        this.last = performance.now();
      });
    const answer = await get();
    if (answer.status !== 429 && answer.status !== 503) return answer;
    const wait = retryAfterMs(answer.headers['retry-after'], Date.now()) ?? 1000;
    if (wait > MAX_WAIT_MS) return answer;
    await sleep(wait, undefined, { signal: this.context.signal });
    return get();
  }

  private count({ kind }: Got): void {
    if (kind) this.kinds[kind] = (this.kinds[kind] ?? 0) + 1;
  }
}

function whyNot({ status, reason }: Got): string {
  return reason || `the server answered ${status}`;
}

function distinct(page: ReadPage, site: string): string[] {
  return [...new Set(page.links.filter((link) => link.address.site === site).map((link) => link.address.url))];
}

function outsideDomains(page: ReadPage, site: string): string[] {
  const names = page.links.flatMap(({ address }) =>
    address.site === site ? [] : (registrableDomain(address.site)?.name ?? []),
  );
  return [...new Set(names)];
}
