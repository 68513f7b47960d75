import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { areaHeight, scrollFor, TALLEST_PX, visibleWindow } from './scroll';

describe('visibleWindow', () => {
  it('is one to one for a short list', () => {
    expect(visibleWindow(95, 300, 1000, 30)).toEqual({ start: 3, end: 15, shiftPx: -5 });
    expect(visibleWindow(0, 300, 4, 30)).toEqual({ start: 0, end: 4, shiftPx: 0 });
  });
  it('reaches the very last of three million rows', () => {
    const rows = 3_000_000;
    expect(areaHeight(rows, 30)).toBe(TALLEST_PX);
    const last = visibleWindow(TALLEST_PX - 700, 700, rows, 30);
    expect(last.end).toBe(rows);
    expect(last.shiftPx + (last.end - last.start) * 30).toBeCloseTo(700, 0);
    expect(visibleWindow(0, 700, rows, 30).start).toBe(0);
  });
  it('shows any row after scrolling to it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4_000_000 }),
        fc.nat(),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (rows, pick, from) => {
          const row = pick % rows;
          const before = from * Math.max(0, areaHeight(rows, 30) - 700);
          const { start, end } = visibleWindow(scrollFor(row, before, 700, rows, 30), 700, rows, 30);
          expect(row).toBeGreaterThanOrEqual(start);
          expect(row).toBeLessThan(end);
        },
      ),
    );
  });
});
