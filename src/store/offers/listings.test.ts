import { beforeEach, describe, expect, it } from 'vitest';
import type { Listing } from '../../core/listings/listing';
import { type Store, write } from '../base/database';
import { freshStore } from '../base/testing';
import { findDomain, putDomain } from '../domains/domains';
import { addSource } from '../sources/sources';
import { takeOffer, updateBestListing } from './best-listing';
import { changesOf, endedFalling } from './listing-changes';
import { endMissing, letTimePass, listingsOf, putListing } from './listings';

const RATES = { home: 'EUR', worth: { GBP: 1.2 } };
const HOUR = 3_600_000;
let store: Store;
let id: number;
let saltmarch: number;
let quayside: number;
beforeEach(async () => {
  store = await freshStore();
  id = putDomain(store, { name: 'pellgatehives.org', ending: 'org' }, true, 1).id;
  saltmarch = addSource(store, 'venue', 'Saltmarch Exchange', {});
  quayside = addSource(store, 'venue', 'Quayside Lots', {});
});

const offer = (part: Partial<Listing> = {}): Listing => ({
  kind: 'auction',
  venue: 'Saltmarch Exchange',
  state: 'open',
  priceMinor: 1000,
  currency: 'EUR',
  reserve: null,
  bids: 0,
  closingAt: 10 * HOUR,
  steps: [],
  url: null,
  ...part,
});
const read = (source: number, listing: Listing, at: number) =>
  write(store, () => {
    const changes = putListing(store, id, source, listing, at);
    updateBestListing(store, id, at, RATES);
    return changes.map(({ what }) => what);
  });
const shown = () => findDomain(store, 'pellgatehives.org')!;

describe('offers of a feed', () => {
  it('are kept with what changed from reading to reading', () => {
    expect(read(saltmarch, offer(), HOUR)).toEqual(['listed']);
    expect(read(saltmarch, offer(), 2 * HOUR)).toEqual([]);
    expect(read(saltmarch, offer({ bids: 3, priceMinor: 1600, closingAt: 11 * HOUR }), 3 * HOUR)).toEqual([
      'bid',
      'price',
      'extended',
    ]);
    expect(shown()).toMatchObject({ price_minor: 1600, bids: 3, closing_at: 11 * HOUR, listing_at: 3 * HOUR });
    expect(changesOf(store, id).map(({ what, was, is }) => [what, was, is])).toEqual([
      ['extended', 10 * HOUR, 11 * HOUR],
      ['price', 1000, 1600],
      ['bid', 0, 3],
      ['listed', null, 1000],
    ]);
    expect(listingsOf(store, id)[0]).toMatchObject({ firstAt: HOUR, seenAt: 3 * HOUR });
  });

  it('of several venues are all kept, and the one that costs least is shown', () => {
    read(saltmarch, offer({ priceMinor: 1100 }), HOUR);
    read(quayside, offer({ venue: 'Quayside Lots', priceMinor: 950, currency: 'GBP' }), HOUR);
    expect(shown()).toMatchObject({ venue: 'Saltmarch Exchange', offers: 2 });
    read(quayside, offer({ venue: 'Quayside Lots', priceMinor: 900, currency: 'GBP' }), 2 * HOUR);
    expect(shown()).toMatchObject({ venue: 'Quayside Lots', price_minor: 900, currency: 'GBP', offers: 2 });
    expect(listingsOf(store, id)).toHaveLength(2);
  });

  it('end by time, and the next best comes up', () => {
    read(saltmarch, offer({ closingAt: 5 * HOUR }), HOUR);
    read(quayside, offer({ venue: 'Quayside Lots', kind: 'buy-now', priceMinor: 9000, closingAt: null }), HOUR);
    expect(letTimePass(store, 4 * HOUR, 10)).toEqual([]);
    expect(letTimePass(store, 5 * HOUR, 10)).toEqual([id]);
    updateBestListing(store, id, 5 * HOUR, RATES);
    expect(shown()).toMatchObject({ listing: 'buy-now', offers: 1 });
    expect(changesOf(store, id)[0]).toMatchObject({ what: 'closed', at: 5 * HOUR });
    expect(letTimePass(store, 9 * HOUR, 10)).toEqual([]);
  });

  it('fall by their steps, each of them written down', () => {
    const steps = [
      { at: 2 * HOUR, priceMinor: 800 },
      { at: 3 * HOUR, priceMinor: 500 },
    ];
    read(saltmarch, offer({ kind: 'falling', bids: null, steps }), HOUR);
    expect(letTimePass(store, 2 * HOUR, 10)).toEqual([id]);
    expect(letTimePass(store, 4 * HOUR, 10)).toEqual([id]);
    updateBestListing(store, id, 4 * HOUR, RATES);
    expect(shown().price_minor).toBe(500);
    const falls = changesOf(store, id).filter(({ what }) => what === 'step');
    expect(falls.map(({ was, is }) => [was, is])).toEqual([
      [800, 500],
      [1000, 800],
    ]);
  });

  it('that are not made any more were withdrawn, or closed when their time was over', () => {
    read(saltmarch, offer({ closingAt: 2 * HOUR }), HOUR);
    read(saltmarch, offer({ kind: 'buy-now', closingAt: null }), HOUR);
    expect(endMissing(store, saltmarch, 3 * HOUR, 3 * HOUR)).toEqual([id]);
    expect(
      changesOf(store, id)
        .slice(0, 2)
        .map(({ what }) => what)
        .sort(),
    ).toEqual(['closed', 'withdrawn']);
    updateBestListing(store, id, 3 * HOUR, RATES);
    expect(shown()).toMatchObject({ listing: null, price_minor: null, offers: null });
    expect(endMissing(store, saltmarch, 4 * HOUR, 4 * HOUR)).toEqual([]);
  });
});

