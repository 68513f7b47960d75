import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { stepUp } from './amounts';
import { chanceTaken, fallingHabitOf, fallingOutlook } from './falling';
import { balancesOf, converted, NOTHING, postingOf } from './ledger';
import { breachOf } from './limits';
import {
  type Commitment,
  commitmentOf,
  costOf,
  isEnded,
  ORDER_STATES,
  type OrderEvent,
  type OrderMoney,
  type OrderState,
  stateAfter,
  VENUE_STATES,
} from './order';
import { nextLookAt, retryAt } from './pace';

const event: fc.Arbitrary<OrderEvent> = fc.oneof(
  fc.constantFrom<OrderEvent>(
    { kind: 'send' },
    { kind: 'later' },
    { kind: 'no trace' },
    { kind: 'refuse' },
    { kind: 'withdraw' },
    { kind: 'by hand' },
  ),
  fc.constantFrom(...VENUE_STATES).map((state): OrderEvent => ({ kind: 'answer', state })),
  fc
    .constantFrom('won', 'lost', 'withdrawn')
    .map((outcome): OrderEvent => ({ kind: 'hand', outcome: outcome as 'won' })),
);
const minor = fc.integer({ min: 0, max: 10_000_000 });
const money: fc.Arbitrary<OrderMoney> = fc.record({
  state: fc.constantFrom(...ORDER_STATES),
  group: fc.constantFrom('a', 'b', 'c'),
  amountMinor: minor,
  finalMinor: fc.option(minor),
  feesMinor: fc.integer({ min: 0, max: 10_000 }),
});

describe('the states of an order', () => {
  it('never leave an end, and never go back to unsent once a venue has answered', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<OrderState>('queued', 'by hand', 'dry'),
        fc.array(event, { maxLength: 30 }),
        (first, events) => {
          let state = first;
          let isAnswered = false;
          for (const happened of events) {
            const next = stateAfter(state, happened);
            if (isEnded(state)) expect(next).toBeNull();
            if (next === null) continue;
            if (happened.kind === 'answer') isAnswered = true;
            if (isAnswered) expect(['queued', 'sent']).not.toContain(next);
            state = next;
          }
        },
      ),
    );
  });

  it.each<[OrderState, OrderEvent, OrderState | null]>([
    ['queued', { kind: 'send' }, 'sent'],
    ['sent', { kind: 'no trace' }, 'queued'],
    ['leading', { kind: 'no trace' }, null],
    ['queued', { kind: 'later' }, 'queued'],
    ['leading', { kind: 'later' }, 'leading'],
    ['won', { kind: 'later' }, null],
    ['sent', { kind: 'by hand' }, 'by hand'],
    ['queued', { kind: 'by hand' }, null],
    ['queued', { kind: 'answer', state: 'won' }, null],
    ['sent', { kind: 'withdraw' }, null],
    ['leading', { kind: 'answer', state: 'outbid' }, 'outbid'],
    ['dry', { kind: 'send' }, null],
    ['by hand', { kind: 'hand', outcome: 'won' }, 'won'],
    ['leading', { kind: 'hand', outcome: 'won' }, null],
  ])('from %s by %o to %s', (state, happened, expected) => {
    expect(stateAfter(state, happened)).toBe(expected);
  });
});

describe('what orders commit to', () => {
  it('is the dearest of what can be won of one thing, and nothing more once it was', () => {
    const order = (state: OrderState, amountMinor: number, finalMinor: number | null = null): OrderMoney => ({
      state,
      group: 'a',
      amountMinor,
      finalMinor,
      feesMinor: 10,
    });
    expect(commitmentOf([order('outbid', 100), order('leading', 150)])).toMatchObject({ heldMinor: 160 });
    expect(commitmentOf([order('waiting', 100), order('queued', 80)])).toMatchObject({ heldMinor: 110 });
    expect(commitmentOf([order('won', 100, 70), order('waiting', 90)])).toEqual({
      heldMinor: 0,
      spentMinor: 70,
      feesMinor: 10,
    });
    expect(commitmentOf([order('dry', 100), order('refused', 100), order('lost', 100, 300)])).toEqual(NOTHING);
  });

  it('never grows by an order that ended without being won', () => {
    fc.assert(
      fc.property(fc.array(money, { maxLength: 12 }), money, (orders, ended) => {
        for (const state of ['lost', 'refused', 'withdrawn', 'dry'] as const)
          expect(commitmentOf([...orders, { ...ended, state }])).toEqual(commitmentOf(orders));
      }),
    );
  });
});

