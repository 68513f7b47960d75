import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beliefOfRange, chanceBelow, meanMinor, outlookOf, quantileMinor, worthIfWon } from './belief';
import type { BuyTerms } from './maximum';
import { normalBelow, normalMeanBelow } from './normal';
import { type Candidate, planBids, turnsOf } from './plan';
import { RISKS, type Risk } from './risk';

/** Worth as it is meant, with nothing asked of it beyond its cost. */
const plain = (risk: Risk): BuyTerms => ({ risk, margin: 0, renewalMinor: 0, months: 0, interest: 0 });

const auction = (
  id: number,
  more: Partial<Candidate> & { floor?: number; rival?: number; at?: number } = {},
): Candidate => ({
  id,
  name: `vale${id}.org`,
  worth: beliefOfRange(20_000, 40_000),
  offers: [
    {
      kind: 'auction',
      feesMinor: 1500,
      closingAt: more.at ?? id,
      rivals: {
        highest: { medianMinor: more.rival ?? 8000, sigma: 0.6 },
        floorMinor: more.floor ?? 2000,
        stepMinor: 100,
        affiliation: 0,
      },
    },
  ],
  capMinor: null,
  ...more,
});
const fixed = (id: number, priceMinor: number, more: Partial<Candidate> = {}): Candidate => ({
  ...auction(id, more),
  offers: [{ kind: 'fixed', feesMinor: 1500, priceMinor, chance: 0.9, until: null }],
});

describe('money that is not known', () => {
  it('has the range it was made from, and a mean over its middle', () => {
    const worth = beliefOfRange(10_000, 40_000);
    expect(quantileMinor(worth, 0.2)).toBeCloseTo(10_000, 3);
    expect(quantileMinor(worth, 0.8)).toBeCloseTo(40_000, 3);
    expect(quantileMinor(worth, 0.5)).toBeCloseTo(20_000, 3);
    expect(chanceBelow(worth, 10_000)).toBeCloseTo(0.2, 4);
    expect(meanMinor(worth)).toBeGreaterThan(20_000);
  });

  it.each([
    [0, 0.5],
    [1, 0.8413447],
    [-1, 0.1586553],
    [2.5, 0.9937903],
    [-6, 0],
  ])('normal below %f is %f', (x, value) => {
    expect(normalBelow(x)).toBeCloseTo(value, 6);
  });

  it('says of a bid how often it wins and what is paid then, as drawing at random does', () => {
    const rivals = { highest: { medianMinor: 9000, sigma: 0.5 }, floorMinor: 4000, stepMinor: 200, affiliation: 0 };
    let seed = 3;
    const random = () => {
      seed = (seed * 1_103_515_245 + 12_345) & 0x7fffffff;
      return (seed + 0.5) / 0x80000000;
    };
    for (const bid of [5000, 9000, 20_000]) {
      let wins = 0;
      let paid = 0;
      const draws = 60_000;
      for (let n = 0; n < draws; n++) {
        const normal = Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
        const rival = rivals.highest.medianMinor * Math.exp(rivals.highest.sigma * normal);
        if (rival > bid) continue;
        wins++;
        paid += rival <= rivals.floorMinor ? rivals.floorMinor : Math.min(bid, rival + rivals.stepMinor);
      }
      const outlook = outlookOf(bid, rivals);
      expect(outlook.winChance).toBeCloseTo(wins / draws, 1.7);
      expect(Math.abs(outlook.paidMinor - paid / wins) / (paid / wins)).toBeLessThan(0.02);
    }
    expect(outlookOf(3999, rivals)).toEqual({ winChance: 0, paidMinor: 0 });
  });
});

describe('the curse of winning', () => {
  it('makes a name worth less when a low bid wins it, and hardly less when a high one does', () => {
    const worth = beliefOfRange(20_000, 40_000);
    const rivals = { highest: { medianMinor: 9000, sigma: 0.6 }, floorMinor: 500, stepMinor: 100, affiliation: 0.5 };
    const middle = (bid: number) => worthIfWon(worth, bid, rivals).medianMinor;
    expect(middle(5000)).toBeLessThan(middle(9000));
    expect(middle(9000)).toBeLessThan(worth.medianMinor);
    expect(middle(200_000)).toBeCloseTo(worth.medianMinor, -2);
    expect(worthIfWon(worth, 5000, { ...rivals, affiliation: 0 })).toEqual(worth);
  });

  it.each([
    [0, -0.7978846],
    [2, -0.0552479],
    [-3, -3.2830986],
  ])('a standard normal below %f is %f on average', (x, mean) => {
    expect(normalMeanBelow(x)).toBeCloseTo(mean, 3);
  });
});

