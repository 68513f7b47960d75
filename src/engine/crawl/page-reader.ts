import { AddressMemory, type CrawlAddress, normalizeAddress } from '../../core/crawl/address';
import { isIndexableKind, judgeContent } from '../../core/crawl/content';
import { decodeHtml } from '../../core/crawl/decode';
import { forwardOf, type PageLink, type ReadPage, readPage, robotsDirectives } from '../../core/crawl/links';
import type { CrawlParams } from '../../core/crawl/params';
import type { NotFollowed, Scope } from '../../core/crawl/scope';
import { contentType, type HttpAnswer } from '../../net/http';
import type { PageOutcome, QueuedPage } from '../../store/crawl/crawl';

/** Redirects in a row that are followed. */
const MAX_HOPS = 5;
/** Room in a link's number for the links of one page. */
export const LINKS_PER_PAGE = 4096;
export const HTML_TYPES = new Set(['text/html', 'application/xhtml+xml', '']);

export interface OutsideLink extends Pick<PageLink, 'anchor' | 'nofollow' | 'at'>, CrawlAddress {
  /** Why the link is no vote, whatever its rel: what keeps its page out of an index. null: it is one. */
  unindexed: 'noindex' | 'canonical' | 'copy' | 'not-content' | null;
}

/** An address inside the site, with the words of the link. */
export type InsideLink = Pick<PageLink, 'address' | 'anchor'> & Partial<Pick<PageLink, 'id'>>;

/** What became of one page, not yet written. */
export interface PageResult {
  page: QueuedPage;
  outcome: PageOutcome;
  /** Links inside to pages that the crawl knows, by id, and to others. */
  known: number[];
  inside: InsideLink[];
  isRedirect: boolean;
  outside: OutsideLink[];
  /** Visible text, for the words around a link; made when asked for. */
  visible(): string;
  /** Addresses inside that a rule kept out, with the rule. */
  refused: { url: string; refused: NotFollowed }[];
}

/** What a site has shown so far. */
export interface SiteMemory {
  seedHost: string;
  nonsenseMark: number | null;
  /** How often a text was met on the site before. */
  sameText(mark: number): number;
  /** Whether addresses that end like this one were answered with something else than pages. */
  isNoPage(url: string): boolean;
}

export const NO_OUTCOME: Omit<PageOutcome, 'state' | 'note'> = {
  status: null,
  contentType: null,
  charset: null,
  title: null,
  noindex: false,
  nofollow: false,
  canonical: null,
  bytes: 0,
  linksOut: 0,
  kind: null,
  mark: null,
  letters: null,
  readers: null,
  contact: null,
  cause: null,
};

/** Why an address is not asked for whose like gave no page. */
export const NO_PAGE_HERE: NotFollowed = { trap: null, reason: 'addresses that end like it are no pages on this site' };

/** A page without links: not read, or nothing to read. */
export function withoutLinks(
  page: QueuedPage,
  state: PageOutcome['state'],
  note: string,
  base: Partial<PageOutcome> = {},
): PageResult {
  return {
    page,
    known: [],
    inside: [],
    isRedirect: false,
    outside: [],
    visible: () => '',
    refused: [],
    outcome: { ...NO_OUTCOME, ...base, state, note },
  };
}

/** Reads what a server answered into links, finds and a judgement. Does no I/O. */
export class PageReader {
  constructor(
    private readonly params: CrawlParams,
    private readonly scope: Scope,
    /** Page id of an address that passed the rules before; undefined may also mean forgotten. */
    private readonly idOf: (address: CrawlAddress) => number | undefined,
    private readonly memory = new AddressMemory(),
  ) {}

  read(page: QueuedPage, answer: HttpAnswer, site: SiteMemory): PageResult {
    const { type, charset } = contentType(answer.headers['content-type']);
    const base = { status: answer.status, contentType: type };
    if (answer.status >= 300 && answer.status < 400)
      return this.redirected(page, answer.headers.location ?? '', base, site);
    if (answer.status >= 400)
      return withoutLinks(page, 'failed', `the server answered ${answer.status}`, { ...base, cause: 'status' });
    if (!HTML_TYPES.has(type)) return withoutLinks(page, 'skipped', `${type} is not read`, { ...base, cause: 'type' });
    const decoded = decodeHtml(answer.body, charset);
    const read = readPage(decoded.text, page.url, this.memory);
    const header = robotsDirectives(answer.headers['x-robots-tag'] ?? '');
    read.noindex ||= header.noindex;
    read.nofollow ||= header.nofollow;
    const forwardsTo = forwardOf(read, decoded.text, page.url);
    return this.judged(page, read, forwardsTo, site, { ...base, charset: decoded.charset, bytes: answer.body.length });
  }

