import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beliefOfRange } from '../bids/belief';
import { type BuyTerms, maximumOf } from '../bids/maximum';
import { type Offer, planBids } from '../bids/plan';
import { rivalsOf } from '../bids/rivals';
import type { ListingKind } from '../formats/list-fields';
import { isOpen, type Listing } from '../listings/listing';
import { cheapestFirst, ORDER_OF, type RegistrationPrice, type Way, wayOfListing, wayToRegister } from './ways';

const NOW = 1_800_000_000_000;
const HOUR = 3_600_000;
const terms = {
  priced: (minor: number | null, currency: string | null) =>
    minor === null || currency === 'SEK' ? null : currency === 'GBP' ? Math.round(minor * 1.2) : minor,
  feesMinor: 1500,
  homeCurrency: 'EUR',
};
type Seen = Listing & { seenAt: number; sourceName: string };
const listing = (part: Partial<Seen> = {}): Seen => ({
  kind: 'buy-now',
  venue: 'Quillmere',
  state: 'open',
  priceMinor: 5000,
  currency: 'EUR',
  reserve: null,
  bids: null,
  closingAt: null,
  steps: [],
  url: null,
  seenAt: NOW - HOUR,
  sourceName: 'a list',
  ...part,
});
const price = (part: Partial<RegistrationPrice> = {}): RegistrationPrice => ({
  priceMinor: 1200,
  currency: 'EUR',
  says: 'registrar',
  isPremium: false,
  at: NOW,
  ...part,
});

describe('a way to have a name', () => {
  it('costs its price, in the brief’s currency, and the fees beside it', () => {
    expect(wayOfListing(listing({ currency: 'GBP' }), NOW, terms)).toMatchObject({ costMinor: 7500, priceMinor: 5000 });
    expect(wayOfListing(listing({ currency: 'SEK' }), NOW, terms).costMinor).toBeNull();
  });

  it('costs in an auction what the least bid does', () => {
    const { leastMinor, costMinor } = wayOfListing(listing({ kind: 'auction', bids: 2 }), NOW, terms);
    expect(leastMinor).toBe(5500);
    expect(costMinor).toBe(7000);
  });

  it('says of a falling price what it costs now, and what next and when', () => {
    const steps = [6000, 4000, 2000].map((priceMinor, n) => ({ at: NOW + (n - 1) * HOUR, priceMinor }));
    const way = wayOfListing(listing({ kind: 'falling', steps }), NOW, terms);
    expect(way).toMatchObject({ priceMinor: 4000, costMinor: 5500 });
    expect(way.next).toEqual({ at: NOW + HOUR, priceMinor: 2000, costMinor: 3500 });
  });

  it('is called by its list where no venue is named', () => {
    expect(wayOfListing(listing({ venue: null }), NOW, terms).venue).toBe('a list');
  });

  it('by registration costs what the registrar says, and no fees beside it', () => {
    const way = wayToRegister('a registrar', price({ priceMinor: 250_000, isPremium: true }), NOW, null, terms.priced);
    expect(way).toMatchObject({ kind: 'register', costMinor: 250_000, feesMinor: 0, isPremium: true });
  });

  it('stands in order of what it costs in all, those that are refused and those whose cost nobody says last', () => {
    const ways = [
      wayOfListing(listing({ kind: 'offer', priceMinor: null, venue: 'D' }), NOW, terms),
      { ...wayOfListing(listing({ priceMinor: 1, venue: 'E' }), NOW, terms), refusal: 'gone' },
      wayOfListing(listing({ priceMinor: 9000, venue: 'C' }), NOW, terms),
      wayOfListing(listing({ priceMinor: 4000, currency: 'GBP', venue: 'B' }), NOW, terms),
      wayToRegister('A', price(), NOW, null, terms.priced),
    ];
    expect(cheapestFirst(ways).map(({ venue }) => venue)).toEqual(['A', 'B', 'C', 'D', 'E']);
  });
});

/** What is asked of names in the season below. */
const buy: BuyTerms = { risk: 'even', margin: 0.2, renewalMinor: 0, months: 12, interest: 0.05 };
const KINDS: ListingKind[] = ['auction', 'buy-now', 'falling', 'backorder', 'offer'];

