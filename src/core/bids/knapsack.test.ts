import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Choice, pack } from './knapsack';

/** All ways, tried one by one. */
function bruteForce(classes: readonly (readonly Choice[])[], budget: number): number {
  const [first, ...rest] = classes;
  if (!first) return 0;
  let best = bruteForce(rest, budget);
  for (const { cost, gain } of first) if (cost <= budget) best = Math.max(best, gain + bruteForce(rest, budget - cost));
  return best;
}

describe('the best choice within a budget', () => {
  it('takes a dear one over two cheap ones where that is better, and the other way round', () => {
    const classes = [[{ cost: 10, gain: 11 }], [{ cost: 5, gain: 5 }], [{ cost: 5, gain: 5 }]];
    expect([...pack(classes, 10).chosen]).toEqual([0, -1, -1]);
    expect([...pack([[{ cost: 10, gain: 9 }], classes[1], classes[2]], 10).chosen]).toEqual([-1, 0, 0]);
  });

  it('takes at most one way of a class, and nothing that loses', () => {
    const { chosen, gain } = pack(
      [
        [
          { cost: 1, gain: 5 },
          { cost: 2, gain: 8 },
        ],
        [{ cost: 0, gain: -3 }],
      ],
      10,
    );
    expect([...chosen]).toEqual([1, -1]);
    expect(gain).toBe(8);
  });

  it('is as good as trying all, whatever the costs and gains', () => {
    const choice = fc.record({ cost: fc.nat(40), gain: fc.integer({ min: -5, max: 60 }) });
    fc.assert(
      fc.property(fc.array(fc.array(choice, { maxLength: 4 }), { maxLength: 7 }), fc.nat(120), (classes, budget) => {
        const packing = pack(classes, budget);
        const taken = [...packing.chosen].map((place, n) => (place < 0 ? { cost: 0, gain: 0 } : classes[n][place]));
        expect(packing.cost).toBe(taken.reduce((sum, { cost }) => sum + cost, 0));
        expect(packing.gain).toBe(taken.reduce((sum, { gain }) => sum + gain, 0));
        expect(packing.cost).toBeLessThanOrEqual(budget);
        expect(packing.gain).toBe(bruteForce(classes, budget));
      }),
      { numRuns: 400 },
    );
  });

  it('is as good where cost and gain go together, which is the hard case', () => {
    const choice = fc
      .tuple(fc.integer({ min: 1, max: 30 }), fc.nat(2))
      .map(([cost, more]) => ({ cost, gain: cost + more }));
    fc.assert(
      fc.property(fc.array(fc.array(choice, { maxLength: 3 }), { maxLength: 8 }), fc.nat(90), (classes, budget) => {
        expect(pack(classes, budget).gain).toBe(bruteForce(classes, budget));
      }),
    );
  });

  it('takes 200 classes of 12 ways in cents', () => {
    let seed = 7;
    const random = () => {
      seed = (seed * 1_103_515_245 + 12_345) & 0x7fffffff;
      return seed / 0x7fffffff;
    };
    const classes = Array.from({ length: 200 }, () => {
      const worth = 2000 + 200_000 * random() ** 4;
      return Array.from({ length: 12 }, (_, k) => {
        const cost = Math.round(worth * (0.1 + 0.07 * k) * (0.8 + 0.4 * random()));
        return { cost, gain: Math.round(worth * (1 - 0.6 ** (k + 1)) * (0.5 + random())) };
      });
    });
    const { cost } = pack(classes, 400_000);
    expect(cost).toBeLessThanOrEqual(400_000);
    expect(cost).toBeGreaterThan(380_000);
  });
});
