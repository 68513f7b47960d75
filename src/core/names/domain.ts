import { domainToASCII, domainToUnicode } from 'node:url';
import ipaddr from 'ipaddr.js';
import { parse } from 'tldts';

/** A registrable domain: one label below a public suffix that a registry hands names out under. */
export interface RegistrableDomain {
  /** A-label form, lower case, no trailing dot: `xn--hnig-5qa.de`. The form everything is stored under. */
  name: string;
  /** The public suffix, A-label form: `co.uk`. */
  ending: string;
}

export interface NameFacts {
  /** The label before the ending, as people read it (U-label). */
  label: string;
  /** Length of the label in Unicode code points. */
  length: number;
  hyphens: number;
  digits: number;
}

/** RFC 1035 2.3.4 limits a label to 63 octets; RFC 5890 letters, digits and hyphens for the A-label form. */
const LDH_LABEL = /^(?!-)[a-z0-9-]{1,63}(?<!-)$/;

/**
 * Cuts a host name or an address down to its registrable domain by the ICANN section of the Public Suffix List.
 * The private section (hosts that let anyone have a subdomain) is left out on purpose: such a name is not for sale.
 *
 * @param text host name, URL or e-mail-like rubbish; U-labels allowed.
 * @returns null for IP addresses, bare suffixes, single labels, unknown endings and labels DNS cannot hold.
 */
export function registrableDomain(text: string): RegistrableDomain | null {
  const host = hostOf(text);
  if (host === null) return null;
  const found = parse(host, { allowPrivateDomains: false, extractHostname: false, validateHostname: true });
  if (!found.domain || !found.publicSuffix || found.isIp || !found.isIcann) return null;
  if (found.domain.length > 253) return null;
  for (const label of found.domain.split('.')) if (!LDH_LABEL.test(label)) return null;
  return { name: found.domain, ending: found.publicSuffix };
}

/**
 * Who links: the registrable domain of a page, or the bare IP address that a site stands under, with no ending.
 *
 * @returns null for what is neither: local names, single labels, addresses that only one's own network has.
 */
export function linkingSite(text: string): RegistrableDomain | null {
  const domain = registrableDomain(text);
  if (domain) return domain;
  const host = hostOf(text)?.replace(/^\[|\]$/g, '') ?? '';
  if (!ipaddr.isValid(host) || !/[.:]/.test(host)) return null;
  const address = ipaddr.process(host);
  return NOBODYS.has(address.range()) ? null : { name: address.toString(), ending: '' };
}

/** Ranges of addresses that are no site on the web. */
const NOBODYS: ReadonlySet<string> = new Set([
  'unspecified',
  'broadcast',
  'multicast',
  'linkLocal',
  'loopback',
  'private',
  'uniqueLocal',
  'carrierGradeNat',
]);

/** Whether an ending of one label is a public suffix by itself, so that one label before it makes a registrable domain. */
const plainEndings = new Map<string, boolean>();
const MAX_PLAIN_ENDINGS = 10_000;
/** Generic endings with endings below them in the Public Suffix List, as of November 2026; all of countries may have some. */
const SUBDIVIDED = new Set(['aero', 'arpa', 'coop', 'int', 'museum', 'name', 'pro', 'travel']);

/**
 * What registrableDomain gives, for the plainest and commonest form, several times quicker: one label of lower-case letters,
 * digits and hyphens before one ending. @returns null for everything else, registrable or not.
 */
export function plainDomain(text: string): RegistrableDomain | null {
  const { length } = text;
  let dot = -1;
  for (let i = 0; i < length; i++) {
    const code = text.charCodeAt(i);
    if ((code >= 97 && code <= 122) || (code >= 48 && code <= 57)) continue;
    if (code === 46 && dot < 0) dot = i;
    else if (code !== 45) return null;
  }
  if (dot < 1 || dot > 63 || length - dot > 64) return null;
  if (text.charCodeAt(0) === 45 || text.charCodeAt(dot - 1) === 45) return null;
  const ending = text.slice(dot + 1);
  let isPlain = plainEndings.get(ending);
  if (isPlain === undefined) {
    isPlain = registrableDomain(`x.${ending}`)?.ending === ending;
    if (plainEndings.size < MAX_PLAIN_ENDINGS) plainEndings.set(ending, isPlain);
  }
  if (!isPlain) return null;
  // `ac.uk` looks like a name under `uk`, and is an ending itself
  return length - dot === 3 || SUBDIVIDED.has(ending) ? registrableDomain(text) : { name: text, ending };
}

/** Host of an address or a bare name, as A-labels; null when there is none. */
function hostOf(text: string): string | null {
  let host = text.trim();
  if (host.length === 0 || host.length > 4096) return null;
  const scheme = host.indexOf('://');
  if (scheme >= 0) host = host.slice(scheme + 3);
  else if (host.startsWith('//')) host = host.slice(2);
  const end = host.search(/[/?#\\]/);
  if (end >= 0) host = host.slice(0, end);
  host = host.slice(host.lastIndexOf('@') + 1);
  const port = host.lastIndexOf(':');
  if (port >= 0 && !host.endsWith(']')) host = host.slice(0, port);
  if (host.endsWith('.')) host = host.slice(0, -1);
  if (host.length === 0 || host.length > 253) return null;
  if (/^[a-z0-9.-]+$/.test(host)) return host;
  return domainToASCII(host) || null;
}

/** The form people read. Falls back to the A-label where the U-label would be invalid. */
export function displayName(name: string): string {
  return name.includes('xn--') ? domainToUnicode(name) || name : name;
}

export function nameFacts(domain: RegistrableDomain): NameFacts {
  // an address has no ending, and is its own label
  const end = domain.ending === '' ? domain.name.length : domain.name.length - domain.ending.length - 1;
  const label = displayName(domain.name.slice(0, end));
  let hyphens = 0;
  let digits = 0;
  let length = 0;
  for (let i = 0; i < label.length; i++) {
    const code = label.charCodeAt(i);
    // the second half of a surrogate pair is no character of its own
    if (code < 0xdc00 || code > 0xdfff) length++;
    if (code === 45) hyphens++;
    else if (code >= 48 && code <= 57) digits++;
  }
  return { label, length, hyphens, digits };
}
