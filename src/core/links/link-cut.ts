import type { LinkRowTaker, Span } from '../formats/link-rows';
import { plainDomain, type RegistrableDomain, registrableDomain } from '../names/domain';
import { HashTable, mix, NameTable, PairSet, WordHash, widened } from './tables';

/** An outside domain with what links to it. */
export interface CutDomain {
  name: string;
  /** Rows that link to it. */
  links: number;
  /** Different pages that link to it, by their address without the part after #. */
  pages: number;
  /** Different domains that link to it. */
  sites: number;
  /** Rows of them whose rel says nofollow, ugc or sponsored. */
  nofollow: number;
}

/** rows = kept + inside + those the reader or this set aside. */
export interface CutCounts {
  /** Rows to outside domains. */
  kept: number;
  /** Rows within one registrable domain. */
  inside: number;
  /** Rows whose addresses are none on the web. */
  unreadable: number;
}

/** What is kept of a host: 1 when it has no domain, else its domain's number times four. */
const NO_DOMAIN = 1;
/** What a byte is in an address's host: a part of it, its end, or something that wants a closer look. */
const IN_HOST = 0;
const HOST_END = 1;
const ODD = 2;
const HOST_BYTES = Uint8Array.from({ length: 256 }, (_, code) => {
  const letter = String.fromCharCode(code);
  if ('/?#\\'.includes(letter)) return HOST_END;
  return /[a-z0-9._-]/.test(letter) ? IN_HOST : ODD;
});
/** Of a domain: rows, pages, sites, nofollow rows. */
const FIGURES = 4;

/**
 * Cuts link rows to the outside domains they link to, in one pass. A host is known by a 64-bit hash; which pages and domains link
 * to a domain is kept as pairs of 32-bit numbers. That two hosts, or two pages of one domain, have one hash and are taken for
 * each other is expected less than once in a thousand files of 50,000,000 rows.
 */
export class LinkCut implements LinkRowTaker {
  readonly counts: CutCounts = { kept: 0, inside: 0, unreadable: 0 };
  private readonly hosts = new HashTable();
  private readonly domains = new NameTable();
  private figures = new Uint32Array(FIGURES << 10);
  private readonly sitePairs = new PairSet();
  private readonly pagePairs = new PairSet();
  private readonly hash = new WordHash();
  /** The bytes at hand, and the same as words. */
  private bytes = new Uint8Array(0);
  private view = new DataView(this.bytes.buffer);
  /** The linking page of the row before: most rows share it. */
  private lastSite = NO_DOMAIN;
  private lastHigh = 0;
  private lastLow = 0;

  /** @param onProblem told of rows that are set aside, beside those that the reader finds. */
  constructor(
    private readonly onProblem: (reason: string, bytes: Uint8Array, at: Span) => void,
    readonly problem: LinkRowTaker['problem'],
  ) {}

  row(bytes: Uint8Array, from: Span, to: Span, rel: Span, isSameFrom: boolean): void {
    if (bytes !== this.bytes) this.begin(bytes);
    const { counts } = this;
    const target = this.domainAt(bytes, to.start, to.end);
    if (!isSameFrom) this.takeFrom(bytes, from);
    const site = this.lastSite;
    if (target === NO_DOMAIN || site === NO_DOMAIN) {
      counts.unreadable++;
      this.onProblem('no address with a registrable domain', bytes, target === NO_DOMAIN ? to : from);
      return;
    }
    if (target >>> 2 === site >>> 2) {
      counts.inside++;
      return;
    }
    counts.kept++;
    const { figures } = this;
    const at = ((target >>> 2) - 1) * FIGURES;
    figures[at]++;
    if (rel.end > rel.start && isNofollow(bytes, rel)) figures[at + 3]++;
    if (this.sitePairs.add(target, site)) figures[at + 2]++;
    const mark = mix(target);
    if (this.pagePairs.add((this.lastHigh ^ mark) >>> 0, (this.lastLow + mark) >>> 0 || 1)) figures[at + 1]++;
  }

  private begin(bytes: Uint8Array): void {
    this.bytes = bytes as Uint8Array<ArrayBuffer>;
    this.view = new DataView(bytes.buffer as ArrayBuffer, bytes.byteOffset, bytes.length);
  }

  private takeFrom(bytes: Uint8Array, { start, end }: Span): void {
    this.lastSite = this.domainAt(bytes, start, end);
    let last = start;
    while (last < end && bytes[last] !== 35) last++; // #
    this.hash.of(this.view, start, last);
    this.lastHigh = this.hash.high;
    this.lastLow = this.hash.low;
  }

