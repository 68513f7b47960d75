import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { countdown, type OrderShown, standing } from '../../core/wording/orders';
import { ladderOf } from './ladder';

const ORDER = {
  kind: 'bid', state: 'leading', currency: 'EUR', priceMinor: 4000, counterMinor: null, finalMinor: null, reserve: 'none', reason: null,
  sendAt: null, createdAt: 0,
} as unknown as OrderShown; // biome-ignore format: one order

describe('where an order stands', () => {
  it.each<[Partial<OrderShown>, string]>([
    [{}, 'leading at 40 EUR'],
    [{ reserve: 'unmet' }, 'leading at 40 EUR, reserve not met'],
    [{ state: 'outbid' }, 'outbid at 40 EUR'],
    [{ state: 'waiting', kind: 'offer' }, 'waits for the seller'],
    [{ state: 'waiting', kind: 'backorder' }, 'waits for the drop'],
    [{ state: 'waiting', kind: 'register' }, 'waits for the registry'],
    [{ priceMinor: null }, 'leading'],
    [{ state: 'by hand', sentAt: null }, 'yours to do by hand'],
    [{ state: 'by hand', sentAt: 1 }, 'sent; look there, and say what came of it'],
    [{ state: 'won', finalMinor: null }, 'won'],
    [{ state: 'countered', counterMinor: 9900 }, 'the seller wants 99 EUR'],
    [{ state: 'won', finalMinor: 4150 }, 'won for 41.50 EUR'],
    [{ state: 'won', kind: 'register', finalMinor: 1190 }, 'registered for 11.90 EUR'],
    [{ state: 'lost', finalMinor: 9000 }, 'lost; it went for 90 EUR'],
    [{ state: 'lost', reason: 'the reserve was not met' }, 'lost: the reserve was not met'],
    [{ state: 'refused', reason: 'the payment was declined' }, 'refused: the payment was declined'],
    [{ state: 'queued', sendAt: 100 }, 'waits for its time'],
    [{ state: 'queued' }, 'about to be sent'],
    [{ state: 'dry' }, 'a dry run, not sent'],
  ])('%o is "%s"', (part, words) => {
    expect(standing({ ...ORDER, ...part })).toBe(words);
  });
});

describe('the time that is left', () => {
  it.each([
    [2 * 86_400_000 + 3 * 3_600_000, '2 d 3 h'],
    [3_600_000 + 61_000, '1:01:01'],
    [9 * 60_000 + 5000, '9:05'],
    [0, 'closed'],
    [-5, 'closed'],
  ])('of %s ms is %s', (rest, words) => {
    expect(countdown(rest, 0)).toBe(words);
  });
});

describe('the ladder of an auction', () => {
  it('has everything on one scale from nothing, in the order of the amounts', () => {
    const minor = fc.integer({ min: 1, max: 1_000_000 });
    fc.assert(
      fc.property(minor, minor, minor, minor, (priceMinor, amountMinor, a, b) => {
        const [worthLowMinor, worthHighMinor] = [Math.min(a, b), Math.max(a, b)];
        const ladder = ladderOf({ priceMinor, leastMinor: priceMinor, amountMinor, worthLowMinor, worthHighMinor });
        const [price, maximum] = [ladder.price ?? -1, ladder.maximum ?? -1];
        for (const share of [price, maximum, ladder.worth?.low ?? -1, ladder.worth?.high ?? -1]) {
          expect(share).toBeGreaterThan(0);
          expect(share).toBeLessThan(1);
        }
        expect(price < maximum).toBe(priceMinor < amountMinor);
      }),
    );
    expect(
      ladderOf({ priceMinor: null, leastMinor: null, amountMinor: 10, worthLowMinor: null, worthHighMinor: null }),
    ).toMatchObject({ price: null, worth: null });
  });
});
