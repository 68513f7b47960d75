import { simhash } from '../links/simhash';
import { registrableDomain } from '../names/domain';
import { type Terms, termsOf } from '../topics/terms';
import type { LanguageOf } from './language';
import { type PlateKind, plateOf } from './page-kinds';
import { originalAddress, outsideDomains, type PageView, viewPage } from './page-view';

/** What an archive's capture shows. */
export const CAPTURE_KINDS = ['content', 'parked', 'for-sale', 'redirect', 'error', 'blocked', 'unknown'] as const;
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

/** Under so many words a page that sends its readers on is no more than that. */
const SMALL_WORDS = 60;
const BLOCKED_STATUS = new Set([401, 403, 429, 451]);
const MOST_LINKS = 60;
const PASSED_ON = 'led to another address of its own';
/** Whether a capture only led to another address of the same name, so that it says nothing of what was there. */
export const isPassedOn = ({ kind, marks }: { kind: CaptureKind; marks: readonly string[] }) =>
  kind === 'unknown' && marks.some((mark) => mark.endsWith(PASSED_ON));

/** What pages that are no content count as. */
const PLATE_KINDS: Record<PlateKind, CaptureKind> = {
  'for-sale': 'for-sale',
  expired: 'parked',
  parked: 'parked',
  suspended: 'error',
  default: 'error',
  listing: 'error',
  missing: 'error',
  challenge: 'blocked',
  script: 'unknown',
};

/** Judges a capture by what it shows, with the marks that decided. Broken markup and encodings are judged like any other. */
export function judgeCapture({ status, location, html, site }: CapturedAnswer, languageOf: LanguageOf): CaptureView {
  return judgeView({ status, location, site, view: viewPage(html), isScripted: /<script\b/i.test(html) }, languageOf);
}

/** An archived answer whose page was read. */
export interface ViewedAnswer extends Pick<CapturedAnswer, 'status' | 'location' | 'site'> {
  view: PageView;
  /** It has scripts, which may draw what does not stand in it. */
  isScripted: boolean;
}

/** The same of a page that was read. */
export function judgeView(
  { status, location, site, view, isScripted }: ViewedAnswer,
  languageOf: LanguageOf,
): CaptureView {
  const words = view.text === '' ? 0 : view.text.split(' ').length;
  const told = (kind: CaptureKind, marks: string[], redirectTo: string | null = null): CaptureView => ({
    kind,
    marks,
    title: view.title,
    language: kind === 'content' ? languageOf(`${view.title} ${view.text}`) : null,
    terms: kind === 'content' ? termsOf(`${view.title} ${view.text}`) : new Map(),
    links: kind === 'content' ? outsideDomains(view, site, MOST_LINKS) : [],
    redirectTo,
    fingerprint: simhash(view.text),
  });
  const target = foreign(location, site);
  if (status >= 300 && status < 400) {
    if (target) return told('redirect', [`answered ${status} and led to ${target}`], target);
    if (location === null) return told('error', [`answered ${status} and led nowhere`]);
    return told('unknown', [`answered ${status} and ${PASSED_ON}`]);
  }
  if (BLOCKED_STATUS.has(status)) return told('blocked', [`answered ${status}`]);
  const door = status >= 400 ? plateOf(view.title, view.text) : null;
  if (door?.kind === 'challenge') return told('blocked', [`answered ${status}`, `says "${door.words}"`]);
  if (status >= 400) return told('error', [`answered ${status}`]);
  const sent = foreign(view.sendsTo, site);
  if (sent && words < SMALL_WORDS) return told('redirect', [`the page sends its readers on to ${sent}`], sent);
  if (view.sendsTo !== null && words < LEAST_CONTENT)
    return told('unknown', [`the page sent its readers on: it ${PASSED_ON}`]);
  return judgeText(view, words, isScripted, told);
}

/** Fewer words, and scripts: what the page shows is drawn by these. */
const LEAST_CONTENT = 8;

function judgeText(
  view: PageView,
  words: number,
  isScripted: boolean,
  told: (kind: CaptureKind, marks: string[]) => CaptureView,
): CaptureView {
  const size = words === 1 ? 'one word' : `${words} words`;
  const plate = plateOf(view.title, view.text);
  if (plate) return told(PLATE_KINDS[plate.kind], [`says "${plate.words}"`, size]);
  if (words < LEAST_CONTENT && isScripted) return told('unknown', ['what it shows is drawn by scripts', size]);
  if (words === 0) return told('error', ['an empty page']);
  const ads = outsideOnly(view) ? PARKED_ADS.exec(`${view.title} ${view.text.slice(0, 4000)}`)?.[0].trim() : null;
  if (ads) return told('parked', [`says "${ads}"`, 'all its links lead to one other site']);
  return told('content', [size, ...(view.title ? [`titled "${view.title}"`] : [])]);
}

const PARKED_ADS = /\b(related (searches|links)|sponsored (listings|links)|search ads|this web ?page is parked)\b/i;

function outsideOnly(view: PageView): boolean {
  const hosts = new Set(view.links.map(({ href }) => registrableDomain(originalAddress(href) ?? '')?.name ?? ''));
  return view.links.length >= 3 && hosts.size === 1;
}

/** The registrable domain of an address; under an ending that no list knows, its last two labels. */
function siteOf(address: string): string | null {
  const known = registrableDomain(address);
  if (known) return known.name;
  const host = URL.canParse(address) ? new URL(address).hostname : '';
  return /^[a-z0-9-]+(\.[a-z0-9-]+)+$/.test(host) ? host.split('.').slice(-2).join('.') : null;
}

/** The registrable domain an address leads to, unless it is the site itself. */
function foreign(address: string | null, site: string): string | null {
  if (address === null) return null;
  const original = originalAddress(address);
  const name = original === null ? null : siteOf(original);
  return name !== null && name !== site ? name : null;
}
