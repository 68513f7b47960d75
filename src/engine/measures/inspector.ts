import { normalizeAddress } from '../../core/crawl/address';
import { decodeHtml } from '../../core/crawl/decode';
import { type CaptureView, isPassedOn, judgeCapture } from '../../core/history/capture';
import type { LanguageOf } from '../../core/history/language';
import { outlinePage } from '../../core/history/outline';
import { originalAddress, viewPage } from '../../core/history/page-view';
import { summarizeCaptures } from '../../core/history/past';
import { CaptureSampler } from '../../core/history/sample';
import { subjectOfSite } from '../../core/history/subject';
import { templatePrint } from '../../core/links/template';
import { MEASURE_SPECS, type Measure, MOST_REFERRERS } from '../../core/measures/plan';
import { registrableDomain } from '../../core/names/domain';
import { likeness } from '../../core/names/spelling';
import type { Splitter } from '../../core/names/word-split';
import { clearSubject, subjectClassifier } from '../../core/topics/classifier';
import { DnsClient } from '../../net/dns';
import { NetError } from '../../net/errors';
import { contentType, HttpClient } from '../../net/http';
import { Pacer } from '../../net/pacer';
import { resolversOf } from '../../store/base/config';
import { write } from '../../store/base/database';
import { type DomainRow, readDomains } from '../../store/domains/domains';
import { putMarkMatches } from '../../store/domains/word-marks';
import { capturesOf, putCapture, putCapturePage, type StoredCapture } from '../../store/links/captures';
import { type FrontAnswer, pastOf, putInspection, readInspection } from '../../store/links/inspections';
import { anchorsOf } from '../../store/links/links';
import {
  type LinkLook,
  pagesLinking,
  putLinkLook,
  putSiteFacts,
  referringOf,
  type SiteFacts,
  siteLookedAt,
} from '../../store/links/referring';
import type { StoredReferring } from '../../store/links/stored-referring';
import { type MarkService, marksOf } from '../connections/services';
import { isInFile, PastReader } from '../history/past-reader';
import { putTimes } from '../jobs/measure';
import { inParallel } from '../lookups/checker';
import { RobotsCache } from '../lookups/robots';
import { type JobContext, throwIfStopped } from '../runner/context';

const DAY = 86_400_000;
const REFERRERS_AT_ONCE = 8;
/** A linking page that was looked at within this is not looked at again. */
const LOOK_FRESH_MS = MEASURE_SPECS.referrers.freshDays * DAY;
const PAGES_A_REFERRER = 3;
const MOST_HOPS = 5;
const PAGE_TIMEOUT_MS = 10_000;
const ANCHORS_READ = 60;
/** Marks less like a name than this are not kept. */
const LEAST_LIKE = 0.65;
const MOST_MARKS = 40;

/** Takes the costly measures of one domain after another: each asks somebody outside, and is kept as soon as it is taken. */
export class Inspector {
  private readonly http: HttpClient;
  private readonly dns: DnsClient;
  private readonly past: PastReader;
  private readonly register: MarkService | null;
  private readonly robots: RobotsCache;
  private readonly pacer: Pacer;
  /** Requests so far. */
  requests = 0;

  constructor(
    private readonly context: Pick<JobContext, 'store' | 'settings' | 'signal' | 'log'>,
    private readonly splitter: Splitter,
    private readonly languageOf: LanguageOf,
  ) {
    const { store, settings } = context;
    this.http = new HttpClient({
      userAgent: settings.userAgent,
      connector: store.config.connector,
      allowedPrivate: settings.allowedPrivate,
      timeoutMs: PAGE_TIMEOUT_MS,
    });
    this.dns = new DnsClient({
      resolvers: resolversOf(settings),
      timeoutMs: 2000,
      tries: 2,
      connector: store.config.dns.connector,
      asksEndings: settings.asksEndings,
      allowedPrivate: settings.allowedPrivate,
    });
    this.past = new PastReader(store, settings, this.http);
    this.register = marksOf(this.http, settings);
    this.robots = new RobotsCache(this.http, settings.userAgent);
    this.pacer = new Pacer({ intervalMs: settings.crawlDelayMs, maxIntervalMs: 60_000 });
  }

