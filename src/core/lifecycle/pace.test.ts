import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { answered, type Budget, type Declared, dropped, forecastMs, freshBudget, refused, sent, turnAt } from './pace';

/** A server that lets a number of questions through in a window, and is deaf for a while to whoever asks more. */
class Strict {
  private asked: number[] = [];
  private deafUntil = 0;
  refusals = 0;

  constructor(
    private readonly limit: number,
    private readonly windowMs: number,
    private readonly punishmentMs: number,
    private readonly saysHowLong: boolean,
  ) {}

  ask(now: number): { ok: boolean; retryAfterMs: number | null } {
    if (now < this.deafUntil) return this.refuse(now);
    this.asked = this.asked.filter((at) => at > now - this.windowMs);
    if (this.asked.length >= this.limit) {
      this.deafUntil = now + Math.max(this.punishmentMs, this.windowMs - (now - this.asked[0]));
      return this.refuse(now);
    }
    this.asked.push(now);
    return { ok: true, retryAfterMs: null };
  }

  private refuse(now: number) {
    this.refusals++;
    return { ok: false, retryAfterMs: this.saysHowLong ? this.deafUntil - now : null };
  }
}

/** Asks as the lookup scheduler does, without waiting for real. @returns ms it took. */
function askAll(names: number, server: Strict, declared: Declared, budget: Budget = freshBudget(declared)): number {
  let now = 1_000_000;
  const started = now;
  for (let done = 0; done < names; ) {
    now = turnAt(budget, now);
    sent(budget, now);
    const asked = now;
    const { ok, retryAfterMs } = server.ask(now);
    now += 3;
    if (ok) {
      answered(budget, declared, asked, 3, now);
      done++;
    } else refused(budget, declared, retryAfterMs, now);
    if (now - started > 40 * 86_400_000) throw new Error('it never ends');
  }
  return now - started;
}

