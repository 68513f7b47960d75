import { tenths, whole } from '../formats/figures';
import { type Belief, meanMinor, outlookOf, quantileMinor, type Rivals, worthIfWon } from './belief';
import { type Choice, pack } from './knapsack';

/** How a candidate can be had. */
export type Offer =
  | { kind: 'auction'; rivals: Rivals; closingAt: number | null }
  /** A price that is paid as it stands, while nobody else was quicker. */
  | { kind: 'fixed'; priceMinor: number; chance: number; until: number | null };

export interface Candidate {
  id: number;
  name: string;
  worth: Belief;
  offer: Offer;
  /** Paid beside the price when it is won: registration, transfer, a year of renewal. */
  feesMinor: number;
  /** The person's own maximum; null: none. */
  capMinor: number | null;
}

/** How sure a plan wants to be: of what a name is worth, and of having the money for what it bids. */
export const RISKS = ['cautious', 'even', 'bold'] as const;
export type Risk = (typeof RISKS)[number];

const RISK_RULES: Record<Risk, { value(worth: Belief): number; held: number }> = {
  cautious: { value: (worth) => quantileMinor(worth, 0.2), held: 1 },
  even: { value: (worth) => quantileMinor(worth, 0.5), held: 0.6 },
  bold: { value: meanMinor, held: 0.3 },
};

export interface PlannedBid {
  id: number;
  name: string;
  isIn: boolean;
  /** Maximum bid, or the price; null: out. */
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
  bidMinor: number;
  winChance: number;
  paidMinor: number;
  surplusMinor: number;
}

const LEVELS = 12;

/**
 * Which candidates to go for and up to what, so that what they bring over their cost is the most on average for a budget. Each candidate
 * has up to twelve maximum bids to choose from; what of the budget a bid holds lies between what it costs on average and what it may cost,
 * by the risk. That is a multiple-choice knapsack, solved exactly. Money of auctions that are lost comes free again, so a plan is made
 * anew when one ends.
 *
 * @param budgetMinor what may be spent from now on. All amounts in minor units of one currency.
 */
export function planBids(candidates: readonly Candidate[], budgetMinor: number, risk: Risk): BidPlan {
  const ways = candidates.map((candidate) => waysOf(candidate, risk));
  const { chosen } = pack(ways, Math.floor(budgetMinor));
  const cut = cutOf(ways, chosen);
  const bids = candidates.map((candidate, n) => planned(candidate, ways[n], chosen[n], { budgetMinor, cut, risk }));
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
    worstMinor: sum((bid) => (bid.bidMinor ?? 0) + (candidates.find(({ id }) => id === bid.id)?.feesMinor ?? 0)),
  };
}

function waysOf({ worth, offer, feesMinor, capMinor }: Candidate, risk: Risk): Way[] {
  const { value, held } = RISK_RULES[risk];
  const most = Math.min(value(worth) - feesMinor, capMinor ?? Number.POSITIVE_INFINITY);
  const way = (bidMinor: number, winChance: number, price: number, won: Belief): Way => {
    const paidMinor = price + feesMinor;
    const surplusMinor = winChance * (value(won) - paidMinor);
    const average = winChance * paidMinor;
    const cost = Math.ceil(average + held * (bidMinor + feesMinor - average));
    return { bidMinor, winChance, paidMinor, surplusMinor, cost, gain: Math.round(surplusMinor) };
  };
  if (offer.kind === 'fixed')
    return offer.priceMinor <= most ? [way(offer.priceMinor, offer.chance, offer.priceMinor, worth)] : [];
  const { floorMinor } = offer.rivals;
  if (most < floorMinor) return [];
  const levels = new Set<number>();
  for (let k = 0; k < LEVELS; k++)
    levels.add(Math.floor(Math.max(1, floorMinor) * (most / Math.max(1, floorMinor)) ** (k / (LEVELS - 1))));
  return [...levels].map((bid) => {
    const { winChance, paidMinor } = outlookOf(bid, offer.rivals);
    return way(bid, winChance, paidMinor, worthIfWon(worth, bid, offer.rivals));
  });
}

/** The least that a unit of the budget brings in what is in: what is out brings less for its cost. */
function cutOf(ways: readonly (readonly Way[])[], chosen: Int32Array): number {
  let least = Number.POSITIVE_INFINITY;
  for (const [n, place] of chosen.entries())
    if (place >= 0 && ways[n][place].cost > 0) least = Math.min(least, ways[n][place].gain / ways[n][place].cost);
  return Number.isFinite(least) ? least : 0;
}

function planned(
  candidate: Candidate,
  ways: readonly Way[],
  place: number,
  context: { budgetMinor: number; cut: number; risk: Risk },
): PlannedBid {
  const { id, name, offer } = candidate;
  const at = offer.kind === 'auction' ? offer.closingAt : offer.until;
  const way = ways[place] ?? null;
  // of one that is out, what it would have brought at its best
  const best = ways.reduce<Way | null>((most, one) => (most === null || one.gain > most.gain ? one : most), null);
  const shown = way ?? best;
  return {
    id,
    name,
    isIn: way !== null,
    bidMinor: way?.bidMinor ?? null,
    winChance: shown?.winChance ?? 0,
    paidMinor: shown?.paidMinor ?? 0,
    surplusMinor: shown?.surplusMinor ?? 0,
    heldMinor: way?.cost ?? 0,
    at,
    why: way ? whyIn(candidate, way) : whyOut(candidate, best, context),
  };
}

const money = (minor: number) => (minor < 1000 ? tenths(minor / 100) : whole(minor / 100));
const percent = (share: number) => `${Math.round(100 * share)}%`;

function whyIn({ offer, worth }: Candidate, { bidMinor, winChance, paidMinor, surplusMinor }: Way): string {
  const range = `worth ${money(quantileMinor(worth, 0.2))} to ${money(quantileMinor(worth, 0.8))} to you`;
  if (offer.kind === 'fixed')
    return `${bidMinor === 0 ? 'register it' : `take it at ${money(bidMinor)}`}: ${range}, and ${percent(winChance)} sure to be the first; it brings ${money(surplusMinor)} over its cost on average`;
  return `bid up to ${money(bidMinor)}: ${range}; ${percent(winChance)} to win, then for ${money(paidMinor)} with fees; it brings ${money(surplusMinor)} over its cost on average`;
}

function whyOut(
  { offer, worth, feesMinor, capMinor }: Candidate,
  best: Way | null,
  { budgetMinor, cut, risk }: { budgetMinor: number; cut: number; risk: Risk },
): string {
  const least = offer.kind === 'fixed' ? offer.priceMinor : offer.rivals.floorMinor;
  const value = RISK_RULES[risk].value(worth);
  if (capMinor !== null && least > capMinor && value - feesMinor >= least)
    return `left out: it costs at least ${money(least)}, over your maximum of ${money(capMinor)}`;
  if (best === null)
    return `left out: it costs at least ${money(least + feesMinor)} with fees, and counts as worth ${money(value)}`;
  if (best.gain <= 0) return `left out: it would bring nothing over its cost`;
  if (best.cost > budgetMinor && least + feesMinor > budgetMinor)
    return `left out: it costs at least ${money(least + feesMinor)}, and ${money(budgetMinor)} are left`;
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
  risk: Risk,
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
    lost: compare(planBids(others, budgetMinor, risk)),
    won: compare(planBids(others, Math.max(0, budgetMinor - paid), risk)),
  };
}
