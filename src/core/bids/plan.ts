import { tenths, whole } from '../formats/figures';
import { type Belief, outlookOf, quantileMinor, type Rivals, worthIfWon } from './belief';
import { type Choice, pack } from './knapsack';
import { type BuyTerms, type Maximum, maximumOf, presentWorth, renewalsUntilSold, stepsBetween } from './maximum';
import type { Risk } from './risk';

/** How a candidate can be had. `feesMinor`: paid beside the price when it is had in this way. */
export type Offer = { feesMinor: number } & (
  | { kind: 'auction'; rivals: Rivals; closingAt: number | null }
  /** A price that is paid as it stands, while nobody else was quicker. */
  | { kind: 'fixed'; priceMinor: number; chance: number; until: number | null }
);

export interface Candidate {
  id: number;
  name: string;
  worth: Belief;
  /** All ways it can be had; a plan takes one of them at most. */
  offers: readonly Offer[];
  /** The person's own maximum; null: none. */
  capMinor: number | null;
}

/** What of the budget a bid holds between what it costs on average (0) and what it may cost (1). */
const HELD: Record<Risk, number> = { cautious: 1, even: 0.6, bold: 0.3 };

export interface PlannedBid {
  id: number;
  name: string;
  isIn: boolean;
  /** Which of its offers; of one that is out, the one that would have brought the most. */
  offer: number;
  /** The most to pay by that offer, whatever the budget. */
  maximum: Maximum;
  /** The maximum as far as the budget reaches, or the price; null: out. */
  bidMinor: number | null;
  winChance: number;
  /** What it costs when it is won, fees included, on average. */
  paidMinor: number;
  /** What it brings over its cost, times the chance. */
  surplusMinor: number;
  /** What of the budget is held for it. */
  heldMinor: number;
  /** When it is decided, ms since 1970; null: at any time. */
  at: number | null;
  why: string;
}

export interface BidPlan {
  /** Those that are in, in the order in which they are decided; then those that are out, the best first. */
  bids: PlannedBid[];
  heldMinor: number;
  /** What is spent and brought in on average. */
  spentMinor: number;
  surplusMinor: number;
  /** What would be paid if all were won at their maximum. */
  worstMinor: number;
}

/** A way to take a candidate, with what may come of it. */
interface Way extends Choice {
  offer: number;
  bidMinor: number;
  /** What it may be at most, whatever the budget. */
  mostMinor: number;
  winChance: number;
  paidMinor: number;
  surplusMinor: number;
}

/** A candidate with the most to pay by each of its offers, and the bids to choose from. */
interface Weighed {
  candidate: Candidate;
  maximums: Maximum[];
  ways: Way[];
}

const LEVELS = 16;
const LIKELY = 0.5;

/**
 * Which candidates to go for and up to what, so that what they bring over their cost is the most on average for a budget. Each offer of a
 * candidate has up to sixteen bids to choose from, the highest of them its maximum; what of the budget a bid holds lies between what it
 * costs on average and what it may cost, by the risk. That is a multiple-choice knapsack, solved exactly. Money of auctions that are lost
 * comes free again, so a plan is made anew when one ends.
 *
 * @param budgetMinor what may be spent from now on. All amounts in minor units of one currency.
 */
