import { describe, expect, it } from 'vitest';
import { ASSUMED_HABIT, habitOf, rivalsOf } from './rivals';

const ended = (ratio: number, many: number) =>
  Array.from({ length: many }, () => ({ firstMinor: 1000, finalMinor: 1000 * ratio }));

describe('what others would pay', () => {
  it('is assumed where no auction of a venue was seen to end, and learned from those that were', () => {
    expect(habitOf([])).toEqual(ASSUMED_HABIT);
    const few = habitOf(ended(4, 2));
    const many = habitOf(ended(4, 200));
    expect(few.logRatio).toBeGreaterThan(ASSUMED_HABIT.logRatio);
    expect(few.logRatio).toBeLessThan(many.logRatio);
    expect(Math.exp(many.logRatio)).toBeCloseTo(4, 0);
    expect(many.sigma).toBe(0.35);
    expect(many.auctions).toBe(200);
  });

  it('learns nothing from what has no first price, or ended below it', () => {
    expect(
      habitOf([
        { firstMinor: 0, finalMinor: 5 },
        { firstMinor: 9, finalMinor: 5 },
      ]),
    ).toEqual(ASSUMED_HABIT);
  });

  it('begins a step over the highest bid, or at the price where nobody bid', () => {
    expect(rivalsOf({ priceMinor: 8000, bids: 3 }, ASSUMED_HABIT)).toMatchObject({ floorMinor: 8400, stepMinor: 400 });
    expect(rivalsOf({ priceMinor: 8000, bids: 0 }, ASSUMED_HABIT)).toMatchObject({ floorMinor: 8000 });
    expect(rivalsOf({ priceMinor: 0, bids: null }, ASSUMED_HABIT)).toMatchObject({ floorMinor: 100 });
    expect(rivalsOf({ priceMinor: 8000, bids: 3 }, ASSUMED_HABIT).highest.medianMinor).toBeCloseTo(16_000, 5);
  });
});
