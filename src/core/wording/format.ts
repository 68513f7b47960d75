import { utc } from '@date-fns/utc';
import { getYear } from 'date-fns';
import { cents, tenths, whole } from '../formats/figures';
import type { ListingKind } from '../formats/list-fields';
import type { ChangeKind } from '../listings/changes';
import type { Reserve } from '../listings/listing';
import type { DomainView } from '../pool/domain-view';
import { momentsIn } from './locale';

const MINUTE = 60_000;
const HOUR = 60 * MINUTE;
const DAY = 24 * HOUR;
const YEAR = 365.2425 * DAY;

const DAY_OF_YEAR = momentsIn({ day: 'numeric', month: 'short', timeZone: 'UTC' });
const DATE = momentsIn({ day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });
const MONTH = momentsIn({ month: 'short', year: 'numeric', timeZone: 'UTC' });
const WEEKDAY = momentsIn({ weekday: 'long', timeZone: 'UTC' });
/** By 24 hours wherever one reads it: closings stand below each other. */
const TIME = momentsIn({ hour: '2-digit', minute: '2-digit', hourCycle: 'h23', timeZone: 'UTC' });

/** "12,345". */
export function count(value: number | null): string {
  return value === null ? '' : whole(Math.round(value));
}

/** "1 domain", "12 domains". */
export function plural(value: number | null, one: string, many = `${one}s`): string {
  return `${count(value)} ${value === 1 ? one : many}`;
}

/** A figure of a measured scale: whole above 10, one decimal below; empty when unknown. */
export function score(value: number | null): string {
  if (value === null) return '';
  return value >= 10 ? whole(Math.round(value)) : tenths(value);
}

/** Money from minor units: "140", "12.50", with the currency behind. */
export function money(minor: number | null, currency: string | null): string {
  if (minor === null) return '';
  const amount = minor % 100 === 0 ? count(minor / 100) : cents(minor / 100);
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
  return `${years < 10 ? tenths(Math.floor(years * 10) / 10) : Math.floor(years)} years`;
}

export function ago(at: number | null, now: number): string {
  return at === null ? 'never' : now - at < MINUTE ? 'just now' : `${duration(now - at)} ago`;
}

/** "24 Nov", with the year when it is another one. UTC, so that server and browser write the same. */
export function day(at: number, now: number): string {
  return yearOf(at) === yearOf(now) ? shortDay(at) : date(at);
}

/** "24 Nov 2024". */
export const date = (at: number): string => DATE().format(at);
/** "24 Nov", whichever year it is. */
export const shortDay = (at: number): string => DAY_OF_YEAR().format(at);
/** "Nov 2024". */
export const monthOf = (at: number): string => MONTH().format(at);
/** "Thursday", or what the locale calls it. */
export const weekday = (at: number): string => WEEKDAY().format(at);
/** 2024. */
export const yearOf = (at: number): number => getYear(utc(at));

/** "24 Nov 18:05 UTC". */
export function moment(at: number, now: number): string {
  return `${day(at, now)} ${TIME().format(at)} UTC`;
}

/** "22 Nov 14:00 to 16:00" within a day, in UTC, else "22 Nov to 3 Dec". */
export function span(from: number, to: number, now: number): string {
  if (day(from, now) !== day(to, now)) return `${day(from, now)} to ${day(to, now)}`;
  return `${day(from, now)} ${TIME().format(from)} to ${TIME().format(to)}`;
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
  const words = phaseWordsOf(row, now);
  if (!row.isOwn) return words;
  return row.phase === 'active' ? words.replace('registered', 'yours') : `yours; ${words}`;
}

function phaseWordsOf(row: DomainView, now: number): string {
  switch (row.phase) {
    case 'free':
      return row.dropAt !== null && row.dropAt <= now ? `available, dropped ${day(row.dropAt, now)}` : 'available';
    case 'pending-delete':
      if (row.window) return `pending delete, ${dropWords(row.window.from, now)}`;
      return row.dropAt !== null ? `pending delete, ${dropWords(row.dropAt, now)}` : 'pending delete';
    case 'redemption':
      return `redemption${freeWords(row, now)}`;
    case 'auto-renew':
      return `grace period${freeWords(row, now)}`;
    case 'active':
      return row.expiresAt !== null ? `registered until ${day(row.expiresAt, now)}` : 'registered';
    case 'not-registrable':
      return 'reserved';
    case 'unknown':
      return row.phaseAt === null ? 'not yet checked' : row.isUnasked ? 'could not be asked' : 'unknown';
  }
}

