import type { PlanEntry } from '../../contracts/plan';
import type { Maximum } from '../../core/bids/maximum';
import type { PlannedBid, Turn } from '../../core/bids/plan';
import type { WeighedWay } from '../../core/bids/weighed-way';
import type { DomainView } from '../../core/pool/domain-view';
import { money } from '../../core/wording/format';
import type { FitView } from '../fit-bar';
import { STAGE_STEPS, type StageName } from './stages';

/** A shortlisted domain with what its screen tells of it. Amounts in minor units of the brief's currency. */
export interface Entry {
  domainId: number;
  briefId: number;
  stage: StageName;
  maximumBidMinor: number | null;
  worthLowMinor: number | null;
  worthHighMinor: number | null;
  feesMinor: number | null;
  note: string;
  addedAt: number;
  addedBy: string;
  domain: DomainView;
  fit: FitView & { first: number };
  /** The most to pay, with the steps to it; null: its worth is not said. */
  maximum: Maximum | null;
  /** That, as far as the budget and the person's own maximum allow. */
  mostMinor: number | null;
  tags: string[];
  notes: { count: number; last: string | null; lastAt: number | null };
  /** Other briefs that have it on their shortlist. */
  alsoIn: string[];
  /** How it is to be had, the cheapest in all first, and which of them the plan takes, or would; null: no way is known. */
  ways: WeighedWay[];
  way: number | null;
  /** Where its last order stands. */
  order: string | null;
  /** The oldest of what it is judged by, ms; null: nothing was asked. */
  oldestAt: number | null;
  /** What the plan says of it; null: it cannot be planned, or is decided. */
  bid: PlannedBid | null;
  /** What the plan becomes when it is lost, and when it is won; null: not among the first that are decided. */
  turn: { lost: Turn; won: Turn } | null;
  /** What speaks for its worth and against it; null: it is decided. */
  planned: PlanEntry | null;
  /** When its way ends or it drops, ms; null: at no time. */
  decidedAt: number | null;
}

export type EntryChange = Partial<
  Pick<Entry, 'stage' | 'maximumBidMinor' | 'note' | 'worthLowMinor' | 'worthHighMinor' | 'feesMinor'>
>;

export const wayOf = ({ ways, way }: Pick<Entry, 'ways' | 'way'>): WeighedWay | null =>
  way === null ? null : ways[way];

/** What a way costs beside its fees: the least bid, the price. In minor units of the brief's currency; null: not said. */
export const priceOf = (way: Pick<WeighedWay, 'costMinor' | 'feesMinor'> | null): number | null =>
  way === null || way.costMinor === null ? null : Math.max(0, way.costMinor - way.feesMinor);

const round = (minor: number, currency: string) => money(Math.round(minor / 100) * 100, currency);

/** What is to be done next about a name, in few words. */
export function nextWords(entry: Entry, currency: string): string {
  const { stage, order, bid, maximum, mostMinor } = entry;
  const way = wayOf(entry);
  const price = priceOf(way);
  if (order !== null) {
    const isMore = order.startsWith('outbid') && mostMinor !== null && price !== null && mostMinor >= price;
    return isMore ? `outbid: up to ${round(mostMinor, currency)} pays` : order;
  }
  if (stage === 'had' || stage === 'let go' || stage === 'waiting') return stepOf(stage);
  if (way === null) return 'no way to have it is known';
  if (way.refusal !== null) return way.refusal;
  if (maximum === null) return 'say what it is worth to you';
  if (bid === null) return stepOf(stage);
  if (!bid.isIn) {
    if (maximum.maximumMinor <= 0) return 'not worth its fees';
    if (price !== null && entry.maximumBidMinor !== null && price > entry.maximumBidMinor) return 'over your maximum';
    if (price !== null && price > maximum.maximumMinor) return `${round(price, currency)}, over its maximum`;
    return 'left out: others bring more';
  }
  const chance = `${Math.round(100 * bid.winChance)}%`;
  const brings = `brings ${round(bid.surplusMinor, currency)}`;
  return way.kind === 'bid' ? `${chance} to win, ${brings}` : `${chance} to be had, ${brings}`;
}

const stepOf = (stage: StageName): string => STAGE_STEPS.find(([name]) => name === stage)?.[1] ?? '';
