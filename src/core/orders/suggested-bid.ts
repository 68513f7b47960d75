import { type Belief, meanMinor, quantileMinor } from '../bids/belief';
import type { Risk } from '../bids/plan';

/** What a maximum bid is made from. Amounts in minor units of one currency. */
export interface BidInputs {
  worth: Belief;
  risk: Risk;
  /** What it is to bring over all it costs, as a share of the cost: 0.3 is 30%. */
  margin: number;
  /** Paid beside the price, once. */
  feesMinor: number;
  /** A year of registration. */
  renewalMinor: number;
  /** How long until it is sold, or earns what it cost. */
  months: number;
  /** What money costs a year, as a share. */
  interest: number;
}

/** The way from worth to a maximum bid, each step as it is shown. */
export interface SuggestedBid {
  /** Worth as sure as wanted: its low end, its middle or its mean. */
  worthMinor: number;
  /** That, seen from today: money that comes later is worth less. */
  presentMinor: number;
  /** All it may cost for the margin to be there. */
  costMinor: number;
  /** Renewals until then; the first year is in the fees. */
  renewalsMinor: number;
  bidMinor: number;
}

/** The highest bid that leaves the margin: worth, discounted, over one and the margin, less fees and renewals. Never below 0. */
export function suggestedBid(inputs: BidInputs): SuggestedBid {
  const { worth, risk, margin, feesMinor, renewalMinor, months, interest } = inputs;
  const worthMinor =
    risk === 'cautious' ? quantileMinor(worth, 0.2) : risk === 'even' ? quantileMinor(worth, 0.5) : meanMinor(worth);
  const presentMinor = worthMinor / (1 + interest) ** (months / 12);
  const costMinor = presentMinor / (1 + margin);
  const renewalsMinor = renewalMinor * Math.max(0, Math.ceil(months / 12) - 1);
  const bidMinor = Math.max(0, Math.floor((Math.round(costMinor) - feesMinor - renewalsMinor) / 100) * 100);
  return {
    worthMinor: Math.round(worthMinor),
    presentMinor: Math.round(presentMinor),
    costMinor: Math.round(costMinor),
    renewalsMinor,
    bidMinor,
  };
}