export function planBids(candidates: readonly Candidate[], budgetMinor: number, terms: BuyTerms): BidPlan {
  const weighed = candidates.map((candidate) => weigh(candidate, terms));
  const { chosen } = pack(
    weighed.map(({ ways }) => ways),
    Math.max(0, Math.floor(budgetMinor)),
  );
  const cut = cutOf(
    weighed.map(({ ways }) => ways),
    chosen,
  );
  const bids = weighed.map((one, n) => planned(one, chosen[n], { budgetMinor, cut }));
  bids.sort(
    (a, b) =>
      Number(b.isIn) - Number(a.isIn) ||
      (a.isIn ? (a.at ?? Number.POSITIVE_INFINITY) - (b.at ?? Number.POSITIVE_INFINITY) : 0) ||
      b.surplusMinor - a.surplusMinor ||
      (a.name < b.name ? -1 : 1),
  );
  const sum = (of: (bid: PlannedBid) => number) =>
    Math.round(bids.reduce((total, bid) => total + (bid.isIn ? of(bid) : 0), 0));
  return {
    bids,
    heldMinor: sum(({ heldMinor }) => heldMinor),
    spentMinor: sum(({ winChance, paidMinor }) => winChance * paidMinor),
    surplusMinor: sum(({ surplusMinor }) => surplusMinor),
    worstMinor: sum(({ bidMinor, maximum }) => (bidMinor ?? 0) + maximum.feesMinor),
  };
}

function weigh(candidate: Candidate, terms: BuyTerms): Weighed {
  const { worth, offers, capMinor } = candidate;
  const maximums = offers.map((offer) =>
    maximumOf(worth, terms, offer.feesMinor, offer.kind === 'auction' ? offer.rivals : null),
  );
  // nobody bids more than it is likely to be had for elsewhere
  const elsewhere = Math.min(
    ...offers.map((offer) =>
      offer.kind === 'fixed' && offer.chance >= LIKELY ? offer.priceMinor + offer.feesMinor : Number.POSITIVE_INFINITY,
    ),
  );
  const renewals = renewalsUntilSold(terms);
  const ways = offers.flatMap((offer, n): Way[] => {
    const way = (bidMinor: number, winChance: number, price: number, won: Belief, mostMinor = bidMinor): Way => {
      const paidMinor = price + offer.feesMinor;
      const surplusMinor = winChance * (presentWorth(won, terms) - renewals - paidMinor);
      const average = winChance * paidMinor;
      const cost = Math.ceil(average + HELD[terms.risk] * (bidMinor + offer.feesMinor - average));
      return {
        offer: n,
        bidMinor,
        mostMinor,
        winChance,
        paidMinor,
        surplusMinor,
        cost,
        gain: Math.round(surplusMinor),
      };
    };
    const most = Math.min(maximums[n].maximumMinor, capMinor ?? Number.POSITIVE_INFINITY);
    if (offer.kind === 'fixed')
      return offer.priceMinor <= most ? [way(offer.priceMinor, offer.chance, offer.priceMinor, worth)] : [];
    const { floorMinor } = offer.rivals;
    const highest = Math.min(most, elsewhere - offer.feesMinor);
    if (highest < floorMinor) return [];
    return stepsBetween(floorMinor, highest, LEVELS).map((bid) => {
      const { winChance, paidMinor } = outlookOf(bid, offer.rivals);
      return way(bid, winChance, paidMinor, worthIfWon(worth, bid, offer.rivals), highest);
    });
  });
  return { candidate, maximums, ways };
}

/** The least that a unit of the budget brings in what is in: what is out brings less for its cost. */
function cutOf(ways: readonly (readonly Way[])[], chosen: Int32Array): number {
  let least = Number.POSITIVE_INFINITY;
  for (const [n, place] of chosen.entries())
    if (place >= 0 && ways[n][place].cost > 0) least = Math.min(least, ways[n][place].gain / ways[n][place].cost);
  return Number.isFinite(least) ? least : 0;
}

function planned(
  { candidate, maximums, ways }: Weighed,
  place: number,
  context: { budgetMinor: number; cut: number },
): PlannedBid {
  const { id, name, offers } = candidate;
  const way = ways[place] ?? null;
  // of one that is out, what it would have brought at its best
  const best = ways.reduce<Way | null>((most, one) => (most === null || one.gain > most.gain ? one : most), null);
  const shown = way ?? best;
  const number = shown?.offer ?? cheapest(offers);
  const offer = offers[number];
  const maximum = maximums[number];
  return {
    id,
    name,
    isIn: way !== null,
    offer: number,
    maximum,
    bidMinor: way?.bidMinor ?? null,
    winChance: shown?.winChance ?? 0,
    paidMinor: shown?.paidMinor ?? 0,
    surplusMinor: shown?.surplusMinor ?? 0,
    heldMinor: way?.cost ?? 0,
    at: offer.kind === 'auction' ? offer.closingAt : offer.until,
    why: way ? whyIn(candidate, way) : whyOut(candidate, offer, maximum, best, context),
  };
}

