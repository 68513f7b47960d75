import { registrableDomain } from '../names/domain';

/** An address the crawler may fetch, in the one form it is stored and compared under. */
export interface CrawlAddress {
  url: string;
  /** host with a non-default port: what robots.txt and politeness go by. */
  host: string;
  /** Registrable domain, or the host itself where there is none (an IP address, a local name). */
  site: string;
  /** Where a memory keeps it; absent when it is not remembered. */
  place?: AddressPlace;
  slot?: number;
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
/** Whole addresses of the same kind, on a host that is a name (its last label holds a letter first) in lower case. */
const PLAIN_ADDRESS = /^https?:\/\/((?:[a-z0-9-]+\.)+[a-z][a-z0-9-]*)\/[A-Za-z0-9\-._~/]*$/;
/** References longer than this are resolved anew each time. */
const MAX_REMEMBERED_CHARS = 300;
const MAX_REMEMBERED = 200_000;

/**
 * Addresses that were met relative to one place: an origin, a folder, or none. What a page links to is mostly known already, so
 * the numbers that say so lie apart from the addresses, close together: looking at the addresses themselves would cost
 * more than all the rest of reading a link.
 */
export class AddressPlace {
  readonly slots = new Map<string, number>();
  readonly addresses: CrawlAddress[] = [];
  /** By slot: the number that the keeper of the memory knows the address by; undefined: none. */
  ids: (number | undefined)[] = [];
}

/**
 * What references meant before. The pages of a site repeat the same links, and looking one up costs a fraction of resolving
 * it. Emptied when full: that costs time and nothing else.
 */
export class AddressMemory {
  private size = 0;
  private places = new Map<string, AddressPlace>();

  /** References as they stand on pages, by what they are relative to: an origin, a folder, or nothing (''). */
  at(name: string): AddressPlace {
    let place = this.places.get(name);
    if (!place) {
      place = new AddressPlace();
      this.places.set(name, place);
    }
    return place;
  }

  /** @returns the slot of the address, or -1 where it is not worth remembering. */
  remember(place: AddressPlace, reference: string, address: CrawlAddress): number {
    if (reference.length > MAX_REMEMBERED_CHARS) return -1;
    if (++this.size > MAX_REMEMBERED) this.clear();
    const slot = place.addresses.length;
    // a copy of its own: as part of a page's text it would keep the whole page in memory, and be slower to compare
    place.slots.set(` ${reference}`.slice(1), slot);
    address.place = place;
    address.slot = slot;
    place.addresses.push(address);
    place.ids.push(undefined);
    return slot;
  }

  /** Forgets all addresses, and the numbers of those that are still in somebody's hands. */
  clear(): void {
    for (const place of this.places.values()) place.ids = [];
    this.size = 0;
    this.places = new Map();
  }
}

/** Resolves the links of one page, as normalizeAddress does, but quicker. A property test compares the two. */
export class AddressResolver {
  private readonly origin: string;
  /** Base address up to its last slash. */
  private readonly folder: string;
  private readonly host: string;
  private readonly site: string;
  private readonly isPlainBase: boolean;
  private readonly rooted: AddressPlace | null;
  private relative: AddressPlace | null = null;
  private absolute: AddressPlace | null = null;

  /** Where the reference last looked up is remembered; null when it is not, or was no address. */
  place: AddressPlace | null = null;
  slot = -1;
  /** Whether it is on the host of the base by the way it is written. */
  isOwn = false;

  /** @param memory shared by the pages of a crawl. */
  constructor(
    private readonly base: string,
    private readonly memory: AddressMemory | null = null,
  ) {
    const url = new URL(base);
    this.origin = url.origin;
    this.folder = `${url.origin}${url.pathname.slice(0, url.pathname.lastIndexOf('/') + 1)}`;
    this.host = url.host;
    this.site = siteOf(url.hostname.endsWith('.') ? url.hostname.slice(0, -1) : url.hostname);
    // what the base itself holds of escapes, session ids or a trailing dot must go the long way
    this.isPlainBase =
      PLAIN_PATH.test(this.folder.slice(this.origin.length)) && this.folder.length < 900 && !url.hostname.endsWith('.');
    this.rooted = memory?.at(this.origin) ?? null;
  }

  resolve(reference: string): CrawlAddress | null {
    const address = this.find(reference);
    return this.place ? this.place.addresses[this.slot] : address;
  }

  /** Looks a reference up: `place` and `slot` say where it is remembered. @returns the address where it is not. */
  find(reference: string): CrawlAddress | null {
    const place = this.placeOf(reference);
    this.place = null;
    this.isOwn = false;
    if (!place || !this.memory) return this.resolveAnew(reference);
    const known = place.slots.get(reference);
    if (known === undefined) {
      const address = this.resolveAnew(reference);
      // a reference that only looks relative: "/\\other.org", "mailto:x"
      if (!address || (place !== this.absolute && address.host !== this.host)) return address;
      const slot = this.memory.remember(place, reference, address);
      if (slot < 0) return address;
      this.slot = slot;
    } else this.slot = known;
    this.place = place;
    this.isOwn = place !== this.absolute;
    return null;
  }

  /** Addresses that mean the same as long as the place they are relative to is the same. */
  private placeOf(reference: string): AddressPlace | null {
    if (!this.memory) return null;
    const first = reference.charCodeAt(0);
    if (first === 47 && reference.charCodeAt(1) !== 47) return this.rooted;
    if (!startsName(first)) return null;
    if (/^https?:\/\//i.test(reference)) {
      this.absolute ??= this.memory.at('');
      return this.absolute;
    }
    this.relative ??= this.memory.at(this.folder);
    return this.relative;
  }

  private resolveAnew(reference: string): CrawlAddress | null {
    const first = reference.charCodeAt(0);
    const plain = first === 104 ? PLAIN_ADDRESS.exec(reference) : null;
    if (plain && reference.length < 1000 && !reference.includes('/.') && !plain[1].includes('xn--'))
      return { url: reference, host: plain[1], site: siteOf(plain[1]) };
    const isRooted = first === 47 && reference.charCodeAt(1) !== 47;
    if (!(isRooted || startsName(first)) || !this.isQuick(reference)) return normalizeAddress(reference, this.base);
    const url = (isRooted ? this.origin : this.folder) + reference;
    return { url, host: this.host, site: this.site };
  }

  /** Whether joining by hand gives what normalising would. */
  private isQuick(path: string): boolean {
    return (
      this.isPlainBase && path.length < 1000 && PLAIN_PATH.test(path) && !path.includes('/.') && !path.startsWith('.')
    );
  }
}

/** A letter or digit, as the first of a path that is relative to a folder. */
function startsName(code: number): boolean {
  return (code >= 97 && code <= 122) || (code >= 65 && code <= 90) || (code >= 48 && code <= 57);
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
