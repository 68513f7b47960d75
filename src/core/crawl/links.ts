import { Parser } from 'htmlparser2';
import { type CrawlAddress, normalizeAddress } from './address';

/** A link as it stands on a page. */
export interface PageLink extends CrawlAddress {
  /** Visible text, white space folded; the alt text of an image where there is nothing else. At most 200 characters. */
  anchor: string;
  /** rel says nofollow, ugc or sponsored. */
  nofollow: boolean;
}

export interface ReadPage {
  title: string;
  links: PageLink[];
  /** From `<meta name=robots>`; the header is the fetcher's to add. */
  noindex: boolean;
  /** The whole page is nofollow. */
  nofollow: boolean;
  /** Address the page calls its own, resolved; null when it names none. */
  canonical: string | null;
  /** Links with a scheme the crawler does not follow, or no address at all. */
  junkLinks: number;
}

const MAX_ANCHOR_CHARS = 200;
const SKIPPED_TEXT = new Set(['script', 'style', 'template', 'noscript']);

/** Splits `noindex, nofollow` directives; `none` means both (the robots meta tag as the HTML standard registers it). */
export function robotsDirectives(content: string): { noindex: boolean; nofollow: boolean } {
  const words = content.toLowerCase().split(/[\s,]+/);
  const none = words.includes('none');
  return { noindex: none || words.includes('noindex'), nofollow: none || words.includes('nofollow') };
}

/**
 * Reads what the crawl needs from a page in one pass of a tolerant parser.
 *
 * @param html decoded text, at any state of brokenness.
 * @param pageUrl address it was fetched from, the base of relative links until a `<base href>` replaces it.
 */
export function readPage(html: string, pageUrl: string): ReadPage {
  const page: ReadPage = { title: '', links: [], noindex: false, nofollow: false, canonical: null, junkLinks: 0 };
  let base = pageUrl;
  let baseSeen = false;
  let open: { href: string; rel: string; text: string } | null = null;
  let inTitle = false;
  let skipDepth = 0;

  const close = () => {
    if (open) addLink(page, open.href, open.rel, open.text, base);
    open = null;
  };

  const parser = new Parser(
    {
      onopentag(name, attributes) {
        if (SKIPPED_TEXT.has(name)) skipDepth++;
        switch (name) {
          case 'a':
            close();
            if (attributes.href !== undefined) open = { href: attributes.href, rel: attributes.rel ?? '', text: '' };
            break;
          case 'area':
            if (attributes.href !== undefined)
              addLink(page, attributes.href, attributes.rel ?? '', attributes.alt ?? '', base);
            break;
          case 'iframe':
          case 'frame':
            if (attributes.src) addLink(page, attributes.src, '', attributes.title ?? '', base);
            break;
          case 'img':
            if (open && attributes.alt) open.text += ` ${attributes.alt} `;
            break;
          case 'base':
            if (!baseSeen && attributes.href !== undefined) {
              base = normalizeAddress(attributes.href, pageUrl)?.url ?? base;
              baseSeen = true;
            }
            break;
          case 'meta':
            readMeta(page, attributes);
            break;
          case 'link':
            if (attributes.href && /(^|\s)canonical(\s|$)/i.test(attributes.rel ?? ''))
              page.canonical ??= normalizeAddress(attributes.href, base)?.url ?? null;
            break;
          case 'title':
            inTitle = page.title === '';
            break;
        }
      },
      ontext(text) {
        if (skipDepth > 0) return;
        if (open && open.text.length < 4 * MAX_ANCHOR_CHARS) open.text += text;
        if (inTitle && page.title.length < 1000) page.title += text;
      },
      onclosetag(name) {
        if (SKIPPED_TEXT.has(name) && skipDepth > 0) skipDepth--;
        if (name === 'a') close();
        else if (name === 'title') inTitle = false;
      },
    },
    { decodeEntities: true, lowerCaseTags: true },
  );
  parser.write(html);
  parser.end();
  close();
  page.title = fold(page.title).slice(0, 300);
  return page;
}

function addLink(page: ReadPage, href: string, rel: string, text: string, base: string): void {
  const address = normalizeAddress(href, base);
  if (!address) {
    page.junkLinks++;
    return;
  }
  const nofollow = /(^|\s)(nofollow|ugc|sponsored)(\s|$)/i.test(rel);
  page.links.push({ ...address, anchor: fold(text).slice(0, MAX_ANCHOR_CHARS), nofollow });
}

function readMeta(page: ReadPage, attributes: Record<string, string>): void {
  if (attributes.name?.toLowerCase() !== 'robots') return;
  const said = robotsDirectives(attributes.content ?? '');
  page.noindex ||= said.noindex;
  page.nofollow ||= said.nofollow;
}

function fold(text: string): string {
  return text.replace(/[\s\u0000-\u001f]+/g, ' ').trim();
}