describe('pacing', () => {
  it.each([
    ['a declared pace that is right', 1000, true, 0],
    ['a declared pace that is far too fast, and a pause that is said', 5, true, 1],
    ['the same, and nothing said', 5, false, 4],
  ])('asks 1,000 names of a server that bears one a second, with %s', (_, intervalMs, says, mostRefusals) => {
    const server = new Strict(1, 1000, 10_000, says);
    const took = askAll(1000, server, { intervalMs: intervalMs === 1000 ? 1001 : intervalMs });
    expect(took / 999_000).toBeLessThan(1.05);
    expect(server.refusals).toBeLessThanOrEqual(mostRefusals);
  });

  it('is not punished again once it was', () => {
    const server = new Strict(1, 1000, 10_000, true);
    const declared = { intervalMs: 100 };
    const budget = freshBudget(declared);
    askAll(20, server, declared, budget);
    expect(server.refusals).toBe(1);
    askAll(500, server, declared, budget);
    expect(server.refusals).toBe(1);
  });

  it('finds out how many a window lets through', () => {
    for (const [limit, windowMs] of [
      [12, 1000],
      [100, 1000],
      [5, 3_600_000],
      [60, 60_000],
    ]) {
      const server = new Strict(limit, windowMs, 0, true);
      const declared = { intervalMs: 5 };
      const budget = freshBudget(declared);
      const names = limit * 12;
      const took = askAll(names, server, declared, budget);
      const least = (names / limit - 1) * windowMs;
      expect(took / least, `${limit} in ${windowMs}`).toBeLessThan(1.3);
      expect(server.refusals, `${limit} in ${windowMs}`).toBeLessThanOrEqual(3);
    }
  });

  it('never asks faster than declared, whatever happens', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 5000 }),
        fc.array(fc.constantFrom('answer', 'refuse', 'refuse-said', 'drop', 'slow'), { maxLength: 60 }),
        (intervalMs, script) => {
          const declared = { intervalMs };
          const budget = freshBudget(declared);
          let now = 1;
          let last = Number.NEGATIVE_INFINITY;
          for (const what of script) {
            now = turnAt(budget, now);
            expect(now - last).toBeGreaterThanOrEqual(intervalMs);
            last = now;
            sent(budget, now);
            if (what === 'refuse') refused(budget, declared, null, now);
            else if (what === 'refuse-said') refused(budget, declared, 7000, now);
            else if (what === 'drop') dropped(budget, now);
            else answered(budget, declared, now, what === 'slow' ? 9000 : 20, now);
            expect(budget.intervalMs).toBeGreaterThanOrEqual(intervalMs);
            expect(Number.isFinite(turnAt(budget, now))).toBe(true);
          }
        },
      ),
    );
  });

  it('waits as long as it is told, and longer each time it is told nothing', () => {
    const declared = { intervalMs: 10 };
    const budget = freshBudget(declared);
    refused(budget, declared, 30_000, 0);
    expect(turnAt(budget, 0)).toBe(30_000);
    const silent = freshBudget(declared);
    const waits = [0, 1, 2, 3].map(() => {
      refused(silent, declared, null, 0);
      return turnAt(silent, 0);
    });
    expect(waits).toEqual([...waits].sort((a, b) => a - b));
    expect(waits[3]).toBeGreaterThanOrEqual(8000);
  });

  it('takes refusals of questions that were under way together for one', () => {
    const declared = { intervalMs: 10 };
    const budget = freshBudget(declared);
    for (let i = 0; i < 8; i++) answered(budget, declared, i, 5, i);
    refused(budget, declared, 1000, 100, 90);
    const { intervalMs } = budget;
    for (const asked of [91, 95, 99]) refused(budget, declared, 1000, 110, asked);
    expect(budget).toMatchObject({ refusedTimes: 1, intervalMs, pausedUntil: 1110 });
    refused(budget, declared, 1000, 2000, 1500);
    expect(budget.refusedTimes).toBe(2);
  });

  it('slows down when answers lengthen, at most to twice what they take, and comes straight back', () => {
    const declared = { intervalMs: 100 };
    const budget = freshBudget(declared);
    for (let i = 0; i < 30; i++) answered(budget, declared, i, 50, i);
    expect(budget.intervalMs).toBe(100);
    for (let i = 0; i < 40; i++) answered(budget, declared, i, 2000, i);
    expect(budget.intervalMs).toBeGreaterThan(500);
    expect(budget.intervalMs).toBeLessThanOrEqual(4000);
    expect(budget.reason).toContain('longer');
    let waited = 0;
    for (; budget.intervalMs > 100; waited += budget.intervalMs) answered(budget, declared, 0, 50, 0);
    expect(waited).toBeLessThan(30_000);
    expect(budget).not.toHaveProperty('beforeLateMs');
  });

  it('learns nothing from a refusal behind answers that took long: what was sent spread out arrived at once', () => {
    const declared = { intervalMs: 25 };
    const budget = freshBudget(declared);
    let now = 1_000_000;
    const ask = (elapsedMs: number) => {
      now = turnAt(budget, now);
      sent(budget, now);
      answered(budget, declared, now, elapsedMs, now + elapsedMs);
    };
    // it taught once what it bears
    for (let n = 0; n < 60; n++) ask(5);
    refused(budget, declared, 1000, now, now - 5);
    const learned = budget.learnedMs as number;
    for (let n = 0; n < 60; n++) ask(5);
    // this machine is busy for a while: answers take two seconds, and of those that were sent meanwhile too many arrive at once
    for (let n = 0; n < 5; n++) ask(2000);
    refused(budget, declared, 1000, now, now - 200);
    expect(budget.learnedMs).toBe(learned);
    expect(turnAt(budget, now)).toBeGreaterThanOrEqual(now + 1000);
    for (let n = 0; n < 30; n++) ask(5);
    expect(budget.intervalMs).toBe(learned);
    refused(budget, declared, 1000, now, now - 900);
    expect(budget.learnedMs).toBe(learned);
    // a pause of an hour is meant as said, however long the answers take
    const seldom = freshBudget({ intervalMs: 5 });
    for (let n = 0; n < 5; n++) answered(seldom, { intervalMs: 5 }, now, n === 0 ? 5 : 2000, now);
    refused(seldom, { intervalMs: 5 }, 3_600_000, now, now - 900);
    expect(seldom.learnedMs).toBeGreaterThan(600_000);
    // a refusal that comes at once teaches again
    ask(5);
    refused(budget, declared, 1000, now, now - 5);
    expect(budget.learnedMs).toBeGreaterThan(learned);
    expect(budget.learnedMs).toBeLessThanOrEqual(1.5 * learned);
  });

  it('backs off from a server that drops connections, and recovers slowly', () => {
    const declared = { intervalMs: 100 };
    const budget = freshBudget(declared);
    for (let i = 0; i < 4; i++) dropped(budget, 0);
    expect(budget.intervalMs).toBeGreaterThan(450);
    expect(turnAt(budget, 0)).toBeGreaterThanOrEqual(8000);
    const slowed = budget.intervalMs;
    answered(budget, declared, 0, 5, 10_000);
    expect(budget.intervalMs).toBeLessThan(slowed);
    expect(budget.intervalMs).toBeGreaterThan(100);
  });

  it('takes questions that were under way together when a server fell silent for one, and ends the pause when it answers', () => {
    const declared = { intervalMs: 10 };
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 256 }), fc.integer({ min: 0, max: 5000 }), (atOnce, spreadMs) => {
        const budget = freshBudget(declared);
        for (let n = 0; n < atOnce; n++) dropped(budget, 5000 + (n * spreadMs) / atOnce, n);
        // a second, however many were under way
        expect(turnAt(budget, 5000)).toBe(6000);
        expect(budget.refusals).toBe(1);
        expect(budget.intervalMs).toBe(75);
        answered(budget, declared, 100, 4000, 5500);
        expect(turnAt(budget, 5500)).toBe(5500);
      }),
    );
  });

  it('leaves a server alone as long as it said, also when it fell silent and answered meanwhile', () => {
    const declared = { intervalMs: 10 };
    const before = freshBudget(declared);
    refused(before, declared, 60_000, 0);
    dropped(before, 10, 0);
    answered(before, declared, 0, 5, 20);
    expect(turnAt(before, 20)).toBe(60_000);
    const after = freshBudget(declared);
    dropped(after, 10, 0);
    refused(after, declared, 60_000, 20, 15);
    answered(after, declared, 0, 5, 30);
    expect(turnAt(after, 30)).toBe(60_020);
  });

  it('leaves a server that stays silent alone for longer each time it is asked again', () => {
    const budget = freshBudget({ intervalMs: 10 });
    let now = 0;
    const pauses = Array.from({ length: 5 }, () => {
      dropped(budget, now, now);
      const pause = turnAt(budget, now) - now;
      now = turnAt(budget, now);
      return pause;
    });
    expect(pauses).toEqual([1000, 2000, 4000, 8000, 16_000]);
  });

  it('tries a little faster after a day without a refusal', () => {
    const declared = { intervalMs: 10 };
    const budget = freshBudget(declared);
    refused(budget, declared, 60_000, 0);
    const learned = budget.learnedMs as number;
    answered(budget, declared, 0, 5, 80_000_000);
    expect(budget.learnedMs).toBe(learned);
    answered(budget, declared, 0, 5, 90_000_000);
    expect(budget.learnedMs).toBeCloseTo(learned * 0.8);
  });

  it('forecasts from the pace and the pause', () => {
    const declared = { intervalMs: 200 };
    const budget = freshBudget(declared);
    expect(forecastMs(budget, 0, 0)).toBe(0);
    expect(forecastMs(budget, 11, 0)).toBe(2000);
    budget.pausedUntil = 5000;
    expect(forecastMs(budget, 11, 0)).toBe(7000);
  });
});
