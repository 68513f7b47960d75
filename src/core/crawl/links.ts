import { type AddressMemory, type AddressPlace, AddressResolver, type CrawlAddress, normalizeAddress } from './address';
import { type ContentMark, markParts } from './content';
import { type Attributes, foldText, type HtmlEvents, scanHtml } from './html';
import { readersInJson, VIEWING } from './readers';

/** A link as it stands on a page. */
export interface PageLink {
  readonly address: CrawlAddress;
  /** It is on the page's own host by the way it is written; false says nothing. */
  readonly isOwn: boolean;
  /** Number that the memory has for the address; undefined when there is none. Cheaper to ask than the address. */
  readonly id: number | undefined;
  /** Visible text, white space folded; the alt text of an image where there is nothing else. At most 200 characters. */
  readonly anchor: string;
  /** rel says nofollow, ugc or sponsored. */
  readonly nofollow: boolean;
  /** Where the anchor stands in the page's visible text, for linkContext. */
  readonly at: number;
}

export interface ReadPage {
  title: string;
  /** `lang` of the document, lower case; null when it says none. */
  language: string | null;
  links: PageLink[];
  /** From `<meta name=robots>`; the header is the fetcher's to add. */
  noindex: boolean;
  /** The whole page is nofollow. */
  nofollow: boolean;
  /** Address the page calls its own, resolved; null when it names none. */
  canonical: string | null;
  /** Where `<meta http-equiv=refresh>` leads within 10 s; null when there is none. */
  refresh: string | null;
  /** Links with a scheme the crawler does not follow, or no address at all. */
  junkLinks: number;
  /** Page or mail address for whoever runs the site; null when the page shows none. */
  contact: string | null;
  /** Readers or viewers that the page's own markup claims; null when it claims none. */
  readers: number | null;
  /** Letters and hash of the visible text. */
  mark: ContentMark;
  /** Visible text as it stands in the source, entities not yet decoded, words of different blocks parted. Made when asked for. */
  readonly visible: string;
}

const MAX_ANCHOR_CHARS = 200;
const CONTEXT_CHARS = 70;
const NO_TEXT = new Set(['template', 'noscript']);
const WANTED = new Set(['html', 'a', 'area', 'iframe', 'frame', 'img', 'base', 'meta', 'link', ...NO_TEXT]);
/** Words that lead to whoever runs a site are few. */
const MAX_CONTACT_CHARS = 30;
const CONTACT = /\b(contact|kontakt|imprint|impressum|feedback|write to us)\b/i;

