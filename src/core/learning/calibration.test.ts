import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { calibrate, learnedChance, MEANT_WITHIN, rangeRecord, widened } from './calibration';

describe('chances against outcomes', () => {
  it('are counted in bins, every one once, and scored against the plain share', () => {
    const foretold = fc.array(
      fc.record({ chance: fc.double({ min: 0, max: 1, noNaN: true }), happened: fc.boolean() }),
    );
    fc.assert(
      fc.property(foretold, (all) => {
        const { bins, count, brier } = calibrate(all);
        expect(bins.reduce((sum, bin) => sum + bin.count, 0)).toBe(all.length);
        expect(count).toBe(all.length);
        expect(brier).toBeGreaterThanOrEqual(0);
        for (const { from, to, foretold: mean, came } of bins) {
          expect(mean).toBeGreaterThanOrEqual(from - 1e-9);
          expect(mean).toBeLessThanOrEqual(to + 1e-9);
          expect(came >= 0 && came <= 1).toBe(true);
        }
      }),
    );
    const sure = [
      { chance: 0.9, happened: true },
      { chance: 0.1, happened: false },
    ];
    expect(calibrate(sure)).toMatchObject({ baseBrier: 0.25, bins: [{ came: 0 }, { came: 1 }] });
    expect(calibrate(sure).brier).toBeCloseTo(0.01);
  });
});

describe('ranges against outcomes', () => {
  it('say how many held, and what would have made it six in ten', () => {
    const range = (cameMinor: number) => ({ lowMinor: 5000, highMinor: 20_000, cameMinor });
    const came = [1000, 2000, 3000, 6000, 9000, 10_000, 11_000, 30_000, 60_000, 100_000];
    const record = rangeRecord(came.map(range));
    expect(record).toMatchObject({ count: 10, below: 3, within: 4, above: 3 });
    const factor = record.factor ?? 1;
    expect(factor).toBeGreaterThan(1);
    const wide = rangeRecord(came.map((one) => widened(range(one), factor)));
    expect(wide.within / wide.count).toBeGreaterThanOrEqual(MEANT_WITHIN);
    expect(rangeRecord([range(1)]).factor).toBeNull();
  });

  it('widen around their middle, and narrow back', () => {
    expect(widened({ lowMinor: 5000, highMinor: 20_000 }, 2)).toEqual({ lowMinor: 2500, highMinor: 40_000 });
    expect(widened({ lowMinor: 2500, highMinor: 40_000 }, 0.5)).toEqual({ lowMinor: 5000, highMinor: 20_000 });
    expect(widened({ lowMinor: 7, highMinor: 9 }, 1)).toEqual({ lowMinor: 7, highMinor: 9 });
  });
});

describe('a chance that is learned', () => {
  it('moves from what was assumed to what came, with as many outcomes as there are', () => {
    expect(learnedChance(0, 0, 0.9, 5)).toBe(0.9);
    expect(learnedChance(3, 10, 0.9, 5)).toBeCloseTo(0.5);
    expect(learnedChance(300, 1000, 0.9, 5)).toBeCloseTo(0.3, 1);
  });
});
