import type { BidPlan, Risk, Turn } from '../../core/bids/plan';
import type { SuggestedBid } from '../../core/orders/suggested-bid';

/** A shortlisted domain as the plan shows it. Amounts in minor units of the brief's currency. */
export interface Entry {
  id: number;
  name: string;
  display: string;
  stage: string;
  maximumBidMinor: number | null;
  worthLowMinor: number | null;
  worthHighMinor: number | null;
  feesMinor: number | null;
  offer: string | null;
  others: string | null;
  resale: {
    lowMinor: number;
    highMinor: number;
    near: { name: string; priceMinor: number; at: number; distance: number; adjustedMinor: number }[];
  } | null;
  uses: {
    use: 'rebuild' | 'redirect';
    lowMinor: number;
    highMinor: number;
    words: string;
    rows: { what: string; detail: string; minor: number }[];
  }[];
  suggested: SuggestedBid | null;
  falling: {
    venue: string;
    steps: { at: number; priceMinor: number; chanceThere: number; expectedMinor: number; listedMinor: number }[];
    best: number | null;
    currency: string | null;
    seen: number;
  } | null;
  order: string | null;
}

export interface PlanView extends BidPlan {
  brief: { id: number; name: string; currency: string; budgetMinor: number | null; feesMinor: number };
  risk: Risk;
  heldBeforeMinor: number;
  leftMinor: number;
  turns: Record<number, { lost: Turn; won: Turn }>;
  entries: Entry[];
  sales: { count: number; from: number | null; to: number | null };
}