describe('a bid plan', () => {
  it('bids below what a name is worth, for those that bring most for their money, in the order they close', () => {
    const plan = planBids(
      [auction(1, { at: 30 }), auction(2, { at: 10 }), auction(3, { rival: 60_000 })],
      40_000,
      plain('even'),
    );
    const inside = plan.bids.filter(({ isIn }) => isIn);
    expect(inside.map(({ name }) => name).slice(0, 2)).toEqual(['vale2.org', 'vale1.org']);
    for (const { bidMinor, surplusMinor, why } of inside) {
      expect(bidMinor).toBeLessThanOrEqual(quantileMinor(beliefOfRange(20_000, 40_000), 0.5));
      expect(surplusMinor).toBeGreaterThan(0);
      expect(why).toMatch(
        /^bid up to \d+( and not \d+, since the budget is for others, too)?: worth 200 to 400 to you; \d+% to win/,
      );
    }
  });

  it('says of each that is out why', () => {
    const why = (candidate: Candidate, budget = 50_000) => planBids([candidate], budget, plain('even')).bids[0];
    expect(why(fixed(1, 90_000))).toMatchObject({
      isIn: false,
      why: 'left out: it costs at least 900, and the most to pay is 267',
    });
    expect(why(auction(1, { floor: 9000, capMinor: 5000 })).why).toBe(
      'left out: it costs at least 90, over your maximum of 50',
    );
    expect(why(fixed(1, 9000), 6000).why).toBe('left out: it costs at least 105, and 60 are left');
    const two = planBids([fixed(1, 5000), fixed(2, 9000)], 10_600, plain('cautious'));
    expect(two.bids.map(({ name, isIn }) => [name, isIn])).toEqual([
      ['vale1.org', true],
      ['vale2.org', false],
    ]);
    expect(two.bids[1].why).toMatch(/less for its money than what is in/);
  });

  it('holds no more than the budget, never bids over a cap, and gains with more budget', () => {
    const amount = fc.integer({ min: 500, max: 90_000 });
    const any = fc.record({
      low: amount,
      more: fc.double({ min: 1, max: 4, noNaN: true }),
      floor: amount,
      rival: amount,
      cap: fc.option(amount),
      isFixed: fc.boolean(),
    });
    fc.assert(
      fc.property(
        fc.array(any, { maxLength: 14 }),
        fc.nat(200_000),
        fc.constantFrom(...RISKS),
        (given, budget, risk) => {
          const candidates = given.map(({ low, more, floor, rival, cap, isFixed }, id) => {
            const common = { worth: beliefOfRange(low, low * more), capMinor: cap };
            return isFixed ? fixed(id, floor, common) : auction(id, { floor, rival, ...common });
          });
          const plan = planBids(candidates, budget, plain(risk));
          expect(plan.heldMinor).toBeLessThanOrEqual(budget);
          expect(plan.bids.length).toBe(candidates.length);
          for (const bid of plan.bids) {
            const { capMinor } = candidates[bid.id];
            if (capMinor !== null && bid.bidMinor !== null) expect(bid.bidMinor).toBeLessThanOrEqual(capMinor);
            expect(bid.why.length).toBeGreaterThan(10);
          }
          if (risk === 'cautious') expect(plan.worstMinor).toBeLessThanOrEqual(budget);
          expect(planBids(candidates, budget * 2, plain(risk)).surplusMinor).toBeGreaterThanOrEqual(
            plan.surplusMinor - candidates.length,
          );
        },
      ),
      { numRuns: 150 },
    );
  });

  it('takes the cheaper of two venues, whatever stands beside it', () => {
    const price = fc.integer({ min: 500, max: 60_000 });
    fc.assert(
      fc.property(
        fc.array(fc.record({ prices: fc.array(price, { minLength: 1, maxLength: 4 }), floor: fc.option(price) }), {
          minLength: 1,
          maxLength: 6,
        }),
        fc.integer({ min: 5000, max: 200_000 }),
        (given, budget) => {
          const candidates = given.map(({ prices, floor }, id): Candidate => {
            const offers = prices.flatMap((priceMinor) => fixed(id, priceMinor).offers);
            return { ...fixed(id, 0), offers: floor === null ? offers : [...offers, ...auction(id, { floor }).offers] };
          });
          for (const { id, isIn, offer, bidMinor } of planBids(candidates, budget, plain('even')).bids) {
            if (!isIn || bidMinor === null) continue;
            const cheapest = Math.min(...given[id].prices);
            const { offers } = candidates[id];
            if (offers[offer].kind === 'fixed') expect(bidMinor).toBe(cheapest);
            else expect(bidMinor).toBeLessThanOrEqual(cheapest);
          }
        },
      ),
      { numRuns: 200 },
    );
  });

  it('bids the maximum that stands by itself where money is plenty, and says where the budget reaches less far', () => {
    const terms = { risk: 'even' as const, margin: 0.4, renewalMinor: 1500, months: 24, interest: 0.05 };
    const [alone] = planBids([auction(1)], 1_000_000, terms).bids;
    expect(alone.bidMinor).toBe(alone.maximum.maximumMinor);
    const tight = planBids(
      [1, 2, 3, 4, 5].map((id) => auction(id)),
      20_000,
      terms,
    ).bids.filter(({ isIn }) => isIn);
    expect(tight.some(({ bidMinor, maximum }) => Number(bidMinor) < maximum.maximumMinor)).toBe(true);
    for (const { bidMinor, maximum, why } of tight)
      if (Number(bidMinor) < 0.99 * maximum.maximumMinor) expect(why).toContain('since the budget is for others');
  });

  it('says what comes of it when a bid is lost or won', () => {
    const candidates = [fixed(1, 9000, { worth: beliefOfRange(60_000, 90_000) }), fixed(2, 9000), fixed(3, 9500)];
    const plan = planBids(candidates, 21_500, plain('cautious'));
    expect(plan.bids.filter(({ isIn }) => isIn).map(({ id }) => id)).toEqual([1, 2]);
    const { lost, won } = turnsOf(candidates, 21_500, plain('cautious'), plan, 1);
    expect(lost).toEqual({ more: ['vale3.org'], less: [] });
    expect(won).toEqual({ more: [], less: [] });
  });

  it('plans 200 candidates', () => {
    const candidates = Array.from({ length: 200 }, (_, id) =>
      auction(id, {
        floor: 500 + ((id * 7919) % 9000),
        rival: 3000 + ((id * 104_729) % 40_000),
        worth: beliefOfRange(5000 + ((id * 31) % 20_000), 30_000 + ((id * 17) % 40_000)),
      }),
    );
    const plan = planBids(candidates, 300_000, plain('even'));
    expect(plan.bids.filter(({ isIn }) => isIn).length).toBeGreaterThan(10);
  });
});