  async close(): Promise<void> {
    this.dns.close();
    await this.http.close();
  }

  /** Takes measures of a domain. One that fails is left for the next time; the others are taken all the same. */
  async inspect(row: DomainRow, measures: readonly Measure[]): Promise<void> {
    const takers: Record<Measure, (row: DomainRow) => Promise<void>> = {
      captures: (one) => this.readPast(one),
      forwarding: (one) => this.askFront(one),
      referrers: (one) => this.lookAtReferrers(one),
      marks: (one) => this.findMarks(one),
    };
    for (const measure of measures) {
      throwIfStopped(this.context.signal);
      try {
        await takers[measure](row);
      } catch (error) {
        if (!(error instanceof NetError) || this.context.signal.aborted) throw error;
        this.context.log.warn({ name: row.name, measure, error: error.message }, 'a measure could not be taken');
      }
    }
    this.judgeSubject(row.id);
  }

  /** The list of captures, then those that tell most, and what they make of the past. */
  private async readPast(row: DomainRow): Promise<void> {
    const { store, signal } = this.context;
    if (!this.past.isThere) return;
    const { mementos, server, partial } = await this.past.of(row.name, signal);
    this.requests++;
    const times = mementos.map(({ at }) => at);
    write(store, () => putTimes(store, row.id, times, server));
    const known = new Map(capturesOf(store, row.id).map((capture) => [capture.at, capture]));
    const sampler = new CaptureSampler(times);
    const read: StoredCapture[] = [];
    for (let place = sampler.next(); place !== null; place = sampler.next()) {
      throwIfStopped(signal);
      const capture = known.get(times[place]) ?? (await this.readCapture(row, mementos[place]));
      if (!capture) {
        sampler.fail(place);
        continue;
      }
      sampler.put(place, capture);
      read.push(capture);
    }
    read.sort((a, b) => a.at - b.at);
    const past = summarizeCaptures({ times, read, registeredAt: row.registered_at });
    const lastEra = past.eras.at(-1);
    const at = store.now();
    const forward = readInspection(store, row.id)?.forward_now ? {} : { forward_to: lastEra?.redirectTo ?? null };
    write(store, () =>
      putInspection(store, row.id, {
        captures_at: at,
        captures_read: read.length,
        captures_partial: partial ? 1 : 0,
        content_years: past.contentYears,
        gaps: past.gaps.length,
        drops: past.drops.length,
        drift: past.drift,
        language: past.language,
        past: JSON.stringify(past),
        ...forward,
      }),
    );
  }

  /** @returns null when the archive does not hand it out. */
  private async readCapture(row: DomainRow, memento: { url: string; at: number }): Promise<StoredCapture | null> {
    const { store, signal } = this.context;
    // an index that nobody has said how to read captures by
    if (memento.url === '') return null;
    try {
      const answer = await this.followedCapture(row, memento.url);
      const html = decodeHtml(answer.body, contentType(answer.contentType).charset).text;
      const view = judgeCapture(
        { status: answer.status, location: answer.location, html, site: row.name },
        this.languageOf,
      );
      const capture = asStored(view, memento, answer.status);
      const blocks = outlinePage(html);
      write(store, () => {
        putCapture(store, row.id, capture, store.now());
        putCapturePage(store, row.id, capture.at, blocks);
      });
      return capture;
    } catch (error) {
      if (!(error instanceof NetError) || signal.aborted) throw error;
      this.requests++;
      return null;
    }
  }

  /** A capture, or where it led within the same name: to its https or www address. */
  private async followedCapture(row: DomainRow, url: string) {
    let answer = await this.past.capture(url, this.context.signal);
    this.requests++;
    if (isInFile(url)) return answer;
    for (let hop = 0; hop < MOST_HOPS && answer.location; hop++) {
      const within = registrableDomain(originalAddress(answer.location) ?? '')?.name === row.name;
      if (answer.status < 300 || answer.status >= 400 || !within) break;
      answer = await this.past.capture(new URL(answer.location, url).href, this.context.signal);
      this.requests++;
    }
    return answer;
  }

