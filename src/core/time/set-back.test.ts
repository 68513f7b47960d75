import { describe, expect, it } from 'vitest';
import { SetBack, setBackSince } from './set-back';

const HOUR = 3_600_000;
const NOON = Date.UTC(2026, 10, 20, 12);

describe('a clock that is set back', () => {
  it('is told by how far, once', () => {
    const clock = new SetBack(NOON, 0);
    expect(clock.look(NOON + 1000, 1000)).toBe(0);
    expect(clock.look(NOON + 2000 - 3 * HOUR, 2000)).toBe(3 * HOUR);
    expect(clock.look(NOON + 3000 - 3 * HOUR, 3000)).toBe(0);
    // between two looks an hour went by as well
    expect(clock.look(NOON + 3000 - 4 * HOUR, 3000 + HOUR)).toBe(2 * HOUR);
  });

  it('is no clock that is slewed, set forward, or stood while the machine slept', () => {
    const clock = new SetBack(NOON, 0);
    expect(clock.look(NOON + HOUR - 3000, HOUR)).toBe(0);
    expect(clock.look(NOON + 9 * HOUR, HOUR + 10)).toBe(0);
    expect(clock.look(NOON + 9 * HOUR + 5, HOUR + 20)).toBe(0);
  });

  it('is told after a restart by the moment that was seen last', () => {
    expect(setBackSince(NOON, NOON - HOUR)).toBe(HOUR);
    expect(setBackSince(NOON, NOON + HOUR)).toBe(0);
  });
});
