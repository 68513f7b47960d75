import { registrableDomain } from '../names/domain';

/** An address the crawler may fetch, in the one form it is stored and compared under. */
export interface CrawlAddress {
  url: string;
  /** host with a non-default port: what robots.txt and politeness go by. */
  host: string;
  /** Registrable domain, or the host itself where there is none (an IP address, a local name). */
  site: string;
  /** Where the address was joined by hand: `url` is `origin + path`. A path is found quicker than a whole address. */
  origin?: string;
  path?: string;
}

/** Longer addresses are nearly always machine-made; RFC 9110 4.1 asks for at least 8000 to be supported. */
export const MAX_ADDRESS_CHARS = 2000;

const JUNK_PARAMETERS =
  /^(utm_[a-z]+|phpsessid|jsessionid|aspsessionid\w*|cfid|cftoken|sid|sessid|sessionid|session_id|fbclid|gclid|dclid|msclkid|mc_[ce]id|sort|sort_?by|order_?by|sort_?order|sort_?dir)$/i;
/** These order a list only with such a value; with another they may name a thing. */
const ORDER_PARAMETER = /^(order|dir|direction)=(asc|desc|up|down)[a-z]*$/i;
const SESSION_PATH = /;(jsessionid|phpsessid|sid)=[^/?#]*/gi;

/**
 * Resolves and normalises an address (RFC 3986 6.2): scheme and host in lower case, default port and fragment away,
 * dot segments resolved, percent-encoding in upper case; session ids, tracking and sort order removed, the parameters that
 * are left in the order of their names, so that the same list sorted in ten ways is one address.
 *
 * @param reference absolute or relative reference as it stands on the page.
 * @param base address of the page, or of its `<base href>`.
 * @returns null for other schemes than http and https, and for what is no address at all.
 */
export function normalizeAddress(reference: string, base?: string): CrawlAddress | null {
  const trimmed = reference.trim();
  if (trimmed.length > MAX_ADDRESS_CHARS) return null;
  let url: URL;
  try {
    url = new URL(trimmed, base);
  } catch {
    return null;
  }
  if ((url.protocol !== 'http:' && url.protocol !== 'https:') || url.hostname === '') return null;
  // each of these writes parses the address again, so only where there is something to remove
  if (url.hash) url.hash = '';
  if (url.username || url.password) {
    url.username = '';
    url.password = '';
  }
  if (url.hostname.endsWith('.')) url.hostname = url.hostname.slice(0, -1);
  if (url.search) dropJunkParameters(url);
  let href = url.href;
  // an empty fragment or query still shows its mark
  if (href.endsWith('#')) href = href.slice(0, -1);
  if (url.search === '' && href.endsWith('?')) href = href.slice(0, -1);
  if (href.includes(';')) href = href.replace(SESSION_PATH, '');
  if (href.includes('%')) href = href.replace(/%[0-9a-f]{2}/gi, upperOrUnreserved);
  if (href.length > MAX_ADDRESS_CHARS) return null;
  return { url: href, host: url.host, site: siteOf(url.hostname) };
}

const compareText = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

/** Paths that normalising leaves as they are: no escapes, no dot segments, no parameters, nothing to fold. */
const PLAIN_PATH = /^[A-Za-z0-9\-._~/]*$/;
const MAX_KNOWN_ADDRESSES = 20_000;
const knownAddresses = new Map<string, CrawlAddress | null>();

/**
 * Resolves the links of one page, as normalizeAddress does, but quicker: plain paths are joined to the base by hand, and
 * other absolute addresses are remembered, since the pages of a site repeat them. A property test compares the two.
 */
export class AddressResolver {
  private readonly origin: string;
  /** Base address up to its last slash. */
  private readonly folder: string;
  private readonly host: string;
  private readonly site: string;
  private readonly isPlainBase: boolean;

  constructor(private readonly base: string) {
    const url = new URL(base);
    this.origin = url.origin;
    this.folder = `${url.origin}${url.pathname.slice(0, url.pathname.lastIndexOf('/') + 1)}`;
    this.host = url.host;
    this.site = siteOf(url.hostname.endsWith('.') ? url.hostname.slice(0, -1) : url.hostname);
    // what the base itself holds of escapes, session ids or a trailing dot must go the long way
    this.isPlainBase =
      PLAIN_PATH.test(this.folder.slice(this.origin.length)) && this.folder.length < 900 && !url.hostname.endsWith('.');
  }

  resolve(reference: string): CrawlAddress | null {
    const first = reference.charCodeAt(0);
    if (first === 47 && reference.charCodeAt(1) !== 47 && this.isQuick(reference))
      return {
        url: this.origin + reference,
        host: this.host,
        site: this.site,
        origin: this.origin,
        path: reference,
      };
    const isName = (first >= 97 && first <= 122) || (first >= 65 && first <= 90) || (first >= 48 && first <= 57);
    if (isName) {
      if (this.isQuick(reference)) return { url: this.folder + reference, host: this.host, site: this.site };
      if (/^https?:\/\//i.test(reference)) {
        let known = knownAddresses.get(reference);
        if (known === undefined) {
          known = normalizeAddress(reference, this.base);
          if (knownAddresses.size >= MAX_KNOWN_ADDRESSES) knownAddresses.clear();
          knownAddresses.set(reference, known);
        }
        return known;
      }
    }
    return normalizeAddress(reference, this.base);
  }

  /** Whether joining by hand gives what normalising would. */
  private isQuick(path: string): boolean {
    return (
      this.isPlainBase && path.length < 1000 && PLAIN_PATH.test(path) && !path.includes('/.') && !path.startsWith('.')
    );
  }
}

/** The links of a page name few hosts many times over. Cleared when full, so it stays small; a miss only costs time. */
const MAX_KNOWN_SITES = 20_000;
const knownSites = new Map<string, string>();

function siteOf(hostname: string): string {
  let site = knownSites.get(hostname);
  if (site === undefined) {
    site = registrableDomain(hostname)?.name ?? hostname;
    if (knownSites.size >= MAX_KNOWN_SITES) knownSites.clear();
    knownSites.set(hostname, site);
  }
  return site;
}

function dropJunkParameters(url: URL): void {
  const kept = url.search
    .slice(1)
    .split('&')
    .filter((pair) => pair !== '' && !JUNK_PARAMETERS.test(pair.split('=', 1)[0]) && !ORDER_PARAMETER.test(pair));
  if (kept.length > 1) kept.sort((a, b) => compareText(a.split('=', 1)[0], b.split('=', 1)[0]));
  url.search = kept.length > 0 ? `?${kept.join('&')}` : '';
}

/** RFC 3986 6.2.2.2: escapes of unreserved characters are undone, the others written in upper case. */
function upperOrUnreserved(triplet: string): string {
  const character = String.fromCharCode(Number.parseInt(triplet.slice(1), 16));
  return /[A-Za-z0-9\-._~]/.test(character) ? character : triplet.toUpperCase();
}

/** What a person types as a seed: an address, or a bare host name. */
export function seedAddress(text: string): CrawlAddress | null {
  const trimmed = text.trim();
  if (trimmed === '' || /\s/.test(trimmed)) return null;
  const withScheme = /^[a-z][a-z0-9+.-]*:\/\//i.test(trimmed) ? trimmed : `http://${trimmed.replace(/^\/\//, '')}`;
  const address = normalizeAddress(withScheme);
  if (!address) return null;
  const host = new URL(address.url).hostname;
  return host.includes('.') || host === 'localhost' || host.startsWith('[') ? address : null;
}
