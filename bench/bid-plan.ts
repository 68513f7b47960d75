import { beliefOfRange, quantileMinor } from '../src/core/bids/belief';
import { NORMAL_80 } from '../src/core/bids/normal';
import { type Candidate, planBids } from '../src/core/bids/plan';
import { type Bench, numbers, round } from './figure';

const SEASONS = 120;
const CANDIDATES = 60;
const BUDGET = 150_000;
const FEES = 1500;
const LARGE = 200;

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

/** Seasons of auctions and fixed prices with the same budget: by the plan, made anew before each, against the highest fit first. */
export const bidPlan: Bench = async (log) => {
  log(`${SEASONS} seasons of ${CANDIDATES} candidates`);
  const random = numbers(17);
  const normal: Normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  const totals = { plan: 0, fit: new Map([[0.5, 0], [0.7, 0], [0.85, 0], [1, 0]]), spent: 0, fitSpent: 0 }; // biome-ignore format: one line
  const ratios: number[] = [];
  for (let season = 0; season < SEASONS; season++) {
    const truths = seasonOf(random, normal);
    const quick = truths.map(() => random());
    const plan = runSeason(truths, quick, (open, left) => {
      const found = planBids(open.map(({ candidate }) => candidate), left, (process.env.RISK ?? 'even') as never); // biome-ignore format: one line
      return new Map(found.bids.flatMap(({ id, bidMinor }) => (bidMinor === null ? [] : [[id, bidMinor] as const])));
    });
    totals.plan += plan.surplus;
    totals.spent += plan.spent;
    const tries = [...totals.fit.keys()].map((share) => {
      const run = runSeason(truths, quick, (open, left) => highestFitFirst(open, left, share));
      totals.fit.set(share, (totals.fit.get(share) ?? 0) + run.surplus);
      if (share === 1) totals.fitSpent += run.spent;
      return run.surplus;
    });
    ratios.push(plan.surplus - Math.max(...tries));
  }
  // the other way is given the share of the worth to bid that turned out best for it over all seasons
  console.log(totals);
  const best = Math.max(...totals.fit.values());
  const more = totals.plan / best - 1;

  const many = Array.from({ length: LARGE }, (_, id) => truthOf(id, random, normal).candidate);
  const times = Array.from({ length: 9 }, () => {
    const started = performance.now();
    planBids(many, 3 * BUDGET, 'even');
    return performance.now() - started;
  }).sort((a, b) => a - b);
  const euros = (minor: number) => Math.round(minor / SEASONS / 100);
  return [
    { name: 'bid-plan', value: euros(totals.plan), unit: `surplus a season at a budget of ${BUDGET / 100}, ${euros(totals.spent)} of it spent; ${round(100 * more)}% more`, baseline: euros(best), ratio: round(totals.plan / best, 2), goal: 'at least 15% more than the highest fit first at its best', met: more >= 0.15 },
    { name: 'bid-plan-seasons', value: Math.round((100 * ratios.filter((difference) => difference > 0).length) / SEASONS), unit: '% of the seasons in which it did better than each of four ways to bid by fit', baseline: null, ratio: null, goal: 'none', met: true },
    { name: 'bid-plan-time', value: round(times[8]), unit: `ms, the slowest of nine exact plans for ${LARGE} candidates`, baseline: null, ratio: null, goal: 'under 1,000 ms', met: times[8] < 1000 },
  ]; // biome-ignore format: a figure a line
};

function truthOf(id: number, random: () => number, normal: Normal): Truth {
  // what is known beforehand, as a range that holds six times in ten, and what it turns out to be: the range is right about itself
  const middle = 15_000 * Math.exp(0.8 * normal());
  const error = 0.25 + 0.35 * random();
  const worth = beliefOfRange(middle * Math.exp(-NORMAL_80 * error), middle * Math.exp(NORMAL_80 * error));
  const worthMinor = Math.round(middle * Math.exp(error * normal()));
  // others look at the name itself, so they pay more for what turns out to be good
  const rivalMinor = worthMinor * 0.6 * Math.exp(0.7 * normal());
  const floorMinor = Math.max(100, Math.round(middle * (0.05 + 0.4 * random())));
  const isFixed = random() < 0.3;
  const fit = Math.log(middle) + 0.4 * normal();
  const at = Math.floor(random() * 1000);
  const offer: Candidate['offer'] = isFixed
    ? { kind: 'fixed', priceMinor: Math.round(middle * (0.35 + 0.9 * random())), chance: 0.85, until: at }
    : {
        kind: 'auction',
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
    candidate: { id, name: `c${id}`, worth, offer, feesMinor: FEES, capMinor: null },
    worthMinor,
    rivalMinor,
    fit,
    at,
  };
}

function seasonOf(random: () => number, normal: Normal): Truth[] {
  return Array.from({ length: CANDIDATES }, (_, id) => truthOf(id, random, normal)).sort((a, b) => a.at - b.at);
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
    const { offer } = candidate;
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
    const { offer, worth } = candidate;
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