const MOST_STUB_CHARS = 6000;
const SCRIPT_FORWARD =
  /\blocation(?:\.href)?\s*=\s*["']([^"'\s]{1,2000})["']|\blocation\.(?:replace|assign)\(\s*["']([^"'\s]{1,2000})["']/;

/**
 * Where a page that is little more than a signpost sends its reader: by `<meta http-equiv=refresh>`, or by a script in a page as short as
 * such pages are.
 *
 * @param html the page as it was sent.
 * @returns null when it sends nobody on, or only back to itself.
 */
export function forwardOf(page: Pick<ReadPage, 'refresh' | 'links'>, html: string, pageUrl: string): string | null {
  const found = html.length <= MOST_STUB_CHARS && page.links.length <= 3 ? SCRIPT_FORWARD.exec(html) : null;
  const target = page.refresh ?? (found ? (normalizeAddress(found[1] ?? found[2], pageUrl)?.url ?? null) : null);
  return target === normalizeAddress(pageUrl)?.url ? null : target;
}

/** Splits `noindex, nofollow` directives; `none` means both (the robots meta tag as the HTML standard registers it). */
export function robotsDirectives(content: string): { noindex: boolean; nofollow: boolean } {
  const words = content.toLowerCase().split(/[\s,]+/);
  const none = words.includes('none');
  return { noindex: none || words.includes('noindex'), nofollow: none || words.includes('nofollow') };
}

/**
 * Reads what the crawl needs from a page in one walk.
 *
 * @param html decoded text, at any state of brokenness.
 * @param pageUrl address it was fetched from, the base of relative links until a `<base href>` replaces it.
 * @param memory what the links of other pages meant; worth having where many pages of a site are read.
 */
export function readPage(html: string, pageUrl: string, memory: AddressMemory | null = null): ReadPage {
  const reader = new PageReader(html, pageUrl, memory);
  scanHtml(html, reader.events());
  return reader.end();
}

/** Words before and after a link in its page's visible text: at most 70 characters each, whole words. */
export function linkContext(visible: string, link: Pick<PageLink, 'anchor' | 'at'>): { before: string; after: string } {
  const end = visible.indexOf(link.anchor, link.at);
  const from = end < 0 || end - link.at > 20 ? link.at + link.anchor.length : end + link.anchor.length;
  const before = foldText(visible.slice(Math.max(0, link.at - 4 * CONTEXT_CHARS), link.at));
  const after = foldText(visible.slice(from, from + 4 * CONTEXT_CHARS));
  return {
    before: before.length > CONTEXT_CHARS ? before.slice(-CONTEXT_CHARS).replace(/^\S*\s/, '') : before,
    after: after.length > CONTEXT_CHARS ? after.slice(0, CONTEXT_CHARS).replace(/\s\S*$/, '') : after,
  };
}

interface OpenLink {
  href: string;
  rel: string;
  /** Length of the visible text before it, and its first part. */
  at: number;
  part: number;
}

/** A link whose anchor is cut out of the page when somebody asks: most links lead where the crawl has been. */
class FoundLink implements PageLink {
  private text: string | null = null;

  /** @param place where the memory has the address; null: `single` is it. */
  constructor(
    private readonly place: AddressPlace | null,
    private readonly slot: number,
    private readonly single: CrawlAddress | null,
    readonly isOwn: boolean,
    readonly nofollow: boolean,
    readonly at: number,
    private readonly page: PageFacts,
    private readonly from: number,
    private readonly to: number,
  ) {}

  get address(): CrawlAddress {
    return this.place ? this.place.addresses[this.slot] : (this.single as CrawlAddress);
  }

  get id(): number | undefined {
    return this.place?.ids[this.slot];
  }

  get anchor(): string {
    this.text ??= foldAnchor(this.page.textOf(this.from, this.to));
    return this.text;
  }
}

function foldAnchor(text: string): string {
  return foldText(text.slice(0, 4 * MAX_ANCHOR_CHARS)).slice(0, MAX_ANCHOR_CHARS);
}

/** What was read; its text is kept as places in the source, since most pages' text is marked and never looked at. */
class PageFacts implements ReadPage {
  title = '';
  language: string | null = null;
  links: PageLink[] = [];
  noindex = false;
  nofollow = false;
  canonical: string | null = null;
  refresh: string | null = null;
  junkLinks = 0;
  contact: string | null = null;
  readers: number | null = null;
  /** Length of the visible text so far. */
  length = 0;
  readonly parts: number[] = [];
  private readonly inserted = [' '];
  private marked: ContentMark | null = null;
  private made: string | null = null;

  constructor(private readonly html: string) {}

  add(start: number, end: number): void {
    this.parts.push(start, end);
    this.length += end - start;
  }

  insert(text: string): void {
    this.parts.push(-this.inserted.push(text), 0);
    this.length += text.length;
  }

  /** Parts words of different blocks, once. */
  gap(): void {
    const { length } = this.parts;
    if (length === 0 || this.parts[length - 2] === GAP) return;
    this.parts.push(GAP, 0);
    this.length++;
  }

  get mark(): ContentMark {
    this.marked ??= markParts(this.html, this.parts, this.inserted);
    return this.marked;
  }

  get visible(): string {
    this.made ??= this.textOf(0, this.parts.length);
    return this.made;
  }

  /** Text of some of the parts. */
  textOf(from: number, to: number): string {
    let text = '';
    for (let i = from; i < to; i += 2) {
      const start = this.parts[i];
      text += start < 0 ? this.inserted[-1 - start] : this.html.slice(start, this.parts[i + 1]);
    }
    return text;
  }
}
const GAP = -1;

class PageReader {
  private readonly page: PageFacts;
  private resolver: AddressResolver;
  private baseSeen = false;
  private open: OpenLink | null = null;
  private hiddenDepth = 0;
  private interaction = '';

  constructor(
    private readonly html: string,
    private readonly pageUrl: string,
    private readonly memory: AddressMemory | null,
  ) {
    this.resolver = new AddressResolver(pageUrl, memory);
    this.page = new PageFacts(html);
  }

  events(): HtmlEvents {
    const { html, page } = this;
    return {
      wanted: WANTED,
      open: (name, attributes) => this.opened(name, attributes),
      close: (name) => {
        if (name === 'a') this.closeLink();
        else if (NO_TEXT.has(name) && this.hiddenDepth > 0) this.hiddenDepth--;
      },
      text: (start, end) => {
        if (this.hiddenDepth === 0) page.add(start, end);
      },
      gap: () => {
        if (this.hiddenDepth === 0) page.gap();
      },
      raw: (name, start, end, attributes) => {
        if (name === 'title') {
          if (this.page.title === '')
            this.page.title = foldText(html.slice(start, Math.min(end, start + 1000))).slice(0, 300);
        } else if (name === 'script' && attributes.type?.toLowerCase() === 'application/ld+json')
          this.claimReaders(readersInJson(html.slice(start, end)));
      },
    };
  }

  end(): ReadPage {
    this.closeLink();
    return this.page;
  }

  private opened(name: string, attributes: Attributes): void {
    const { page } = this;
    switch (name) {
      case 'a':
        this.closeLink();
        if (attributes.href !== undefined)
          this.open = { href: attributes.href, rel: attributes.rel ?? '', at: page.length, part: page.parts.length };
        break;
      case 'area':
        if (attributes.href !== undefined) this.addFrame(attributes.href, attributes.rel ?? '', attributes.alt ?? '');
        break;
      case 'iframe':
      case 'frame':
        if (attributes.src) this.addFrame(attributes.src, '', attributes.title ?? '');
        break;
      case 'img':
        if (this.open && attributes.alt && this.hiddenDepth === 0) page.insert(` ${attributes.alt} `);
        break;
      case 'base':
        if (!this.baseSeen && attributes.href !== undefined) {
          const base = normalizeAddress(attributes.href, this.pageUrl);
          if (base) this.resolver = new AddressResolver(base.url, this.memory);
          this.baseSeen = true;
        }
        break;
      case 'meta':
        this.readMeta(attributes);
        break;
      case 'link':
        if (attributes.itemprop === 'interactionType') this.interaction = attributes.href ?? '';
        else if (attributes.href && /(^|\s)canonical(\s|$)/i.test(attributes.rel ?? ''))
          page.canonical ??= this.resolver.resolve(attributes.href)?.url ?? null;
        break;
      case 'html':
        page.language ??= attributes.lang?.toLowerCase() || null;
        break;
      case 'template':
      case 'noscript':
        this.hiddenDepth++;
        break;
    }
  }

  private closeLink(): void {
    if (!this.open) return;
    const { href, rel, at, part } = this.open;
    this.open = null;
    const { page } = this;
    const { resolver } = this;
    const single = resolver.find(href);
    if (!single && !resolver.place) {
      this.noteJunk(href);
      return;
    }
    const isOwn = resolver.isOwn && !this.baseSeen;
    const end = page.parts.length;
    const link = new FoundLink(resolver.place, resolver.slot, single, isOwn, isNofollow(rel), at, page, part, end);
    page.links.push(link);
    if (page.contact !== null || page.length - at > 4 * MAX_CONTACT_CHARS) return;
    if (CONTACT.test(page.textOf(part, end)) && link.anchor.length < MAX_CONTACT_CHARS) page.contact = link.address.url;
  }

  /** A link without text of its own. */
  private addFrame(href: string, rel: string, text: string): void {
    const address = this.resolver.resolve(href);
    if (!address) {
      this.noteJunk(href);
      return;
    }
    const { page } = this;
    const id = address.place?.ids[address.slot ?? -1];
    page.links.push({
      address,
      isOwn: false,
      id,
      nofollow: isNofollow(rel),
      at: page.length,
      anchor: foldAnchor(text),
    });
  }

  private noteJunk(href: string): void {
    const { page } = this;
    page.junkLinks++;
    if (/^\s*mailto:[^?\s]+@/i.test(href)) page.contact ??= href.trim().split('?', 1)[0].slice(0, 200);
  }

  private readMeta(attributes: Attributes): void {
    const { page } = this;
    const content = attributes.content ?? '';
    if (attributes.name?.toLowerCase() === 'robots') {
      const said = robotsDirectives(content);
      page.noindex ||= said.noindex;
      page.nofollow ||= said.nofollow;
    } else if (attributes['http-equiv']?.toLowerCase() === 'refresh') {
      const found = /^\s*(\d+)(?:\.\d*)?\s*[;,]\s*(?:url\s*=\s*)?["']?([^"']+)/i.exec(content);
      if (found && Number(found[1]) <= 10) page.refresh ??= this.resolver.resolve(found[2])?.url ?? null;
    } else if (attributes.itemprop === 'userInteractionCount') {
      if (this.interaction === '' || VIEWING.test(this.interaction)) this.claimReaders(wholeNumber(content));
      this.interaction = '';
    } else if (attributes.itemprop === 'interactionCount') {
      // the older form: "UserPageVisits:1234"
      const found = /^(?:UserPageVisits|UserPlays):([\d,.\s]+)$/.exec(content.trim());
      if (found) this.claimReaders(wholeNumber(found[1]));
    }
  }

  private claimReaders(count: number | null): void {
    if (count !== null) this.page.readers = Math.max(this.page.readers ?? 0, count);
  }
}

function isNofollow(rel: string): boolean {
  return rel !== '' && /(^|\s)(nofollow|ugc|sponsored)(\s|$)/i.test(rel);
}

function wholeNumber(text: string): number | null {
  const digits = text.replace(/[,.\s]/g, '');
  return /^\d{1,12}$/.test(digits) ? Number(digits) : null;
}
