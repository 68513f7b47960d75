import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LISTING_KINDS } from '../formats/list-fields';
import { bestListing, newestPerVenue } from './best';
import { compareListings } from './changes';
import { isOpen, LISTING_STATES, type Listing, nextMoment, nextStep, priceAt, RESERVES } from './listing';
import { homeMinor, type Rates } from './rates';

const NOW = Date.UTC(2026, 10, 25);
const HOUR = 3_600_000;
const RATES: Rates = { home: 'EUR', worth: { GBP: 1.2 } };
const listing = (part: Partial<Listing> = {}): Listing => ({
  kind: 'auction',
  venue: 'Quayside Lots',
  state: 'open',
  priceMinor: 1000,
  currency: 'EUR',
  reserve: null,
  bids: null,
  closingAt: null,
  steps: [],
  url: null,
  ...part,
});
const whats = (before: Listing | null, after: Listing) => compareListings(before, after).map(({ what }) => what);

describe('a falling price', () => {
  const steps = [
    { at: NOW - HOUR, priceMinor: 9000 },
    { at: NOW + HOUR, priceMinor: 6000 },
    { at: NOW + 2 * HOUR, priceMinor: 3000 },
  ];
  const falling = listing({ kind: 'falling', priceMinor: 12_000, steps, closingAt: NOW + 3 * HOUR });

  it('goes by its steps without the venue being asked', () => {
    expect([NOW - 2 * HOUR, NOW, NOW + HOUR, NOW + 9 * HOUR].map((at) => priceAt(falling, at))).toEqual([
      12_000, 9000, 6000, 3000,
    ]);
  });

  it('names the step that comes next, and none after the last', () => {
    expect(nextStep(falling, NOW)).toEqual({ at: NOW + HOUR, priceMinor: 6000 });
    expect(nextStep(falling, NOW + 2 * HOUR)).toBeNull();
  });

  it('changes by itself at the next step, then at its end', () => {
    expect(nextMoment(falling, NOW)).toBe(NOW + HOUR);
    expect(nextMoment(falling, NOW + 2 * HOUR)).toBe(NOW + 3 * HOUR);
    expect(nextMoment({ ...falling, state: 'sold' }, NOW)).toBeNull();
    expect(nextMoment(listing(), NOW)).toBeNull();
  });
});

describe('prices in the user’s currency', () => {
  it('follow the rates, and are not known without one', () => {
    expect(homeMinor(1000, 'GBP', RATES)).toBe(1200);
    expect(homeMinor(1000, 'EUR', RATES)).toBe(1000);
    expect(homeMinor(1000, null, RATES)).toBe(1000);
    expect(homeMinor(1000, 'SEK', RATES)).toBeNull();
    expect(homeMinor(null, 'EUR', RATES)).toBeNull();
  });
});

describe('the best of several listings', () => {
  it('costs least in the user’s currency', () => {
    const pounds = listing({ priceMinor: 900, currency: 'GBP' });
    const euros = listing({ priceMinor: 1000 });
    expect(bestListing([pounds, euros], NOW, RATES)).toBe(euros);
  });

  it('is open: closed, sold and withdrawn ones are passed over', () => {
    const over = listing({ priceMinor: 1, closingAt: NOW });
    const sold = listing({ priceMinor: 1, state: 'sold' });
    expect(bestListing([over, sold, listing()], NOW, RATES)?.priceMinor).toBe(1000);
    expect(bestListing([over, sold], NOW, RATES)).toBeNull();
  });

  it('has a price that can be compared, if any has', () => {
    const odd = listing({ priceMinor: 1, currency: 'SEK' });
    const offer = listing({ kind: 'offer', priceMinor: null });
    expect(bestListing([odd, offer, listing()], NOW, RATES)?.currency).toBe('EUR');
    expect(bestListing([offer], NOW, RATES)).toBe(offer);
  });

  it('closes first among equals', () => {
    const later = listing({ closingAt: NOW + 2 * HOUR });
    const sooner = listing({ closingAt: NOW + HOUR });
    expect(bestListing([listing(), later, sooner], NOW, RATES)).toBe(sooner);
  });

  it('is never dearer than another open one, in whatever order they come', () => {
    const any = fc.record({
      kind: fc.constantFrom(...LISTING_KINDS),
      venue: fc.constantFrom(null, 'A', 'B'),
      state: fc.constantFrom(...LISTING_STATES),
      priceMinor: fc.option(fc.nat(10_000)),
      currency: fc.constantFrom(null, 'EUR', 'GBP', 'SEK'),
      reserve: fc.option(fc.constantFrom(...RESERVES)),
      bids: fc.option(fc.nat(20)),
      closingAt: fc.option(fc.integer({ min: NOW - HOUR, max: NOW + HOUR })),
      steps: fc.constant<Listing['steps']>([]),
      url: fc.constant(null),
    });
    fc.assert(
      fc.property(fc.array(any), (listings: Listing[]) => {
        const best = bestListing(listings, NOW, RATES);
        const open = listings.filter((one) => isOpen(one, NOW));
        expect(best === null).toBe(open.length === 0);
        const cost = (one: Listing) => homeMinor(one.priceMinor, one.currency, RATES) ?? Number.POSITIVE_INFINITY;
        if (best) expect(cost(best)).toBe(Math.min(...open.map(cost)));
      }),
    );
  });
});

describe('newestPerVenue', () => {
  it('keeps the last word of a venue on each kind', () => {
    const [old, fresh, other] = [listing({ priceMinor: 1 }), listing({ priceMinor: 2 }), listing({ venue: 'B' })];
    expect(newestPerVenue([old, other, fresh])).toEqual([fresh, other]);
  });
});

describe('compareListings', () => {
  it.each<[string, Partial<Listing>, Partial<Listing>, string[]]>([
    ['nothing', {}, {}, []],
    ['a bid', { bids: 2 }, { bids: 3, priceMinor: 1500 }, ['bid', 'price']],
    ['an extension', { closingAt: NOW }, { closingAt: NOW + HOUR }, ['extended']],
    ['an earlier end', { closingAt: NOW + HOUR }, { closingAt: NOW }, ['shortened']],
    ['a step down', { kind: 'falling' }, { kind: 'falling', priceMinor: 800 }, ['step']],
    ['a falling price put up', { kind: 'falling' }, { kind: 'falling', priceMinor: 2000 }, ['price']],
    ['a reserve that was met', { reserve: 'unmet' }, { reserve: 'met' }, ['reserve']],
    ['a sale', {}, { state: 'sold' }, ['sold']],
    ['an end', {}, { state: 'closed' }, ['closed']],
    ['a withdrawal', {}, { state: 'withdrawn' }, ['withdrawn']],
    ['a return', { state: 'closed' }, {}, ['relisted']],
  ])('notices %s', (_, before, after, expected) => {
    expect(whats(listing(before), listing(after))).toEqual(expected);
  });

  it('names a listing that was not there', () => {
    expect(whats(null, listing())).toEqual(['listed']);
  });

  it('says what it was and what it is', () => {
    expect(compareListings(listing({ bids: 2 }), listing({ bids: 5 }))).toEqual([{ what: 'bid', was: 2, is: 5 }]);
  });
});
