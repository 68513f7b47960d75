import { beliefOfRange, quantileMinor } from '../src/core/bids/belief';
import type { BuyTerms } from '../src/core/bids/maximum';
import { NORMAL_80 } from '../src/core/bids/normal';
import { type Candidate, type Offer, planBids } from '../src/core/bids/plan';
import { type Bench, numbers, round, sized } from './figure';

const SEASONS = sized('BENCH_SEASONS', 120, 4);
const CANDIDATES = 60;
const BUDGET = 150_000;
const FEES = 1500;
const LARGE = 200;
/** Worth as it is meant, with nothing asked of it beyond its cost. */
const TERMS: BuyTerms = { risk: 'even', margin: 0, renewalMinor: 0, months: 0, interest: 0 };

/** A candidate as it really is: what it brings, and what others would pay at most. */
interface Truth {
  candidate: Candidate;
  worthMinor: number;
  rivalMinor: number;
  /** 0 to 1 as a person ranks it: how good it is, not how cheap. */
  fit: number;
  at: number;
}

type Normal = () => number;

/** Shares of a name's worth that are bid by the way that goes by fit; it is judged by the one that turned out best for it. */
const SHARES = [0.5, 0.7, 0.85, 1];

/** Seasons of auctions and fixed prices with the same budget: by the plan, made anew before each, against the highest fit first. */
export const bidPlan: Bench = async (log) => {
  log(`${SEASONS} seasons of ${CANDIDATES} candidates`);
  const right = compare(1);
  log('the same with ranges that are twice as sure as they should be');
  const wrong = compare(2);
  const { random, normal } = source();
  const many = Array.from({ length: LARGE }, (_, id) => truthOf(id, random, normal, 1).candidate);
  const times = Array.from({ length: 9 }, () => {
    const started = performance.now();
    planBids(many, 3 * BUDGET, TERMS);
    return performance.now() - started;
  }).sort((a, b) => a - b);
  const euros = (minor: number) => Math.round(minor / SEASONS / 100);
  return [
    { name: 'bid-plan', value: euros(right.plan), unit: `surplus a season at a budget of ${BUDGET / 100}, ${euros(right.spent)} of it spent; ${round(100 * (right.plan / right.fit - 1))}% more`, baseline: euros(right.fit), ratio: round(right.plan / right.fit, 2), goal: 'at least 15% more than the highest fit first at its best', met: right.plan / right.fit >= 1.15 },
    { name: 'bid-plan-seasons', value: Math.round((100 * right.better) / SEASONS), unit: '% of the seasons in which it did better than each of four ways to bid by fit', baseline: null, ratio: null, goal: 'none', met: true },
    { name: 'bid-plan-wrong', value: euros(wrong.plan), unit: `surplus a season where worth is off twice as far as its ranges say; ${round(100 * (wrong.plan / wrong.fit - 1))}% more`, baseline: euros(wrong.fit), ratio: round(wrong.plan / wrong.fit, 2), goal: 'none', met: true },
    { name: 'bid-plan-time', value: round(times[8]), unit: `ms, the slowest of nine exact plans for ${LARGE} candidates`, baseline: null, ratio: null, goal: 'under 1,000 ms', met: times[8] < 1000 },
  ]; // biome-ignore format: a figure a line
};

function source(): { random: () => number; normal: Normal } {
  const random = numbers(17);
  return {
    random,
    normal: () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random()),
  };
}

/** @param off how many times further worth lies from its range than the range says. */
function compare(off: number): { plan: number; spent: number; fit: number; better: number } {
  const { random, normal } = source();
  const sums = { plan: 0, spent: 0, better: 0 };
  const byShare = SHARES.map(() => 0);
  for (let season = 0; season < SEASONS; season++) {
    const truths = seasonOf(random, normal, off);
    const quick = truths.map(() => random());
    const plan = runSeason(truths, quick, (open, left) => {
      const candidates = open.map(({ candidate }) => candidate);
      const { bids } = planBids(candidates, left, TERMS);
      return new Map(bids.flatMap(({ id, bidMinor }) => (bidMinor === null ? [] : [[id, bidMinor] as const])));
    });
    sums.plan += plan.surplus;
    sums.spent += plan.spent;
    const tries = SHARES.map(
      (share) => runSeason(truths, quick, (open, left) => highestFitFirst(open, left, share)).surplus,
    );
    for (const [n, surplus] of tries.entries()) byShare[n] += surplus;
    if (plan.surplus > Math.max(...tries)) sums.better++;
  }
  return { ...sums, fit: Math.max(...byShare) };
}

