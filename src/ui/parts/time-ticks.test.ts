import { describe, expect, it } from 'vitest';
import { timeTicks } from './time-ticks';

const at = (day: string) => Date.parse(day);
const labels = (from: string, to: string, most: number) => timeTicks(at(from), at(to), most).map(({ label }) => label);

describe('the axis of time', () => {
  it('names years, months or days, as many as there is room for', () => {
    expect(labels('2009-03-01', '2026-11-20', 10)).toEqual(['2010', '2012', '2014', '2016', '2018', '2020', '2022', '2024', '2026']); // biome-ignore format: one line
    expect(labels('2025-01-01', '2025-12-01', 5)).toEqual(['Jan 2025', 'Apr 2025', 'Jul 2025', 'Oct 2025']);
    expect(labels('2025-01-15', '2025-04-20', 5)).toEqual(['Feb 2025', 'Mar 2025', 'Apr 2025']);
    expect(labels('2025-03-01', '2025-03-05', 8)).toEqual(['1 Mar 2025', '2 Mar 2025', '3 Mar 2025', '4 Mar 2025', '5 Mar 2025']); // biome-ignore format: one line
  });

  it('never has more than there is room for, and something all the same, over centuries or days', () => {
    const end = at('2026-11-20');
    for (const most of [3, 7, 12, 20])
      for (let years = 0.02; years < 400; years *= 1.3) {
        const ticks = timeTicks(end - years * 3.15576e10, end, most);
        expect(ticks.length, `${years} years, ${most}`).toBeLessThanOrEqual(most);
        expect(ticks.length, `${years} years, ${most}`).toBeGreaterThan(0);
        expect(new Set(ticks.map(({ label }) => label)).size).toBe(ticks.length);
        expect(ticks.every(({ at: moment }) => moment > end - years * 3.15576e10 && moment <= end)).toBe(true);
      }
  });
});
