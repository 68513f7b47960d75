import { type Belief, outlookOf, type Rivals, worthIfWon } from './belief';
import { type Risk, worthHeld } from './risk';

/** What a brief asks of a name it buys. Amounts in minor units of one currency. */
export interface BuyTerms {
  risk: Risk;
  /** What it is to bring over all it costs, as a share of the cost: 0.3 is 30%. */
  margin: number;
  /** A year of registration. */
  renewalMinor: number;
  /** How long until it is sold, or earns what it cost. */
  months: number;
  /** What money costs a year, as a share. */
  interest: number;
}

/** The way from worth to the maximum, each step as it is shown. */
export interface Maximum {
  /** Worth as sure as wanted: its low end, its middle or its mean. */
  worthMinor: number;
  /** That, seen from today: money that comes later is worth less. */
  presentMinor: number;
  /** All it may cost for the margin to be there. */
  costMinor: number;
  feesMinor: number;
  /** Renewals until then; the first year is in the fees. */
  renewalsMinor: number;
  /** What is left of the cost for the price. */
  plainMinor: number;
  /** Less for winning itself: who wins in an auction thought more of it than everybody else did. */
  curseMinor: number;
  maximumMinor: number;
}

/** What a worth is worth today, as sure as wanted. */
export function presentWorth(worth: Belief, { risk, months, interest }: BuyTerms): number {
  return worthHeld(worth, risk) / (1 + interest) ** (months / 12);
}

export function renewalsUntilSold({ renewalMinor, months }: BuyTerms): number {
  return renewalMinor * Math.max(0, Math.ceil(months / 12) - 1);
}

/** What may be paid for what a worth is. */
function payable(worth: Belief, terms: BuyTerms, feesMinor: number): number {
  return presentWorth(worth, terms) / (1 + terms.margin) - renewalsUntilSold(terms) - feesMinor;
}

/** Bids that are tried over all, and then around the best of them. */
const COARSE = 12;
const FINE = 9;

/** The most in an auction, between the least bid and what would be paid if winning told nothing. */
function mostInAuction(worth: Belief, terms: BuyTerms, feesMinor: number, rivals: Rivals, plainMinor: number): number {
  const { floorMinor } = rivals;
  const whenWon = (bid: number) => payable(worthIfWon(worth, bid, rivals), terms, feesMinor);
  const gainOf = (bid: number) => {
    const { winChance, paidMinor } = outlookOf(bid, rivals);
    return winChance * (whenWon(bid) - paidMinor);
  };
  const bids = stepsBetween(floorMinor, plainMinor, COARSE);
  const best = lastOfMost(bids.map(gainOf));
  const near = stepsBetween(bids[Math.max(0, best - 1)], bids[Math.min(bids.length - 1, best + 1)], FINE);
  const gains = near.map(gainOf);
  const most = lastOfMost(gains);
  if (gains[most] > 0) return Math.max(floorMinor, wholeUnits(near[most]));
  // none brings anything: what it is worth when the least bid wins it
  return Math.min(wholeUnits(whenWon(floorMinor)), wholeUnits(floorMinor - 1));
}

/** Of those that bring as much, the highest. */
const lastOfMost = (gains: readonly number[]) => gains.lastIndexOf(Math.max(...gains));

/**
 * The most to pay for a name: its worth, discounted, over one and the margin, less fees and renewals; in an auction less what winning
 * tells (the winner's curse, Capen, Clapp and Campbell 1971): no more than the bid that brings the most on average. Never below 0.
 *
 * @param feesMinor paid beside the price, once.
 * @param rivals who else bids; null: a price that is just paid.
 */
export function maximumOf(worth: Belief, terms: BuyTerms, feesMinor: number, rivals: Rivals | null): Maximum {
  const presentMinor = presentWorth(worth, terms);
  const costMinor = presentMinor / (1 + terms.margin);
  const renewalsMinor = renewalsUntilSold(terms);
  const plainMinor = wholeUnits(Math.round(costMinor) - feesMinor - renewalsMinor);
  const maximumMinor =
    rivals !== null && plainMinor > rivals.floorMinor
      ? mostInAuction(worth, terms, feesMinor, rivals, plainMinor)
      : plainMinor;
  return {
    worthMinor: Math.round(worthHeld(worth, terms.risk)),
    presentMinor: Math.round(presentMinor),
    costMinor: Math.round(costMinor),
    feesMinor,
    renewalsMinor,
    plainMinor,
    curseMinor: plainMinor - maximumMinor,
    maximumMinor,
  };
}

const wholeUnits = (minor: number) => Math.max(0, Math.floor(minor / 100) * 100);

/** Amounts from one to another, both included, each a like factor over the one before. */
export function stepsBetween(lowMinor: number, highMinor: number, steps: number): number[] {
  const low = Math.max(1, lowMinor);
  const factor = Math.max(1, highMinor / low) ** (1 / (steps - 1));
  const amounts = Array.from({ length: steps }, (_, k) =>
    k === steps - 1 ? highMinor : Math.floor(low * factor ** k),
  );
  return [...new Set(amounts)];
}
