import type { DomainView } from './types';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
const YEAR = 365.2425 * DAY;
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** "12,345". */
export function count(value: number | null): string {
  return value === null ? '' : Math.round(value).toLocaleString('en-GB');
}

/** "1 domain", "12 domains". */
export function plural(value: number | null, one: string, many = `${one}s`): string {
  return `${count(value)} ${value === 1 ? one : many}`;
}

/** A figure of a measured scale: whole above 10, one decimal below; empty when unknown. */
export function score(value: number | null): string {
  if (value === null) return '';
  return value >= 10 ? String(Math.round(value)) : String(Math.round(value * 10) / 10);
}

/** Money from minor units: "140", "12.50", with the currency behind. */
export function money(minor: number | null, currency: string | null): string {
  if (minor === null) return '';
  const amount =
    minor % 100 === 0 ? count(minor / 100) : (minor / 100).toLocaleString('en-GB', { minimumFractionDigits: 2 });
  return currency ? `${amount} ${currency}` : amount;
}

/** A length of time in its largest fitting unit: "40 min", "5 h", "3 days", "2.5 years". */
export function duration(ms: number): string {
  const span = Math.abs(ms);
  if (span < MINUTE) return 'less than a minute';
  if (span < HOUR) return `${Math.floor(span / MINUTE)} min`;
  if (span < 2 * DAY) return `${Math.floor(span / HOUR)} h`;
  if (span < 90 * DAY) return `${Math.floor(span / DAY)} days`;
  if (span < 2 * YEAR) return `${Math.floor(span / (YEAR / 12))} months`;
  const years = span / YEAR;
  return `${years < 10 ? Math.floor(years * 10) / 10 : Math.floor(years)} years`;
}

export function ago(at: number | null, now: number): string {
  return at === null ? 'never' : now - at < MINUTE ? 'just now' : `${duration(now - at)} ago`;
}

/** "24 Nov", with the year when it is another one. UTC, so that server and browser write the same. */
export function day(at: number, now: number): string {
  const date = new Date(at);
  const text = `${date.getUTCDate()} ${MONTHS[date.getUTCMonth()]}`;
  return date.getUTCFullYear() === new Date(now).getUTCFullYear() ? text : `${text} ${date.getUTCFullYear()}`;
}

/** "24 Nov 18:05 UTC". */
export function moment(at: number, now: number): string {
  const time = new Date(at).toISOString().slice(11, 16);
  return `${day(at, now)} ${time} UTC`;
}

/** How soon something closes, in words that say when to act. */
export function closing(at: number | null, now: number): string {
  if (at === null) return '';
  if (at <= now) return 'closed';
  return at - now < 2 * DAY ? `in ${duration(at - now)}` : day(at, now);
}

export function isSoon(at: number | null, now: number): boolean {
  return at !== null && at > now && at - now < DAY;
}

/** What happened to a domain, in a few words. */
export function phaseWords(row: DomainView, now: number): string {
  switch (row.phase) {
    case 'free':
      return row.dropAt !== null && row.dropAt <= now ? `free, dropped ${day(row.dropAt, now)}` : 'free';
    case 'pending-delete':
      return row.dropAt !== null ? `pending delete, ${dropWords(row.dropAt, now)}` : 'pending delete';
    case 'redemption':
      return row.expiresAt !== null ? `redemption, expired ${day(row.expiresAt, now)}` : 'redemption';
    case 'auto-renew':
      return row.expiresAt !== null ? `expired ${day(row.expiresAt, now)}, may be renewed` : 'expired, may be renewed';
    case 'active':
      return row.expiresAt !== null ? `taken until ${day(row.expiresAt, now)}` : 'taken';
    case 'not-registrable':
      return 'not registrable';
    case 'unknown':
      return row.phaseAt === null ? 'not yet checked' : 'unknown';
  }
}

function dropWords(dropAt: number, now: number): string {
  if (new Date(dropAt).toISOString().slice(0, 10) === new Date(now).toISOString().slice(0, 10)) return 'drops today';
  return dropAt < now ? `drop was due ${day(dropAt, now)}` : `drops ${day(dropAt, now)}`;
}

/** Where the phase comes from and how old it is. */
export function phaseOrigin(row: DomainView, now: number): string {
  if (row.phaseAt === null) return row.phaseSource ? 'as a list says; not yet checked' : 'not yet checked';
  return `asked ${ago(row.phaseAt, now)} (${row.phaseSource ?? 'unknown server'})`;
}

export function linksOrigin(row: DomainView, now: number): string {
  return row.linksAt === null ? 'links not yet measured' : `from all link sources, measured ${ago(row.linksAt, now)}`;
}

export function pastOrigin(row: DomainView, now: number): string {
  return row.pastAt === null ? 'archive not yet asked' : `${row.pastSource}, asked ${ago(row.pastAt, now)}`;
}

const LISTING_WORDS = {
  auction: 'auction',
  'expired-auction': 'expired-name auction',
  'buy-now': 'buy now',
  offer: 'make an offer',
  falling: 'falling price',
  backorder: 'backorder',
} as const;

export function listingWords(row: DomainView): string {
  if (row.listing === null) return '';
  const words: string = LISTING_WORDS[row.listing];
  if (row.bids === null) return words;
  return `${words}, ${row.bids === 0 ? 'no bids' : row.bids === 1 ? '1 bid' : `${row.bids} bids`}`;
}
