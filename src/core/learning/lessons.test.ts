import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FIT_PARTS, type PartValue, PURPOSE_WEIGHTS } from '../fit/fit';
import { areaOf, type Decided, learnWeights } from './weights';
import { type DropOutcome, windowRecords, windowVerdict } from './windows';

const HOUR = 3_600_000;
const outcome = (given: Partial<DropOutcome> = {}): DropOutcome => ({
  ending: 'org', fromAt: 10 * HOUR, toAt: 12 * HOUR, lastAt: 9 * HOUR, seenAt: 11 * HOUR, became: 'dropped', ...given,
}); // biome-ignore format: an outcome

describe('windows against drops', () => {
  it('are wrong only where both looks say so', () => {
    expect(windowVerdict(outcome())).toBe('inside');
    expect(windowVerdict(outcome({ seenAt: 9 * HOUR }))).toBe('early');
    expect(windowVerdict(outcome({ lastAt: 13 * HOUR, seenAt: 14 * HOUR }))).toBe('late');
    // seen long after, but not looked at in between: it may have dropped in its window
    expect(windowVerdict(outcome({ lastAt: 11 * HOUR, seenAt: 90 * HOUR }))).toBe('inside');
    expect(windowVerdict(outcome({ lastAt: null, seenAt: 90 * HOUR }))).toBe('inside');
    expect(windowVerdict(outcome({ became: 'renewed' }))).toBe('renewed');
  });

  it('are told by ending, and every one counts once', () => {
    const all = [
      outcome(),
      outcome({ seenAt: 0 }),
      outcome({ ending: 'com', became: 'renewed' }),
      outcome({ toAt: 20 * HOUR }),
    ];
    const [org, com] = windowRecords(all);
    expect(org).toMatchObject({ key: 'org', count: 3, inside: 2, early: 1, late: 0, widthMs: 2 * HOUR });
    expect(com).toMatchObject({ key: 'com', renewed: 1 });
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(40), fc.nat(40), fc.nat(40), fc.nat(40)), { maxLength: 30 }), (list) => {
        const given = list.map(([fromAt, width, lastAt, seenAt]) =>
          outcome({ fromAt, toAt: fromAt + width, lastAt, seenAt: lastAt + seenAt }),
        );
        for (const { count, inside, early, late, renewed } of windowRecords(given))
          expect(inside + early + late + renewed).toBe(count);
      }),
    );
  });
});

describe('weights from decisions', () => {
  const parts = (values: Partial<Record<(typeof FIT_PARTS)[number], number>>): PartValue[] =>
    FIT_PARTS.map((part) => ({ part, value: values[part] ?? 0.5, words: '' }));
  /** Kept where the name can be said, whatever its links. */
  const byName = (count: number): Decided[] =>
    Array.from({ length: count }, (_, n) => ({
      parts: parts({
        name: n % 3 === 0 ? 0.9 : 0.2 + (n % 5) / 20,
        referrers: ((n * 7) % 11) / 11,
        trust: ((n * 5) % 13) / 13,
      }),
      isKept: n % 3 === 0,
    }));

  it('move to what decides, and say by how much the order is better on others', () => {
    const lesson = learnWeights(byName(60), PURPOSE_WEIGHTS.redirect);
    expect(lesson?.weights.name).toBeGreaterThan(PURPOSE_WEIGHTS.redirect.name);
    expect(lesson?.before).toBeLessThan(0.75);
    expect(lesson?.after).toBeGreaterThan(0.95);
    expect(lesson).toMatchObject({ kept: 20, passed: 40 });
    for (const { part, from, to } of lesson?.changed ?? []) {
      expect(from).toBe(PURPOSE_WEIGHTS.redirect[part]);
      expect(to).toBe(lesson?.weights[part]);
    }
  });

  it('are not suggested from few decisions, from chance, or where the order is right already', () => {
    expect(learnWeights(byName(20), PURPOSE_WEIGHTS.redirect)).toBeNull();
    expect(learnWeights(byName(60), PURPOSE_WEIGHTS.resell)).toBeNull();
    let suggested = 0;
    for (let seed = 0; seed < 20; seed++) {
      // decisions that nothing explains
      const at = (n: number) => Math.abs(Math.sin(n * 12.9898 + seed * 78.233) * 43_758.5453) % 1;
      const noise = Array.from({ length: 60 }, (_, n) => ({
        parts: FIT_PARTS.map((part, p) => ({ part, value: at(n * 10 + p), words: '' })),
        isKept: at(n + 5000) < 0.5,
      }));
      if (learnWeights(noise, PURPOSE_WEIGHTS.rebuild)) suggested++;
    }
    expect(suggested).toBeLessThanOrEqual(1);
  });

  it('count pairs in the right order, equal ones by half', () => {
    const one = (name: number, isKept: boolean): Decided => ({ parts: parts({ name }), isKept });
    expect(areaOf([one(0.9, true), one(0.1, false)], PURPOSE_WEIGHTS.resell)).toBe(1);
    expect(areaOf([one(0.5, true), one(0.5, false)], PURPOSE_WEIGHTS.resell)).toBe(0.5);
    expect(areaOf([one(0.5, true)], PURPOSE_WEIGHTS.resell)).toBe(0.5);
  });
});
