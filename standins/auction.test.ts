import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type AuctionTerms, auctionAt, EXTENSION_MS, type ProxyBid, rivalsFor, stepOf } from './auction';
import { Random } from './random';

const HOUR = 3_600_000;
const CLOSES = 100 * HOUR;
const terms = (seed: number, more: Partial<AuctionTerms> = {}): AuctionTerms => ({
  seed: `auction ${seed}`,
  startMinor: 1000,
  reserveMinor: null,
  closesAt: CLOSES,
  rivals: rivalsFor(new Random(seed), 6000, CLOSES),
  ...more,
});
const bid = fc.record({
  bidder: fc.constant('you'),
  amountMinor: fc.integer({ min: 500, max: 20_000 }),
  at: fc.integer({ min: 0, max: CLOSES }),
});
const bids = fc.array(bid, { maxLength: 4 }).map((all) => [...all].sort((a, b) => a.at - b.at));

describe('an auction with proxy maximums', () => {
  it('never turns back: price, bids and end only grow, and what is over stays as it is', () => {
    fc.assert(
      fc.property(fc.nat(500), bids, (seed, mine) => {
        let before = auctionAt(terms(seed), mine, -1);
        for (let at = 0; at <= CLOSES + 10 * HOUR; at += 5 * HOUR) {
          const now = auctionAt(terms(seed), mine, at);
          expect(now.priceMinor).toBeGreaterThanOrEqual(before.priceMinor);
          expect(now.bids).toBeGreaterThanOrEqual(before.bids);
          expect(now.closesAt).toBeGreaterThanOrEqual(before.closesAt);
          if (before.isOver) expect(now).toEqual(before);
          before = now;
        }
        expect(before.isOver).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  it('never takes more than a bidder’s maximum, and the highest maximum has it', () => {
    fc.assert(
      fc.property(fc.nat(500), bids, (seed, mine) => {
        const { winner, priceMinor } = auctionAt(terms(seed), mine, Number.POSITIVE_INFINITY);
        const most = Math.max(0, ...mine.map(({ amountMinor }) => amountMinor));
        if (winner === 'you') expect(priceMinor).toBeLessThanOrEqual(most);
        const limits = terms(seed).rivals.map(
          ({ limitMinor, temper }) => (temper === 'stubborn' ? 1.3 : 1) * limitMinor,
        );
        // with more than anybody would pay, from the beginning, one cannot lose
        const sure: ProxyBid = { bidder: 'you', amountMinor: Math.ceil(Math.max(1000, ...limits)) + 10_000, at: 0 };
        const end = auctionAt(terms(seed), [sure], Number.POSITIVE_INFINITY);
        expect(end.winner).toBe('you');
        expect(end.priceMinor).toBeLessThanOrEqual(Math.max(1000, ...limits) + stepOf(Math.max(1000, ...limits)));
      }),
      { numRuns: 100 },
    );
  });

  it('is moved on by a bid in its last minutes', () => {
    const quiet = terms(1, { rivals: [] });
    const late: ProxyBid = { bidder: 'you', amountMinor: 5000, at: CLOSES - 60_000 };
    const state = auctionAt(quiet, [late], CLOSES + 60_000);
    expect(state).toMatchObject({ isOver: false, closesAt: late.at + EXTENSION_MS, leader: 'you', priceMinor: 1000 });
    expect(auctionAt(quiet, [{ ...late, at: CLOSES }], CLOSES + 1).winner).toBeNull();
  });

  it('keeps what does not reach its reserve, and is brought up to it by what does', () => {
    const kept = terms(1, { rivals: [], reserveMinor: 4000 });
    const low = auctionAt(kept, [{ bidder: 'you', amountMinor: 3000, at: 0 }], Number.POSITIVE_INFINITY);
    expect(low).toMatchObject({ reserve: 'unmet', winner: null });
    const high = auctionAt(kept, [{ bidder: 'you', amountMinor: 9000, at: 0 }], Number.POSITIVE_INFINITY);
    expect(high).toMatchObject({ reserve: 'met', winner: 'you', priceMinor: 4000 });
  });

  it('has rivals who come back when outbid, by their tempers', () => {
    const rival = (temper: 'steady' | 'stubborn') => ({ id: 'r', temper, limitMinor: 5000, comesAt: HOUR });
    const mine: ProxyBid = { bidder: 'you', amountMinor: 5500, at: 0 };
    const end = (temper: 'steady' | 'stubborn') =>
      auctionAt(terms(1, { rivals: [rival(temper)] }), [mine], Number.POSITIVE_INFINITY);
    expect(end('steady')).toMatchObject({ winner: 'you' });
    expect(end('steady').priceMinor).toBeGreaterThan(4500);
    // who is stubborn goes beyond what was meant, once outbid
    expect(end('stubborn')).toMatchObject({ winner: 'r' });
  });
});