  /** Outside domains that stay and that at least so many domains link to, those with most linking domains first. */
  *survivors(leastSites = 1): Generator<CutDomain> {
    const { figures } = this;
    const kept: number[] = [];
    for (let at = 0; at < this.domains.count * FIGURES; at += FIGURES)
      if (figures[at + 2] >= Math.max(1, leastSites)) kept.push(at);
    const order = Uint32Array.from(kept).sort(
      (a, b) => figures[b + 2] - figures[a + 2] || figures[b + 1] - figures[a + 1] || a - b,
    );
    for (const at of order)
      yield {
        name: this.domains.text(at / FIGURES),
        links: figures[at],
        pages: figures[at + 1],
        sites: figures[at + 2],
        nofollow: figures[at + 3],
      };
  }

  /** What is kept of the host of the address at a place; NO_DOMAIN when there is none. */
  private domainAt(bytes: Uint8Array, start: number, end: number): number {
    const first = afterScheme(bytes, start, end);
    if (first < 0) return NO_DOMAIN;
    let at = first;
    while (at < end && HOST_BYTES[bytes[at]] === IN_HOST) at++;
    if (at < end && HOST_BYTES[bytes[at]] === ODD) return this.oddHost(bytes, start, end);
    if (at === first) return NO_DOMAIN;
    const { hash } = this;
    hash.of(this.view, first, at);
    const { high, low } = hash;
    const known = this.hosts.get(high, low);
    if (known !== 0) return known;
    const text = Buffer.from(bytes.buffer, bytes.byteOffset + first, at - first).toString('latin1');
    const domain = plainDomain(text) ?? registrableDomain(text);
    const value = domain ? this.domainNumber(domain) : NO_DOMAIN;
    this.hosts.put(high, low, value);
    return value;
  }

  /** An address with capitals, other letters, a port or a user's name in its host: rare, so it may take its time. */
  private oddHost(bytes: Uint8Array, start: number, end: number): number {
    const domain = registrableDomain(new TextDecoder().decode(bytes.subarray(start, end)));
    return domain ? this.domainNumber(domain) : NO_DOMAIN;
  }

  private domainNumber({ name }: RegistrableDomain): number {
    const before = this.domains.count;
    const bytes = Buffer.from(name, 'latin1');
    const number = this.domains.add(bytes, 0, bytes.length);
    if (number === before && (number + 1) * FIGURES > this.figures.length)
      this.figures = widened(this.figures, this.figures.length * 2);
    // numbers from 1 on, so that no host's value is that of one without a domain
    return ((number + 1) << 2) >>> 0;
  }
}

/** Where the host of an address begins; -1: it is none on the web. A bare `example.org/page` counts as one. */
function afterScheme(bytes: Uint8Array, start: number, end: number): number {
  if (end - start < 3) return -1;
  if (bytes[start] === 47) return bytes[start + 1] === 47 ? start + 2 : -1; // //
  for (let at = start; at < Math.min(end, start + 12); at++) {
    const code = bytes[at] | 32;
    if (bytes[at] === 58) {
      // a port after a bare host, or a scheme
      if (at + 2 < end && bytes[at + 1] === 47 && bytes[at + 2] === 47) return isHttp(bytes, start, at) ? at + 3 : -1;
      return bytes[at + 1] >= 48 && bytes[at + 1] <= 57 ? start : -1;
    }
    if (code < 97 || code > 122) return start;
  }
  return start;
}

function isHttp(bytes: Uint8Array, start: number, end: number): boolean {
  const length = end - start;
  if (length !== 4 && length !== 5) return false;
  for (let i = 0; i < length; i++) if ((bytes[start + i] | 32) !== 'https'.charCodeAt(i)) return false;
  return true;
}

const NOFOLLOW_WORDS = ['nofollow', 'ugc', 'sponsored', 'true', 'yes', '1'].map((word) =>
  [...word].map((c) => c.charCodeAt(0)),
);

/** Whether a rel holds nofollow, ugc or sponsored, or a column named for it says yes. */
function isNofollow(bytes: Uint8Array, { start, end }: Span): boolean {
  if (start === end) return false;
  for (const [which, word] of NOFOLLOW_WORDS.entries()) {
    const isWhole = which > 2;
    const last = isWhole ? start : end - word.length;
    if (isWhole && word.length !== end - start) continue;
    for (let at = start; at <= last; at++) {
      let same = 0;
      while (same < word.length && (bytes[at + same] | 32) === word[same]) same++;
      // a digit has the bit of lower case already
      if (same === word.length) return true;
    }
  }
  return false;
}