  /** What the front page answers now, and whether it sends its visitors to another domain. */
  private async askFront(row: DomainRow): Promise<void> {
    const { store } = this.context;
    const front = await this.frontOf(row.name);
    const before = readInspection(store, row.id);
    const past = front.to === null && before?.forward_now !== 1 ? {} : { forward_to: front.to };
    write(store, () =>
      putInspection(store, row.id, {
        forwarding_at: store.now(),
        forward_now: front.to === null ? 0 : 1,
        front: JSON.stringify(front),
        ...past,
      }),
    );
  }

  private async frontOf(name: string): Promise<FrontAnswer> {
    let url = `http://${name}/`;
    const none = (note: string, status: number | null = null): FrontAnswer => ({ status, to: null, note });
    try {
      for (let hop = 0; hop < MOST_HOPS; hop++) {
        const page = await this.page(url);
        if (page === null) return none('its robots.txt does not want it read');
        const target = page.location ?? viewPage(page.html).sendsTo;
        const next = target === null ? null : normalizeAddress(target, url);
        if (!next) return none(`answers ${page.status}`, page.status);
        const domain = registrableDomain(next.site);
        if (domain && domain.name !== name)
          return { status: page.status, to: domain.name, note: `leads to ${next.url.slice(0, 200)}` };
        url = next.url;
      }
      return none('redirects in a circle');
    } catch (error) {
      if (!(error instanceof NetError) || this.context.signal.aborted) throw error;
      return none(error.message);
    }
  }

  /** Fetches a page as a crawl would. @returns null where robots.txt forbids it. @throws NetError */
  private async page(url: string): Promise<{ status: number; location: string | null; html: string } | null> {
    const { signal } = this.context;
    const { host } = new URL(url);
    const { allowed } = await this.robots.ask(url, signal);
    if (!allowed) return null;
    await this.pacer.turn(host, signal);
    const answer = await this.http.get(url, { signal });
    this.requests++;
    const isRedirect = answer.status >= 300 && answer.status < 400;
    const html = decodeHtml(answer.body, contentType(answer.headers['content-type']).charset).text;
    return { status: answer.status, location: isRedirect ? (answer.headers.location ?? null) : null, html };
  }

  /** Fetches linking pages again, and looks at what may give their owners away. */
  private async lookAtReferrers(row: DomainRow): Promise<void> {
    const { store } = this.context;
    const referrers = referringOf(store, row.id, () => 0).slice(0, MOST_REFERRERS);
    const due = referrers.filter(({ lookedAt }) => lookedAt === null || store.now() - lookedAt > LOOK_FRESH_MS);
    await inParallel(due, REFERRERS_AT_ONCE, async (referrer) => {
      throwIfStopped(this.context.signal);
      const { look, trackingIds } = await this.lookAt(row, referrer);
      const { facts, isGone } = await this.factsOf(referrer, trackingIds);
      if (isGone) Object.assign(look, { standing: 'gone', note: 'the site is no longer there' });
      write(store, () => {
        putLinkLook(store, row.id, look);
        if (facts) putSiteFacts(store, referrer.fromId, facts, store.now());
      });
    });
    write(store, () => putInspection(store, row.id, { referrers_at: store.now() }));
  }

  /** Whether a site still links: up to three of the pages that are known to are fetched. */
  private async lookAt(
    row: DomainRow,
    referrer: StoredReferring,
  ): Promise<{ look: LinkLook; trackingIds: string[] | null }> {
    const { store } = this.context;
    const look = (standing: LinkLook['standing'], note: string, more: Partial<LinkLook> = {}): LinkLook => ({
      fromId: referrer.fromId,
      url: referrer.exampleUrl,
      at: store.now(),
      standing,
      anchor: null,
      rel: null,
      fingerprint: null,
      language: null,
      note,
      ...more,
    });
    let missed = look('unknown', 'could not be looked at');
    let trackingIds: string[] | null = null;
    for (const url of pagesLinking(store, row.id, referrer.fromId, PAGES_A_REFERRER)) {
      try {
        const page = await this.page(url);
        if (page === null) {
          missed = look('unknown', 'its robots.txt does not want it read', { url });
          continue;
        }
        if (page.status === 404 || page.status === 410) {
          missed = look('gone', `the page answers ${page.status}`, { url });
          continue;
        }
        if (page.status !== 200) {
          missed = look('unknown', `the page answers ${page.status}`, { url });
          continue;
        }
        const view = viewPage(page.html);
        trackingIds = view.trackingIds;
        const link = view.links.find(({ href }) => registrableDomain(originalAddress(href) ?? '')?.name === row.name);
        const read = {
          url,
          fingerprint: templatePrint(view.text, [referrer.site, row.name]),
          language: this.languageOf(view.text),
        };
        if (link)
          return {
            look: look('there', 'the link is there', { ...read, anchor: link.text, rel: link.rel }),
            trackingIds,
          };
        missed = look('gone', 'the page is there without the link', read);
      } catch (error) {
        if (!(error instanceof NetError) || this.context.signal.aborted) throw error;
        missed = look('unknown', error.message, { url });
      }
    }
    return { look: missed, trackingIds };
  }

