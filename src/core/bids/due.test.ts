import { describe, expect, it } from 'vitest';
import { type Decision, dueOf, inDueOrder } from './due';

const NOW = 1_764_000_000_000;
const HOUR = 3_600_000;

describe('when a decision is due', () => {
  it('goes by what is left until its way ends', () => {
    const due = (hours: number | null) =>
      dueOf({ stage: 'wanted', at: hours === null ? null : NOW + hours * HOUR }, NOW);
    expect([-1, 0, 24, 24.1, 168, 169, null].map(due)).toEqual([
      'past', 'day', 'day', 'week', 'week', 'later', 'no date',
    ]); // biome-ignore format: one line
  });

  it('is no question where it is decided, and one still while its outcome is waited for', () => {
    const at = NOW + HOUR;
    expect((['had', 'let go', 'waiting', 'to inspect'] as const).map((stage) => dueOf({ stage, at }, NOW))).toEqual([
      'decided',
      'decided',
      'day',
      'day',
    ]);
  });

  it('orders: the soonest first, then what is planned, what suits and what was there first; the decided last', () => {
    const name = (id: string, part: Partial<Decision> & { hours?: number; sure?: number }) => ({
      id,
      stage: part.stage ?? ('wanted' as const),
      decidedAt: part.hours === undefined ? null : NOW + part.hours * HOUR,
      bid: part.bid ?? null,
      fit: { least: part.sure ?? 0 },
      addedAt: part.addedAt ?? 0,
    });
    const all = [
      name('had', { stage: 'had', hours: 1 }),
      name('any, suits', { sure: 80, addedAt: 2 }),
      name('any, suits too', { sure: 80, addedAt: 1 }),
      name('any, planned', { bid: { isIn: true } }),
      name('tomorrow', { hours: 30 }),
      name('soon', { hours: 2 }),
      name('gone', { hours: -2 }),
    ];
    expect(inDueOrder(all, NOW).map(({ id }) => id)).toEqual([
      'gone', 'soon', 'tomorrow', 'any, planned', 'any, suits too', 'any, suits', 'had',
    ]); // biome-ignore format: one line
    expect(all[0].id).toBe('had');
  });
});
