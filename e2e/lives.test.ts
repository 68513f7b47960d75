import { describe, expect, it } from 'vitest';
import { LEAST_FOR_HABIT } from '../src/core/lifecycle/drop-window';
import { isAllowedMove } from '../src/core/lifecycle/moves';
import { DAY, dropOf, stateAt } from '../standins/world';
import { isInside, type Look, learnHabits, look, looksAtAll, START, widestMs, world } from './life-looks';

const HOUR = DAY / 24;

describe('the expected drop, against every life of the world', () => {
  const habits = learnHabits();
  const looks = looksAtAll(habits);

  it('looks at thousands of names in every phase', () => {
    expect(looks.length).toBeGreaterThan(5000);
    for (const phase of ['active', 'auto-renew', 'redemption', 'pending-delete'] as const)
      expect(looks.filter((one) => one.phase === phase).length, phase).toBeGreaterThan(150);
    for (const habit of habits.values()) expect(habit.names).toBeGreaterThan(LEAST_FOR_HABIT);
    expect(habits.size).toBe(5);
  });

  it('has the true drop within the window at least 95 times of 100, in every phase and under every ending', () => {
    const groups = new Map<string, { inside: number; all: number }>();
    for (const one of looks) {
      const { domain, phase, window } = one;
      expect(window, domain.name).not.toBeNull();
      for (const key of ['all', phase, domain.ending]) {
        const group = groups.get(key) ?? { inside: 0, all: 0 };
        group.all++;
        if (isInside(one)) group.inside++;
        groups.set(key, group);
      }
    }
    for (const [key, { inside, all }] of groups)
      expect(inside / all, `${key}: ${inside} of ${all}`).toBeGreaterThan(0.95);
  });

  it('has windows no wider than the policy forces', () => {
    for (const one of looks)
      expect((one.window?.to ?? 0) - (one.window?.from ?? 0), `${one.domain.name} ${one.phase}`).toBeLessThanOrEqual(
        widestMs(one),
      );
  });

  it('is narrower where the registrar is known, and hours wide in pending delete', () => {
    const width = (list: (Look | null)[]) => {
      const widths = list.flatMap((one) => (one?.window ? one.window.to - one.window.from : [])).sort((a, b) => a - b);
      return widths[widths.length >> 1];
    };
    const inGrace = looks.filter(({ phase, policy }) => phase === 'auto-renew' && policy.autoRenewDays[1] > 40);
    const blind = inGrace.map(({ domain, at }) => look(domain, at, new Map()));
    expect(width(inGrace)).toBeLessThan(width(blind) / 2);
    const lastStage = looks.filter(({ phase, policy }) => phase === 'pending-delete' && policy.dropHours[1] < 24);
    expect(width(lastStage)).toBeLessThanOrEqual(2 * HOUR);
  });

  it('says how it came to it', () => {
    const inGrace = looks.find(({ phase, policy }) => phase === 'auto-renew' && policy.ending === 'com');
    const reasons = inGrace?.window?.reasons.join('; ');
    expect(reasons).toMatch(/expired \d+ days ago/);
    expect(reasons).toContain('auto-renew period of up to 45 days');
    expect(reasons).toMatch(/deleted between day \d+ and \d+, \d+ names seen/);
    expect(reasons).toContain('pending delete of 5 days');
    expect(reasons).toContain('between 18:00 and 20:00 UTC');
  });
});

describe('the phases of every life', () => {
  it('move along allowed edges only', () => {
    const wrong: string[] = [];
    let moves = 0;
    for (const [i, domain] of [...world.domains.values()].entries()) {
      if (domain.disagrees || i % 4 > 0) continue;
      // every stage is longer than a day
      const last = Math.min(START + 40 * DAY, (dropOf(domain) ?? START) + 5 * DAY);
      let before = stateAt(domain, last - 110 * DAY).phase;
      for (let at = last - 109 * DAY; at < last; at += DAY) {
        const { phase } = stateAt(domain, at);
        if (phase !== before) moves++;
        if (!isAllowedMove(before, phase)) wrong.push(`${domain.name}: ${before} to ${phase}`);
        before = phase;
      }
    }
    expect(wrong).toEqual([]);
    expect(moves).toBeGreaterThan(2000);
  });
});
