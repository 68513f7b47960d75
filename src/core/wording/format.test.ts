import { describe, expect, it } from 'vitest';
import type { DomainView } from '../pool/domain-view';
import {
  ago,
  askedPrice,
  bothPrices,
  changeWords,
  closing,
  day,
  duration,
  isSoon,
  listingWords,
  money,
  offerTitle,
  phaseWords,
  score,
} from './format';

const now = Date.UTC(2026, 10, 24, 12);
const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const row = (part: Partial<DomainView>) =>
  ({ phase: 'free', phaseAt: now, dropAt: null, expiresAt: null, listing: null, bids: null, ...part }) as DomainView;

describe('figures in words', () => {
  it.each([
    [30_000, 'less than a minute'],
    [40 * 60_000, '40 min'],
    [5.5 * HOUR, '5 h'],
    [3 * DAY, '3 days'],
    [200 * DAY, '6 months'],
    [2.55 * 365.2425 * DAY, '2.5 years'],
    [14 * 365.2425 * DAY, '14 years'],
  ])('says %d ms as %s', (ms, words) => expect(duration(ms)).toBe(words));

  it('keeps minor units out of whole sums', () => {
    expect(money(14000, 'EUR')).toBe('140 EUR');
    expect(money(1250, null)).toBe('12.50');
    expect(money(null, 'EUR')).toBe('');
  });
  it('rounds scores where the decimals say nothing', () => {
    expect(score(41.6)).toBe('42');
    expect(score(4.26)).toBe('4.3');
    expect(score(null)).toBe('');
  });
  it('names the year only when it is another', () => {
    expect(day(Date.UTC(2026, 1, 3), now)).toBe('3 Feb');
    expect(day(Date.UTC(2025, 1, 3), now)).toBe('3 Feb 2025');
    expect(ago(now - 2 * HOUR, now)).toBe('2 h ago');
    expect(ago(null, now)).toBe('never');
  });
  it('counts down what is near', () => {
    expect(closing(now + 5 * HOUR, now)).toBe('in 5 h');
    expect(closing(now + 5 * DAY, now)).toBe('29 Nov');
    expect(closing(now - 1, now)).toBe('closed');
    expect(isSoon(now + 5 * HOUR, now)).toBe(true);
    expect(isSoon(now - 5 * HOUR, now)).toBe(false);
  });
});

describe('phaseWords', () => {
  it.each([
    [{ phase: 'free', dropAt: now - DAY }, 'available, dropped 23 Nov'],
    [{ phase: 'pending-delete', dropAt: now }, 'pending delete, drops today'],
    [{ phase: 'pending-delete', dropAt: now + 2 * DAY }, 'pending delete, drops 26 Nov'],
    [{ phase: 'pending-delete', dropAt: now - 2 * DAY }, 'pending delete, drop was due 22 Nov'],
    [{ phase: 'redemption', expiresAt: now - 50 * DAY }, 'redemption, expired 5 Oct'],
    [
      { phase: 'redemption', window: { from: now + 9 * DAY, to: now + 12 * DAY, isConditional: false, reasons: [] } },
      'redemption, available from 3 Dec',
    ],
    // the expiry of next year, as some registries show it
    [{ phase: 'auto-renew', expiresAt: now + 300 * DAY }, 'grace period'],
    [{ phase: 'unknown', phaseAt: null }, 'not yet checked'],
    [{ phase: 'unknown' }, 'unknown'],
    [{ phase: 'unknown', isUnasked: true }, 'could not be asked'],
  ] as [Partial<DomainView>, string][])('says %j as %s', (part, words) => {
    expect(phaseWords(row(part), now)).toBe(words);
  });
});

describe('listingWords', () => {
  it('counts bids', () => {
    expect(listingWords(row({ listing: 'auction', bids: 0 }))).toBe('auction, no bids');
    expect(listingWords(row({ listing: 'auction', bids: 1 }))).toBe('auction, 1 bid');
    expect(listingWords(row({ listing: 'buy-now' }))).toBe('buy now');
  });
});

describe('offers in words', () => {
  it('name the price in its currency and in the user’s', () => {
    expect(bothPrices(1000, 'GBP', 1150, 'EUR')).toBe('10 GBP, 11.50 EUR');
    expect(bothPrices(1000, 'EUR', 1000, 'EUR')).toBe('10 EUR');
    expect(bothPrices(1000, 'SEK', null, 'EUR')).toBe('10 SEK, no rate is set');
    expect(bothPrices(1000, null, 1000, 'EUR')).toBe('10');
    expect(bothPrices(null, 'EUR', null, 'EUR')).toBe('');
    expect(askedPrice({ priceMinor: 1000, currency: 'GBP', homeMinor: 1150, homeCurrency: 'EUR' })).toBe('11.50 EUR');
    expect(askedPrice({ priceMinor: 1000, currency: 'SEK', homeMinor: null, homeCurrency: 'EUR' })).toBe('10 SEK');
  });

  it('say what the best of them is, and how many others there are', () => {
    const best = {
      listing: 'falling',
      venue: 'Quayside Lots',
      priceMinor: 900,
      currency: 'EUR',
      homeMinor: 900,
    } as const;
    expect(offerTitle(row({ ...best, homeCurrency: 'EUR', offers: 3 }))).toBe(
      'falling price at Quayside Lots: 9 EUR; 2 other offers',
    );
    expect(offerTitle(row({ ...best, homeCurrency: 'EUR', offers: null }))).toBe(
      'falling price at Quayside Lots: 9 EUR',
    );
    expect(offerTitle(row({}))).toBe('');
  });

  it.each<[string, number | string | null, number | string | null, string]>([
    ['bid', null, 2, 'bids 0 → 2'],
    ['price', 1000, 1200, 'price 10 EUR → 12 EUR'],
    ['step', 1000, 800, 'price fell 10 EUR → 8 EUR'],
    ['extended', now, now + HOUR, 'closes later: 24 Nov 13:00 UTC'],
    ['reserve', 'unmet', 'met', 'reserve met'],
    ['sold', 900, 1000, 'sold at 10 EUR'],
    ['withdrawn', null, null, 'withdrawn'],
  ])('say that there was a change of kind %s', (what, was, is, words) => {
    expect(changeWords({ what: what as 'bid', was, is, currency: 'EUR' }, now)).toBe(words);
  });
});
