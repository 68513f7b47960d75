import type { Maximum } from '../../core/bids/maximum';
import type { BidPlan, Turn } from '../../core/bids/plan';
import type { Risk } from '../../core/bids/risk';
import type { WeighedWay } from '../../core/bids/weighed-way';

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
  /** The cheapest in all first. */
  ways: WeighedWay[];
  /** Which of them the plan takes, or would; null: no way is known. */
  way: number | null;
  /** The most to pay by that way, with the steps to it; null: its worth is not said. */
  maximum: Maximum | null;
  /** That, as far as the budget and the person's own maximum allow. */
  mostMinor: number | null;
  /** What should be known before money moves. */
  concerns: string[];
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