describe('the ledger', () => {
  const commitments = fc.array(fc.array(money, { maxLength: 8 }).map(commitmentOf), { maxLength: 20 });

  it('sums to zero in every posting, and always shows what orders commit to', () => {
    fc.assert(
      fc.property(commitments, (steps) => {
        let before: Commitment = NOTHING;
        const lines = steps.flatMap((after) => {
          const posting = postingOf(before, after);
          expect(posting.reduce((sum, { amountMinor }) => sum + amountMinor, 0)).toBe(0);
          before = after;
          return posting;
        });
        const { held, spent, fees, budget } = balancesOf(lines);
        expect({ heldMinor: held, spentMinor: spent, feesMinor: fees }).toEqual(before);
        expect(budget + costOf(before)).toBe(0);
      }),
    );
  });

  it('takes whole amounts only', () => {
    expect(() => postingOf(NOTHING, { heldMinor: 0.5, spentMinor: 0, feesMinor: 0 })).toThrow(RangeError);
  });

  it('converts without floats, half up, and the larger stays the larger', () => {
    expect(converted(100, 1_150_000)).toBe(115);
    expect(converted(1, 500_000)).toBe(1);
    expect(converted(333, 869_565)).toBe(290);
    expect(converted(9_007_199_254_740, 1_000_000)).toBe(9_007_199_254_740);
    fc.assert(
      fc.property(minor, minor, fc.integer({ min: 1, max: 5_000_000 }), (a, b, rate) => {
        const [low, high] = [Math.min(a, b), Math.max(a, b)];
        expect(Number.isSafeInteger(converted(low, rate))).toBe(true);
        expect(converted(low, rate)).toBeLessThanOrEqual(converted(high, rate));
      }),
    );
  });
});

describe('limits', () => {
  it.each([
    ['within both', 100, 800, 100, null],
    ['to the last cent', 100, 900, 400, null],
    ['over the brief’s', 101, 900, 0, { limit: 'brief', limitMinor: 1000, overMinor: 1 }],
    ['over the day’s', 150, 0, 400, { limit: 'day', limitMinor: 500, overMinor: 50 }],
    ['nothing added', 0, 5000, 5000, null],
  ])('%s', (_, adds, briefMinor, dayMinor, breach) => {
    expect(breachOf(adds, { briefMinor, dayMinor }, { briefMinor: 1000, dayMinor: 500 })).toEqual(breach);
  });

  it('may be absent', () => {
    expect(breachOf(1e9, { briefMinor: 1e9, dayMinor: 1e9 }, { briefMinor: null, dayMinor: null })).toBeNull();
  });
});

describe('when a venue is asked', () => {
  const HOUR = 3_600_000;
  it('is the sooner the closer the end, never after it while it runs, and not at all after an end', () => {
    const pauses = [48 * HOUR, 6 * HOUR, HOUR, 10 * 60_000].map((rest) => (nextLookAt('leading', rest, 0) ?? 0) / rest);
    expect([...pauses].every((share) => share > 0 && share <= 1)).toBe(true);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 100 * HOUR }), (rest) => {
        expect(nextLookAt('outbid', rest, 0)).toBeLessThanOrEqual(rest);
      }),
    );
    expect(nextLookAt('leading', 10 * 60_000, 0)).toBe(5000);
    expect(nextLookAt('won', null, 0)).toBeNull();
    expect(nextLookAt('waiting', null, 0)).toBe(5 * 60_000);
  });

  it('backs off when no answer comes', () => {
    expect([1, 2, 3, 9].map((attempts) => retryAt(attempts, 0))).toEqual([2000, 5000, 15_000, 300_000]);
  });
});

describe('a falling price', () => {
  const DAY = 86_400_000;
  const steps = [40_000, 30_000, 22_000, 16_000, 12_000].map((priceMinor, n) => ({ at: n * DAY, priceMinor }));
  const worth = 24_000;
  const quiet = fallingHabitOf(Array.from({ length: 200 }, () => ({ step: 4, isTaken: false })));
  const eager = fallingHabitOf(Array.from({ length: 200 }, () => ({ step: 2, isTaken: true })));

  it('is waited for where nobody else buys, and taken early where somebody does', () => {
    expect(fallingOutlook(steps, 0, worth, 0, quiet)).toMatchObject({ best: 4 });
    // what is taken during the third step is not there at the fourth
    expect(fallingOutlook(steps, 0, worth, 0, eager)).toMatchObject({ best: 2 });
  });

  it('is left alone where no step brings anything', () => {
    expect(fallingOutlook(steps, 0, 5500, 0, quiet).best).toBeNull();
  });

  it('is looked at from the step that runs, of which only the rest counts', () => {
    const { steps: left } = fallingOutlook(steps, 1.5 * DAY, worth, 0, eager);
    expect(left.map(({ step }) => step)).toEqual([1, 2, 3, 4]);
    expect(left[0].chanceThere).toBe(1);
    expect(left[1].chanceThere).toBeCloseTo((1 - chanceTaken(eager, 1)) ** 0.5);
    const chances = left.map(({ chanceThere }) => chanceThere);
    expect(chances).toEqual([...chances].sort((a, b) => b - a));
  });

  it('learns from listings that were seen: those taken at a step, of those that reached it', () => {
    const habit = fallingHabitOf([
      { step: 0, isTaken: true },
      { step: 2, isTaken: true },
      { step: 2, isTaken: false },
    ]);
    expect(habit).toEqual({ reached: [3, 2, 2], taken: [1, 0, 1] });
    expect(chanceTaken(habit, 0)).toBeCloseTo((1 + 0.75) / 9);
    expect(chanceTaken(habit, 7)).toBeCloseTo(0.125);
  });
});

describe('the least next bid', () => {
  it.each([
    [null, 3, null],
    [2000, 0, 2000],
    [2000, 2, 2100],
    [6000, null, 6500],
    [150_000, 9, 155_000],
  ])('over %s with %s bids is %s', (price, bids, least) => {
    expect(stepUp(price, bids)).toBe(least);
  });
});
