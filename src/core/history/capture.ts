import { CHALLENGE, CONSENT, NOT_FOUND, PARKED } from '../crawl/content';
import { simhash } from '../links/simhash';
import { registrableDomain } from '../names/domain';
import { type Terms, termsOf } from '../topics/terms';
import type { LanguageOf } from './language';
import { originalAddress, outsideDomains, type PageView, viewPage } from './page-view';

/** What an archive's capture shows. */
export const CAPTURE_KINDS = ['content', 'parked', 'for-sale', 'redirect', 'error', 'blocked'] as const;
export type CaptureKind = (typeof CAPTURE_KINDS)[number];

/** An archived answer. */
export interface CapturedAnswer {
  /** As it was captured. */
  status: number;
  /** Where it redirected, as the archive gives it; null: nowhere. */
  location: string | null;
  html: string;
  /** Registrable domain whose page it is. */
  site: string;
}

export interface CaptureView {
  kind: CaptureKind;
  /** What decided, for people. */
  marks: string[];
  title: string;
  /** ISO 639-1; null: not told. */
  language: string | null;
  terms: Terms;
  /** Outside domains it linked to, at most 60. */
  links: string[];
  /** Domain it sent its visitors to. */
  redirectTo: string | null;
  fingerprint: string | null;
}

const FOR_SALE =
  /\b(((this|the) )?(domain|name|web ?site)( name)? (is|may be) (now |available )*for sale|(domain|name) for sale|buy (this|the) (domain|name)|make (us )?an offer (for|on) (this|the)|inquire about (this|the) (domain|name))\b/i;
const PARKED_ADS = /\b(related (searches|links)|sponsored (listings|links)|search ads|this web ?page is parked)\b/i;
/** Under so many words a page is a door plate, and its few words decide what it is. */
const SMALL_WORDS = 60;
const BLOCKED_STATUS = new Set([401, 403, 429, 451, 503]);
const MOST_LINKS = 60;

/** Judges a capture by what it shows, with the marks that decided. Broken markup and encodings are judged like any other. */
export function judgeCapture({ status, location, html, site }: CapturedAnswer, languageOf: LanguageOf): CaptureView {
  const view = viewPage(html);
  const words = view.text === '' ? 0 : view.text.split(' ').length;
  const told = (kind: CaptureKind, marks: string[], redirectTo: string | null = null): CaptureView => ({
    kind,
    marks,
    title: view.title,
    language: kind === 'content' ? languageOf(view.text) : null,
    terms: kind === 'content' ? termsOf(`${view.title} ${view.text}`) : new Map(),
    links: kind === 'content' ? outsideDomains(view, site, MOST_LINKS) : [],
    redirectTo,
    fingerprint: simhash(view.text),
  });
  const target = foreign(location, site);
  if (status >= 300 && status < 400) {
    if (target) return told('redirect', [`answered ${status} and led to ${target}`], target);
    return told('error', [`answered ${status} and led ${location === null ? 'nowhere' : 'within itself'}`]);
  }
  if (BLOCKED_STATUS.has(status)) return told('blocked', [`answered ${status}`]);
  if (status >= 400) return told('error', [`answered ${status}`]);
  const sent = foreign(view.sendsTo, site);
  if (sent && words < SMALL_WORDS) return told('redirect', [`the page sends its readers on to ${sent}`], sent);
  return judgeText(view, words, told);
}

function judgeText(
  view: PageView,
  words: number,
  told: (kind: CaptureKind, marks: string[]) => CaptureView,
): CaptureView {
  const text = `${view.title} ${view.text.slice(0, 4000)}`;
  const says = (pattern: RegExp) => pattern.exec(text)?.[0].trim() ?? null;
  if (words < SMALL_WORDS) {
    const small = words === 1 ? 'one word' : `${words} words`;
    for (const [kind, pattern] of SMALL_PAGES) {
      const found = says(pattern);
      if (found) return told(kind, [`says "${found}"`, small]);
    }
    if (words === 0) return told('error', ['an empty page']);
  }
  const ads = says(PARKED_ADS);
  if (ads && outsideOnly(view)) return told('parked', [`says "${ads}"`, 'all its links lead to one other site']);
  return told('content', [
    words === 1 ? 'one word' : `${words} words`,
    ...(view.title ? [`titled "${view.title}"`] : []),
  ]);
}

/** In the order of what tells most. */
const SMALL_PAGES: [CaptureKind, RegExp][] = [
  ['for-sale', FOR_SALE],
  ['parked', PARKED],
  ['parked', PARKED_ADS],
  ['blocked', CHALLENGE],
  ['blocked', CONSENT],
  ['error', NOT_FOUND],
];

function outsideOnly(view: PageView): boolean {
  const hosts = new Set(view.links.map(({ href }) => registrableDomain(originalAddress(href) ?? '')?.name ?? ''));
  return view.links.length >= 3 && hosts.size === 1;
}

/** The registrable domain an address leads to, unless it is the site itself. */
function foreign(address: string | null, site: string): string | null {
  if (address === null) return null;
  const original = originalAddress(address);
  const domain = original === null ? null : registrableDomain(original);
  return domain && domain.name !== site ? domain.name : null;
}