const leastOf = (offer: Offer) => (offer.kind === 'fixed' ? offer.priceMinor : offer.rivals.floorMinor);

function cheapest(offers: readonly Offer[]): number {
  const costs = offers.map((offer) => leastOf(offer) + offer.feesMinor);
  return costs.indexOf(Math.min(...costs));
}

const money = (minor: number) => (minor < 1000 ? tenths(minor / 100) : whole(minor / 100));
const percent = (share: number) => `${Math.round(100 * share)}%`;

function whyIn({ offers, worth }: Candidate, way: Way): string {
  const { bidMinor, mostMinor, winChance, paidMinor, surplusMinor } = way;
  const range = `worth ${money(quantileMinor(worth, 0.2))} to ${money(quantileMinor(worth, 0.8))} to you`;
  if (offers[way.offer].kind === 'fixed')
    return `take it at ${money(bidMinor)}: ${range}, and ${percent(winChance)} sure to be the first; it brings ${money(surplusMinor)} over its cost on average`;
  const held = bidMinor < 0.99 * mostMinor ? ` and not ${money(mostMinor)}, since the budget is for others, too` : '';
  return `bid up to ${money(bidMinor)}${held}: ${range}; ${percent(winChance)} to win, then for ${money(paidMinor)} with fees; it brings ${money(surplusMinor)} over its cost on average`;
}

function whyOut(
  { capMinor }: Candidate,
  offer: Offer,
  { maximumMinor }: Maximum,
  best: Way | null,
  { budgetMinor, cut }: { budgetMinor: number; cut: number },
): string {
  const least = leastOf(offer);
  if (capMinor !== null && least > capMinor && maximumMinor >= least)
    return `left out: it costs at least ${money(least)}, over your maximum of ${money(capMinor)}`;
  if (best === null)
    return `left out: it costs at least ${money(least)}, and the most to pay is ${money(maximumMinor)}`;
  if (best.gain <= 0) return `left out: it would bring nothing over its cost`;
  if (best.cost > budgetMinor && least + offer.feesMinor > budgetMinor)
    return `left out: it costs at least ${money(least + offer.feesMinor)}, and ${money(budgetMinor)} are left`;
  return `left out: it would bring ${money(best.surplusMinor)} for ${money(best.cost)} held, less for its money than what is in (${percent(cut)} or more)`;
}

/** What becomes of the plan when one of its bids is decided. */
export interface Turn {
  /** In as well then, or for more; and out then, or for less. */
  more: string[];
  less: string[];
}

/** The plan after one bid is lost, and after it is won for what it costs on average. */
export function turnsOf(
  candidates: readonly Candidate[],
  budgetMinor: number,
  terms: BuyTerms,
  plan: BidPlan,
  id: number,
): { lost: Turn; won: Turn } {
  const others = candidates.filter((candidate) => candidate.id !== id);
  const paid = plan.bids.find((bid) => bid.id === id)?.paidMinor ?? 0;
  const compare = (next: BidPlan): Turn => {
    const turn: Turn = { more: [], less: [] };
    for (const bid of next.bids) {
      const before = plan.bids.find((one) => one.id === bid.id)?.bidMinor ?? 0;
      const after = bid.bidMinor ?? 0;
      if (after > before * 1.02) turn.more.push(bid.name);
      else if (after < before * 0.98) turn.less.push(bid.name);
    }
    return turn;
  };
  return {
    lost: compare(planBids(others, budgetMinor, terms)),
    won: compare(planBids(others, Math.max(0, budgetMinor - paid), terms)),
  };
}