/** When a lapsing name should be free; else when it expired. Some registries show the next expiry already, which says nothing. */
function freeWords({ window, expiresAt }: DomainView, now: number): string {
  if (window) return `, available from ${day(window.from, now)}`;
  return expiresAt !== null && expiresAt <= now ? `, expired ${day(expiresAt, now)}` : '';
}

function dropWords(dropAt: number, now: number): string {
  if (date(dropAt) === date(now)) return 'drops today';
  return dropAt < now ? `drop was due ${day(dropAt, now)}` : `drops ${day(dropAt, now)}`;
}

/** Where the phase comes from and how old it is. */
export function phaseOrigin(row: DomainView, now: number): string {
  if (row.phaseAt === null) return row.phaseSource ? 'as a list says; not yet checked' : 'not yet checked';
  if (row.isUnasked) return `tried ${ago(row.phaseAt, now)}: ${row.phaseReason ?? 'nobody could be asked'}`;
  return `asked ${ago(row.phaseAt, now)} (${row.phaseSource ?? 'unknown server'})`;
}

export function linksOrigin(row: DomainView, now: number): string {
  return row.linksAt === null ? 'links not yet measured' : `from all link sources, measured ${ago(row.linksAt, now)}`;
}

export function pastOrigin(row: DomainView, now: number): string {
  return row.pastAt === null ? 'archive not yet asked' : `${row.pastSource}, asked ${ago(row.pastAt, now)}`;
}

export const KIND_WORDS: Record<ListingKind, string> = {
  auction: 'auction',
  'expired-auction': 'expired-name auction',
  'buy-now': 'buy now',
  offer: 'make an offer',
  falling: 'falling price',
  backorder: 'backorder',
};

export const RESERVE_WORDS: Record<Reserve, string> = {
  none: 'without reserve',
  unmet: 'reserve not met',
  met: 'reserve met',
};

export function listingWords(row: { listing: ListingKind | null; bids: number | null }): string {
  if (row.listing === null) return '';
  const words = KIND_WORDS[row.listing];
  if (row.bids === null) return words;
  return `${words}, ${row.bids === 0 ? 'no bids' : row.bids === 1 ? '1 bid' : `${row.bids} bids`}`;
}

/** What it costs in the user's currency, or in its own where no rate is set. */
export function askedPrice(row: Pick<DomainView, 'priceMinor' | 'currency' | 'homeMinor' | 'homeCurrency'>): string {
  return row.homeMinor === null ? money(row.priceMinor, row.currency) : money(row.homeMinor, row.homeCurrency);
}

/** A price as it stands, and in the user's currency where that is another. */
export function bothPrices(
  priceMinor: number | null,
  currency: string | null,
  homeMinor: number | null,
  home: string,
): string {
  const own = money(priceMinor, currency);
  if (priceMinor === null || currency === null || currency === home) return own;
  return homeMinor === null ? `${own}, no rate is set` : `${own}, ${money(homeMinor, home)}`;
}

/** The best offer of a domain in words: kind, venue, price in its currency and the user's, and how many others there are. */
export function offerTitle(row: DomainView): string {
  if (row.listing === null) return '';
  const price = bothPrices(row.priceMinor, row.currency, row.homeMinor, row.homeCurrency);
  const others = (row.offers ?? 1) - 1;
  const more = others > 0 ? `; ${plural(others, 'other offer')}` : '';
  return `${listingWords(row)} at ${row.venue ?? 'a venue'}${price && `: ${price}`}${more}`;
}

const CHANGE_WORDS: Record<ChangeKind, string> = {
  listed: 'put up',
  bid: 'bids',
  price: 'price',
  step: 'price fell',
  extended: 'closes later',
  shortened: 'closes sooner',
  reserve: 'reserve',
  sold: 'sold',
  closed: 'closed',
  withdrawn: 'withdrawn',
  relisted: 'put up again',
};

/** What changed of an offer, with what it was and is. */
export function changeWords(
  change: { what: ChangeKind; was: number | string | null; is: number | string | null; currency: string | null },
  now: number,
): string {
  const { what, was, is, currency } = change;
  const words = CHANGE_WORDS[what];
  const price = (value: number | string | null) => money(typeof value === 'number' ? value : null, currency);
  if (what === 'bid') return `${words} ${was ?? 0} → ${is}`;
  if (what === 'reserve') return `${words} ${is}`;
  if (what === 'extended' || what === 'shortened') return `${words}: ${moment(Number(is), now)}`;
  if (what === 'price' || what === 'step') return `${words} ${price(was)} → ${price(is)}`;
  return is === null ? words : `${words} at ${price(is)}`;
}

/** An address as it is read: without what all have. */
export const bare = (url: string): string => url.replace(/^https?:\/\/(www\.)?/, '');