interface SeasonName {
  low: number;
  offers: { kind: ListingKind; price: number; from: number; until: number; venue: string }[];
  free: number | null;
}
const seasonName: fc.Arbitrary<SeasonName> = fc.record({
  low: fc.integer({ min: 3000, max: 80_000 }),
  offers: fc.array(
    fc.record({
      kind: fc.constantFrom(...KINDS),
      price: fc.integer({ min: 300, max: 60_000 }),
      from: fc.nat(20),
      until: fc.integer({ min: 21, max: 60 }),
      venue: fc.constantFrom('Quillmere', 'Harrowgate', 'Saltmarch'),
    }),
    { maxLength: 5 },
  ),
  free: fc.option(fc.integer({ min: 500, max: 20_000 })),
});

/** The ways of a name at an hour, as screens and orders take them. */
function waysAt({ offers, free }: SeasonName, hour: number): Way[] {
  const now = NOW + hour * HOUR;
  const ways = offers
    .filter(({ from }) => from <= hour)
    .map(({ kind, price: asked, from, until, venue }) => {
      const start = NOW + from * HOUR;
      const steps =
        kind === 'falling'
          ? [0, 8, 16, 24].map((h, n) => ({ at: start + h * HOUR, priceMinor: Math.round(asked - n * (asked / 5)) }))
          : [];
      return listing({ kind, priceMinor: Math.round(asked), venue, steps, bids: 1, closingAt: NOW + until * HOUR });
    })
    .filter((one) => isOpen(one, now))
    .map((one) => wayOfListing(one, now, terms));
  if (free !== null) ways.push(wayToRegister('a registrar', price({ priceMinor: free }), now, null, terms.priced));
  return cheapestFirst(ways);
}

function offerOf(way: Way): Offer | null {
  const minor = terms.priced(way.priceMinor, way.currency);
  if (minor === null || way.kind === 'offer') return null;
  const { feesMinor, closesAt } = way;
  if (way.kind === 'bid') {
    const habit = { logRatio: Math.log(2), sigma: 0.9, auctions: 0 };
    return {
      kind: 'auction',
      feesMinor,
      rivals: rivalsOf({ priceMinor: minor, bids: way.bids }, habit),
      closingAt: closesAt,
    };
  }
  return { kind: 'fixed', feesMinor, priceMinor: minor, chance: way.kind === 'backorder' ? 0.4 : 0.9, until: closesAt };
}

describe('a season of orders by the plan', () => {
  it('loses nothing to a dearer venue: what is paid is never more than it is to be had for just then', () => {
    let orders = 0;
    fc.assert(
      fc.property(fc.array(seasonName, { minLength: 3, maxLength: 12 }), (names) => {
        let budget = 150_000;
        const had = new Set<number>();
        for (let hour = 0; hour < 60; hour += 6) {
          const ways = names.map((name) => waysAt(name, hour).filter((way) => offerOf(way) !== null));
          const candidates = names.flatMap(({ low }, id) => {
            const offers = ways[id].flatMap((way) => offerOf(way) ?? []);
            if (had.has(id) || offers.length === 0) return [];
            return [{ id, name: `n${id}.org`, worth: beliefOfRange(low, low * 2), offers, capMinor: null }];
          });
          for (const { id, isIn, offer, bidMinor, maximum } of planBids(candidates, budget, buy).bids) {
            if (!isIn || bidMinor === null) continue;
            const way = ways[id][offer];
            const paid = bidMinor + way.feesMinor;
            // ways that are as sure, at this moment
            const others = ways[id].filter(({ kind }) => kind === 'buy' || kind === 'register');
            const cheapest = Math.min(...others.map(({ costMinor }) => costMinor ?? Number.POSITIVE_INFINITY));
            expect(paid).toBeLessThanOrEqual(cheapest);
            expect(bidMinor).toBeLessThanOrEqual(maximum.maximumMinor);
            orders++;
            if (way.kind !== 'bid') {
              had.add(id);
              budget -= paid;
            }
          }
        }
      }),
      { numRuns: 60 },
    );
    expect(orders).toBeGreaterThan(200);
  });

  it('knows a kind of order for each way', () => {
    for (const kind of KINDS) expect(ORDER_OF[kind]).toBeDefined();
    expect(maximumOf(beliefOfRange(1000, 2000), buy, 0, null).maximumMinor).toBeGreaterThan(0);
  });
});