  /** @returns facts null when they are known from a look at the site for another domain. */
  private async factsOf(
    referrer: StoredReferring,
    trackingIds: string[] | null,
  ): Promise<{ facts: SiteFacts | null; isGone: boolean }> {
    const { store } = this.context;
    const lookedAt = siteLookedAt(store, referrer.fromId);
    if (lookedAt !== null && store.now() - lookedAt < LOOK_FRESH_MS) return { facts: null, isGone: false };
    const [delegation, address] = await Promise.all([
      this.dns.delegation(referrer.site),
      this.dns.address(referrer.site),
    ]);
    this.requests += 2;
    return {
      facts: {
        nameServers: delegation.nameServers,
        addressBlock: blockOf(address),
        trackingIds: trackingIds ?? referrer.trackingIds,
      },
      isGone: delegation.outcome === 'nxdomain',
    };
  }

  /** Trademarks that are like the name. */
  private async findMarks(row: DomainRow): Promise<void> {
    const { store, signal } = this.context;
    if (!this.register) return;
    const label = row.name.slice(0, row.name.length - row.ending.length - 1);
    const { words } = this.splitter.split(label);
    const found = await this.register.find(words.join(' '), signal);
    this.requests++;
    const matches = found.flatMap((mark) => {
      const like = likeness(label, words, mark.mark);
      return like && like.score >= LEAST_LIKE ? [{ ...mark, ...like }] : [];
    });
    matches.sort((a, b) => b.score - a.score || (a.mark < b.mark ? -1 : 1));
    const at = store.now();
    write(store, () => {
      putMarkMatches(store, row.id, matches.slice(0, MOST_MARKS), at);
      putInspection(store, row.id, { marks_at: at, marks_found: matches.length });
    });
  }

  private judgeSubject(domainId: number): void {
    const { store } = this.context;
    const eras = pastOf(readInspection(store, domainId))?.eras ?? [];
    const { from, words, runnerUp, ...verdict } = subjectOfSite(
      capturesOf(store, domainId),
      eras,
      anchorsOf(store, domainId, ANCHORS_READ),
    );
    write(store, () =>
      putInspection(store, domainId, {
        subject: clearSubject({ ...verdict, words, runnerUp }),
        subject_confidence: verdict.confidence,
        subject_why: JSON.stringify({ from, words, runnerUp }),
      }),
    );
  }
}

function asStored(view: CaptureView, memento: { url: string; at: number }, status: number): StoredCapture {
  const verdict = subjectClassifier().classify(view.terms, view.language);
  return {
    ...view,
    at: memento.at,
    url: memento.url,
    status,
    isPassedOn: isPassedOn(view),
    subject: view.kind === 'content' ? clearSubject(verdict) : null,
    subjectConfidence: view.kind === 'content' ? verdict.confidence : null,
  };
}

/** The first three bytes of an IPv4 address, or the first three groups of an IPv6 address. */
function blockOf(address: string | null): string | null {
  if (address === null) return null;
  return address.includes(':') ? address.split(':').slice(0, 3).join(':') : address.split('.').slice(0, 3).join('.');
}

/** A domain as it stands now, for scoring after its measures. */
export function rowOf(context: Pick<JobContext, 'store'>, id: number): DomainRow | null {
  return readDomains(context.store, [id])[0] ?? null;
}