  private judged(
    page: QueuedPage,
    read: ReadPage,
    forwardsTo: string | null,
    site: SiteMemory,
    base: Partial<PageOutcome>,
  ): PageResult {
    const { mark } = read;
    const insideLinks: PageLink[] = [];
    const outsideLinks: PageLink[] = [];
    const isOwnInside = this.scope.isInside(page, page.site, site.seedHost);
    for (const link of read.links) {
      const isInside = link.isOwn && isOwnInside ? true : this.scope.isInside(link.address, page.site, site.seedHost);
      (isInside ? insideLinks : outsideLinks).push(link);
    }
    const verdict = judgeContent({
      title: read.title,
      visible: () => read.visible,
      mark,
      linksInside: insideLinks.length,
      linksOutside: outsideLinks.length,
      nonsenseHash: site.nonsenseMark,
      forwardsTo,
      sameText: site.sameText(mark.hash),
    });
    const isElsewhere = read.canonical !== null && read.canonical !== page.url;
    const unindexed = read.noindex
      ? 'noindex'
      : isElsewhere
        ? 'canonical'
        : verdict.kind === 'copy'
          ? 'copy'
          : isIndexableKind(verdict.kind)
            ? null
            : 'not-content';
    const result: PageResult = {
      page,
      known: [],
      inside: [],
      isRedirect: false,
      outside: [],
      visible: () => read.visible,
      refused: [],
      outcome: {
        ...NO_OUTCOME,
        ...base,
        state: 'done',
        title: read.title,
        noindex: read.noindex,
        nofollow: read.nofollow,
        canonical: read.canonical,
        note: verdict.reason || null,
        kind: verdict.kind,
        mark: mark.hash,
        letters: mark.letters,
        readers: read.readers,
        contact: read.contact,
      },
    };
    const { params } = this;
    if (isElsewhere && params.canonical === 'obey') {
      const canonical = normalizeAddress(read.canonical ?? '');
      if (canonical && this.scope.isInside(canonical, page.site, site.seedHost))
        this.follow(result, [{ address: canonical, anchor: '' }], site);
      return result;
    }
    if (verdict.kind === 'copy') {
      result.refused.push({
        url: page.url,
        refused: { trap: 'copies', reason: 'the same texts under other addresses' },
      });
      // the links of a copy lead to more copies; those of its original are followed
    } else if (verdict.kind === 'not-found') {
      result.refused.push({
        url: page.url,
        refused: { trap: 'not-found', reason: 'pages that are not there, answered with 200' },
      });
      this.follow(result, insideLinks, site);
    } else
      this.follow(
        result,
        params.nofollow === 'obey' ? insideLinks.filter((link) => !link.nofollow && !read.nofollow) : insideLinks,
        site,
      );
    const forward = forwardsTo === null ? null : normalizeAddress(forwardsTo);
    if (forward && this.scope.isInside(forward, page.site, site.seedHost))
      this.follow(result, [{ address: forward, anchor: '' }], site);
    else if (forward) outsideLinks.push({ address: forward, anchor: '', nofollow: false, at: 0 } as PageLink);
    if (!(read.noindex && params.noindex === 'obey')) result.outside = this.outsideOf(read, outsideLinks, unindexed);
    result.outcome.linksOut = result.outside.length;
    return result;
  }

  private outsideOf(read: ReadPage, links: PageLink[], unindexed: OutsideLink['unindexed']): OutsideLink[] {
    const outside = new Map<string, OutsideLink>();
    for (const { address, anchor, nofollow, at } of links) {
      const { url, host, site } = address;
      if (!outside.has(url) && outside.size < LINKS_PER_PAGE)
        outside.set(url, { url, host, site, anchor, at, nofollow: nofollow || read.nofollow, unindexed });
    }
    return [...outside.values()];
  }

  private follow(result: PageResult, links: InsideLink[], site: SiteMemory): void {
    const seen = new Set<string>();
    for (const link of links) {
      let { id } = link;
      if (id === undefined) id = this.idOf(link.address);
      if (id !== undefined) {
        result.known.push(id);
        continue;
      }
      const { address } = link;
      const { url } = address;
      if (seen.has(url)) continue;
      seen.add(url);
      const refused = this.scope.refuse(address) ?? (site.isNoPage(url) ? NO_PAGE_HERE : null);
      if (refused) result.refused.push({ url, refused });
      else result.inside.push({ address, anchor: link.anchor });
    }
  }

  private redirected(page: QueuedPage, location: string, base: Partial<PageOutcome>, site: SiteMemory): PageResult {
    const target = location === '' ? null : normalizeAddress(location, page.url);
    if (!target) return withoutLinks(page, 'failed', 'redirects to nowhere', { ...base, cause: 'bad-answer' });
    const result = withoutLinks(page, 'done', `redirects to ${target.url}`, base);
    if (!this.scope.isInside(target, page.site, site.seedHost)) {
      // the seed's own site may have moved; what it moved to is a find, not a part of this site
      result.outside.push({ ...target, anchor: '', nofollow: false, at: 0, unindexed: null });
      result.outcome.linksOut = 1;
    } else if (page.hops >= MAX_HOPS)
      return withoutLinks(page, 'failed', `more than ${MAX_HOPS} redirects in a row`, { ...base, cause: 'bad-answer' });
    else {
      result.isRedirect = true;
      this.follow(result, [{ address: target, anchor: '' }], site);
    }
    return result;
  }
}
