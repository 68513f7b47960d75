import { decodeHTML } from 'entities';
import { scanHtml } from '../crawl/html';
import { plainText } from '../formats/plain-text';
import { registrableDomain } from '../names/domain';

/** What is read of a page to judge it. */
export interface PageView {
  title: string;
  /** Visible text, pieces parted by spaces. */
  text: string;
  /** Addresses of links, as they stand. */
  links: { href: string; text: string; rel: string }[];
  /** Where it sends a browser by itself: `<meta http-equiv=refresh>` or a single frame; null: nowhere. */
  sendsTo: string | null;
  /** Ids under which visits are counted: one owner's sites share them. */
  trackingIds: string[];
}

const WANTED = new Set(['a', 'meta', 'frame', 'iframe', 'script']);
const MOST_LINKS = 2000;
const MOST_TEXT = 400_000;
const TITLE_CHARS = 200;
/** Forms of ids of counters and of advertising accounts; the first group is the id. */
const TRACKING_IDS = [
  /\b(UA-\d{4,10})-\d{1,4}\b/g,
  /\b(G-[A-Z0-9]{8,12})\b/g,
  /\b(GTM-[A-Z0-9]{5,9})\b/g,
  /\b(?:ca-)?(pub-\d{12,20})\b/g,
  /data-(?:site|tracking|counter)-id=["']?([A-Za-z0-9_-]{5,40})/g,
];
const MOST_IDS = 8;

/** Reads a page: bad markup gives what can be read of it. */
export function viewPage(html: string): PageView {
  let title = '';
  let text = '';
  let sendsTo: string | null = null;
  let frames = 0;
  let open: { href: string; text: string; rel: string } | null = null;
  const links: PageView['links'] = [];
  scanHtml(html, {
    wanted: WANTED,
    open(name, attributes) {
      if (name === 'a') {
        if (attributes.href === undefined || links.length >= MOST_LINKS) return;
        open = { href: attributes.href, text: '', rel: (attributes.rel ?? '').toLowerCase() };
        links.push(open);
      } else if (name === 'meta' && (attributes['http-equiv'] ?? '').toLowerCase() === 'refresh')
        sendsTo ??= /url\s*=\s*['"]?([^'"\s>]+)/i.exec(attributes.content ?? '')?.[1] ?? null;
      else if (name === 'frame') {
        frames++;
        if (frames === 1) sendsTo ??= attributes.src ?? null;
      }
    },
    close(name) {
      if (name === 'a') open = null;
    },
    text(start, end) {
      if (text.length > MOST_TEXT) return;
      const piece = html.slice(start, end);
      text += piece;
      if (open && open.text.length < 2000) open.text += piece;
    },
    gap() {
      text += ' ';
    },
    raw(name, start, end) {
      if (name === 'title' && title === '')
        title = plainText(decodeHTML(html.slice(start, start + Math.min(end - start, 4000))), TITLE_CHARS);
    },
  });
  for (const link of links) link.text = plainText(decodeHTML(link.text), 200);
  return {
    title,
    text: decodeHTML(text).replace(/\s+/g, ' ').trim(),
    links,
    sendsTo,
    trackingIds: trackingIdsOf(html),
  };
}

/** Outside domains that the links of a page lead to, those first that come first. @param site registrable domain of the page. */
export function outsideDomains(view: PageView, site: string, most: number): string[] {
  const found = new Set<string>();
  for (const { href } of view.links) {
    if (found.size >= most) break;
    const address = originalAddress(href);
    const domain = address === null ? null : registrableDomain(address);
    if (domain && domain.name !== site) found.add(domain.name);
  }
  return [...found];
}

/** The address that an archive keeps behind one of its own (`https://archive/web/2019…/http://a.org/x`); another address is itself. */
export function originalAddress(address: string): string | null {
  const within = /^(?:https?:\/\/[^/]+)?\/.*?\d{4,14}[a-z_]*\/(https?:\/{1,2}.+)$/i.exec(address);
  if (within) return within[1].replace(/^(https?:)\/([^/])/, '$1//$2');
  return /^(https?:)?\/\//i.test(address) ? address : null;
}

function trackingIdsOf(html: string): string[] {
  const ids = new Set<string>();
  for (const pattern of TRACKING_IDS)
    for (const [, id] of html.slice(0, MOST_TEXT).matchAll(pattern)) if (ids.size < MOST_IDS) ids.add(id);
  return [...ids].sort();
}