describe('offers of a list', () => {
  it('take the place of a dearer one, not of a cheaper one', () => {
    takeOffer(store, id, offer({ priceMinor: 2000 }), HOUR, RATES);
    takeOffer(store, id, offer({ venue: 'Quayside Lots', priceMinor: 3000 }), HOUR, RATES);
    expect(shown()).toMatchObject({ price_minor: 2000, venue: 'Saltmarch Exchange', offers: 2 });
    takeOffer(store, id, offer({ venue: 'Thornabeck Rooms', priceMinor: 1000 }), HOUR, RATES);
    expect(shown()).toMatchObject({ price_minor: 1000, venue: 'Thornabeck Rooms', offers: 3 });
  });

  it('bring the same venue’s older word up to date, also when it is dearer now', () => {
    takeOffer(store, id, offer({ priceMinor: 2000 }), HOUR, RATES);
    takeOffer(store, id, offer({ priceMinor: 2600, bids: 4 }), 2 * HOUR, RATES);
    expect(shown()).toMatchObject({ price_minor: 2600, bids: 4, listing_at: 2 * HOUR });
  });

  it('come back when what was better has got dearer than they are', () => {
    read(quayside, offer({ venue: 'Quayside Lots', priceMinor: 1500 }), HOUR);
    takeOffer(store, id, offer({ priceMinor: 1000 }), HOUR, RATES);
    takeOffer(store, id, offer({ priceMinor: 1700 }), 2 * HOUR, RATES);
    expect(shown()).toMatchObject({ price_minor: 1500, venue: 'Quayside Lots', offers: 2 });
  });
});

describe('falling prices that were seen to end', () => {
  it('tell at which step they were taken, and which nobody wanted', () => {
    const steps = [0, 1, 2].map((n) => ({ at: n * HOUR, priceMinor: 4000 - 1000 * n }));
    const falling = (name: string, state: Listing['state'], at: number) => {
      id = putDomain(store, { name, ending: 'org' }, true, 1).id;
      const listing = offer({ kind: 'falling', bids: null, steps, closingAt: 3 * HOUR });
      read(saltmarch, listing, 1);
      read(saltmarch, { ...listing, state }, at);
    };
    falling('sold.org', 'sold', HOUR + 5);
    falling('left.org', 'closed', 3 * HOUR);
    falling('gone.org', 'withdrawn', 2 * HOUR + 5);
    expect(
      endedFalling(store, saltmarch).sort((a, b) => a.step - b.step || Number(a.isTaken) - Number(b.isTaken)),
    ).toEqual([
      { step: 1, isTaken: true },
      { step: 2, isTaken: false },
      { step: 2, isTaken: true },
    ]);
    expect(endedFalling(store, quayside)).toEqual([]);
  });
});
