import type { Reserve } from '../listings/listing';
import {
  type DecimalMark,
  isEmptyValue,
  isNoPrice,
  parseCurrency,
  parseNumber,
  parsePrice,
  parseYesNo,
} from './amounts';
import { parseDate } from './dates';
import type { ListField, ListingKind } from './list-fields';
import type { Told } from './told';

/** Fields that are moments. */
export const DATES: ReadonlySet<ListField> = new Set(['drop-date', 'closing', 'registered', 'expires', 'first-seen']);

const KIND_WORDS: [kind: ListingKind, words: RegExp][] = [
  ['backorder', /back ?order|pre-?order/],
  ['falling', /falling|dutch|declining/],
  ['expired-auction', /expire/],
  ['buy-now', /buy|bin|fixed/],
  ['offer', /offer|negotiat/],
  ['auction', /auction|bid/],
];
/** Whether a cell says that there is nothing to be said; "none" is a reserve. */
export function saysNothing(field: ListField, text: string): boolean {
  if (field === 'price') return isNoPrice(text);
  return field === 'reserve' ? text.trim() === '' : isEmptyValue(text);
}

/** How the cells of a column are read; null is what they make no sense as. */
export function cellReader(field: ListField, told: Told, now: number | null): (text: string) => unknown {
  const { order, mark, zone, isLeft, unitMs, currency } = told;
  switch (field) {
    case 'drop-date':
    case 'closing':
    case 'expires':
    case 'first-seen':
    case 'registered':
      return (text) =>
        leftOf(text, unitMs, now) ?? parseDate(text, { order, now, isLeft, zone: zone ?? 0 }) ?? yearAlone(field, text);
    case 'price':
    case 'cpc':
      return (text) => {
        const price = parsePrice(text, mark);
        return price && { ...price, currency: price.currency ?? currency };
      };
    case 'bids':
    case 'backlinks':
    case 'referring-domains':
    case 'traffic':
    case 'keywords':
      return (text) => countOf(text, mark);
    case 'position':
    case 'score':
      return (text) => scoreOf(text, mark);
    case 'phase':
      return readPhase;
    case 'kind':
      return readKind;
    case 'reserve':
      return readReserve;
    case 'currency':
      return parseCurrency;
    case 'listing-url':
      return readUrl;
    default:
      return (text) => text.slice(0, 80) || null;
  }
}

/** "6" under "Days left". */
function leftOf(text: string, unitMs: number | null, now: number | null): number | null {
  if (unitMs === null || now === null || !/^\d{1,4}(\.\d+)?$/.test(text)) return null;
  return now + Math.round(Number(text) * unitMs);
}

/** A year alone, where only the year of a beginning is said. */
function yearAlone(field: ListField, text: string): number | null {
  if (field !== 'registered' && field !== 'first-seen') return null;
  const year = /^(19[7-9]\d|20\d\d)$/.exec(text);
  return year ? Date.UTC(Number(year[1]), 0, 1) : null;
}

/** 34, 34/100, 34 %. */
function scoreOf(text: string, mark: DecimalMark): number | null {
  return parseNumber(text.replace(/\s*\/\s*\d+$/, ''), mark);
}
export function countOf(text: string, mark: DecimalMark = null): number | null {
  if (text.length < 10) {
    let plain = 0;
    let i = 0;
    for (; i < text.length; i++) {
      const digit = text.charCodeAt(i) - 48;
      if (digit < 0 || digit > 9) break;
      plain = plain * 10 + digit;
    }
    if (i === text.length && i > 0) return plain;
  }
  const value = text === '' ? null : parseNumber(text, mark);
  return value === null || value < 0 ? null : Math.round(value);
}

/** Phases that a list can speak of. */
export type ListPhase = 'free' | 'pending-delete' | 'redemption' | 'auto-renew' | 'active';

const PHASE_WORDS: [phase: ListPhase, words: RegExp][] = [
  ['pending-delete', /pending.?del|to be deleted|deleting|wird gelöscht|suppression|scheduled for (release|deletion)/],
  ['redemption', /redemption|rgp|quarantine|restorable|quarantäne/],
  ['free', /dropped|deleted|available|^free$|^frei$|^libre$|^disponible$|unregistered|not registered|verfügbar/],
  ['auto-renew', /auto.?renew|grace|expired|abgelaufen|expiré/],
  ['active', /^(active|registered|taken|ok|unavailable|not available|aktiv|belegt|pris|client\w*prohibited)$/],
];

export function readPhase(text: string): ListPhase | null {
  const words = text.toLowerCase();
  if (/^(not |un)available$/.test(words)) return 'active';
  return PHASE_WORDS.find(([, test]) => test.test(words))?.[0] ?? null;
}

export function readKind(text: string): ListingKind | null {
  const words = text.toLowerCase().replaceAll('-', ' ');
  return KIND_WORDS.find(([, test]) => test.test(words))?.[0] ?? null;
}

function readReserve(text: string): Reserve | null {
  const words = text.toLowerCase();
  if (/not (met|reached)|unmet|below/.test(words)) return 'unmet';
  if (/\b(met|reached|passed)\b/.test(words)) return 'met';
  if (/^(no|none|no reserve|false|0|without( reserve)?)$/.test(words)) return 'none';
  const isSet = parseYesNo(words) ?? (words === 'reserve' ? true : null);
  return isSet === null ? null : isSet ? 'unmet' : 'none';
}

function readUrl(text: string): string | null {
  return /^https?:\/\/[^\s]{3,1990}$/i.test(text) ? text : null;
}