function truthOf(id: number, random: () => number, normal: Normal, off: number): Truth {
  // what is known beforehand, as a range that holds six times in ten, and what it turns out to be: the range is right about itself
  const middle = 15_000 * Math.exp(0.8 * normal());
  const error = 0.25 + 0.35 * random();
  const worth = beliefOfRange(middle * Math.exp(-NORMAL_80 * error), middle * Math.exp(NORMAL_80 * error));
  const worthMinor = Math.round(middle * Math.exp(off * error * normal()));
  // others look at the name itself, so they pay more for what turns out to be good
  const rivalMinor = worthMinor * 0.6 * Math.exp(0.7 * normal());
  const floorMinor = Math.max(100, Math.round(middle * (0.05 + 0.4 * random())));
  const isFixed = random() < 0.3;
  const fit = Math.log(middle) + 0.4 * normal();
  const at = Math.floor(random() * 1000);
  const offer: Offer = isFixed
    ? {
        kind: 'fixed',
        feesMinor: FEES,
        priceMinor: Math.round(middle * (0.35 + 0.9 * random())),
        chance: 0.85,
        until: at,
      }
    : {
        kind: 'auction',
        feesMinor: FEES,
        closingAt: at,
        rivals: {
          // others are judged by the venue's habits, not by what they think of this name
          highest: { medianMinor: Math.max(floorMinor, 0.6 * middle), sigma: 0.8 },
          floorMinor,
          stepMinor: 100,
          affiliation: 0.5,
        },
      };
  return {
    candidate: { id, name: `c${id}`, worth, offers: [offer], capMinor: null },
    worthMinor,
    rivalMinor,
    fit,
    at,
  };
}

function seasonOf(random: () => number, normal: Normal, off: number): Truth[] {
  return Array.from({ length: CANDIDATES }, (_, id) => truthOf(id, random, normal, off)).sort((a, b) => a.at - b.at);
}

/** Goes through a season in the order of its closings; `choose` says what is bid on what is open, with the money that is left. */
function runSeason(
  truths: readonly Truth[],
  quick: readonly number[],
  choose: (open: readonly Truth[], left: number) => ReadonlyMap<number, number>,
): { surplus: number; spent: number } {
  let left = BUDGET;
  let surplus = 0;
  for (const [n, { candidate, worthMinor, rivalMinor }] of truths.entries()) {
    const bid = choose(truths.slice(n), left).get(candidate.id);
    if (bid === undefined || bid + FEES > left) continue;
    const [offer] = candidate.offers;
    let paid: number;
    if (offer.kind === 'fixed') {
      if (quick[n] > offer.chance) continue;
      paid = offer.priceMinor;
    } else {
      if (rivalMinor > bid) continue;
      paid = Math.min(bid, Math.max(offer.rivals.floorMinor, rivalMinor + offer.rivals.stepMinor));
    }
    left -= paid + FEES;
    surplus += worthMinor - paid - FEES;
  }
  return { surplus, spent: BUDGET - left };
}

/** The best by fit as long as their maximum bids are within the money that is left, each up to a share of what it is held to be worth. */
function highestFitFirst(open: readonly Truth[], left: number, share: number): ReadonlyMap<number, number> {
  const bids = new Map<number, number>();
  let money = left;
  for (const { candidate } of open.toSorted((a, b) => b.fit - a.fit)) {
    const {
      offers: [offer],
      worth,
    } = candidate;
    const most = Math.floor(share * quantileMinor(worth, 0.5) - FEES);
    const least = offer.kind === 'fixed' ? offer.priceMinor : offer.rivals.floorMinor;
    if (most < least) continue;
    const bid = offer.kind === 'fixed' ? offer.priceMinor : most;
    if (bid + FEES > money) continue;
    bids.set(candidate.id, bid);
    money -= bid + FEES;
  }
  return bids;
}
