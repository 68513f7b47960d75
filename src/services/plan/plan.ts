import type { EnginePort } from '../../contracts/engine-port';
import type { PlanEntry } from '../../contracts/plan';
import type { Maximum } from '../../core/bids/maximum';
import { type BidPlan, type Candidate, planBids, type Turn, turnsOf } from '../../core/bids/plan';
import type { Risk } from '../../core/bids/risk';
import type { ShortlistEntry } from '../../core/bids/shortlist-entry';
import type { WeighedWay } from '../../core/bids/weighed-way';
import { costOf } from '../../core/orders/order';
import { standing } from '../../core/wording/orders';
import type { Store } from '../../store/base/database';
import { readRates, readSettings } from '../../store/base/settings';
import { salesKnown } from '../../store/offers/sales';
import { commitment } from '../../store/orders/commitments';
import { listOrders, type Order } from '../../store/orders/order-rows';
import type { Brief } from '../../store/shortlist/briefs';
import { readShortlist } from '../../store/shortlist/shortlist';
import { concernsOf } from '../dossier/concerns';
import { orderViews } from '../orders/orders';
import { buyTerms, maximumFor, waysFor, worthOf } from '../orders/ways';
import { inCurrency } from './currency';
import { resaleFor, usesOf } from './plan-worth';

type Entry = ReturnType<typeof readShortlist>[number];

const TURNS_TOLD = 3;
const DONE: ReadonlySet<string> = new Set(['had', 'let go']);
/** Held already: what was bid or is owned. */
const HELD: ReadonlySet<string> = new Set(['had', 'waiting']);

/** A shortlisted domain with all ways to have it and the most to pay. */
export interface ReckonedEntry {
  entry: Entry;
  ways: WeighedWay[];
  /** The way that a plan takes, or would; else the cheapest. */
  way: WeighedWay | null;
  /** The most to pay by that way; null: its worth is not said. */
  maximum: Maximum | null;
  /** The one figure that is bid or paid at most: as far as the budget and the person's own maximum allow; null: not said. */
  mostMinor: number | null;
  order: Order | null;
}

export interface Reckoned {
  entries: ReckonedEntry[];
  candidates: Candidate[];
  plan: BidPlan;
  heldMinor: number;
  leftMinor: number;
}

/**
 * The one reckoning of a brief's shortlist, from which plan, shortlist and orders take their figures. Amounts in minor units of the
 * brief's currency.
 */
export function reckon(store: Store, brief: Brief, risk: Risk = brief.risk): Reckoned {
  const shortlist = readShortlist(store, brief.id);
  const allWays = waysFor(
    store,
    brief,
    shortlist.map((entry) => ({ domain: entry.domain, said: entry })),
    risk,
  );
  // what was ordered is in the accounts; what was dealt with elsewhere counts by its maximum
  const latest = new Map(
    listOrders(store, brief.id)
      .filter(({ state }) => state !== 'dry')
      .reverse()
      .map((order) => [order.domainId, order]),
  );
  const heldMinor = shortlist
    .filter(({ stage, domainId }) => HELD.has(stage) && !latest.has(domainId))
    .reduce((sum, { maximumBidMinor }) => sum + (maximumBidMinor ?? 0), costOf(commitment(store, brief.id)));
  const leftMinor = Math.max(0, (brief.budgetMinor ?? 0) - heldMinor);
  const weighable = allWays.map((ways) => ways.filter(({ offer }) => offer !== null));
  const candidates = shortlist.flatMap((entry, n): Candidate[] => {
    const worth = worthOf(entry);
    const offers = weighable[n].flatMap(({ offer }) => offer ?? []);
    if (!isOpen(entry) || worth === null || offers.length === 0) return [];
    return [{ id: entry.domainId, name: entry.domain.name, worth, offers, capMinor: entry.maximumBidMinor }];
  });
  const plan = planBids(candidates, leftMinor, buyTerms(brief, risk));
  const bids = new Map(plan.bids.map((bid) => [bid.id, bid]));
  const entries = shortlist.map((entry, n): ReckonedEntry => {
    const bid = bids.get(entry.domainId);
    const way = bid ? weighable[n][bid.offer] : (allWays[n][0] ?? null);
    const maximum = bid?.maximum ?? maximumFor(brief, entry, way, risk);
    const most = [maximum?.maximumMinor, entry.maximumBidMinor].filter((minor) => minor != null);
    return {
      entry,
      ways: allWays[n],
      way,
      maximum,
      mostMinor: bid?.bidMinor ?? (most.length > 0 ? Math.min(...most) : null),
      order: latest.get(entry.domainId) ?? null,
    };
  });
  return { entries, candidates, plan, heldMinor, leftMinor };
}

const isOpen = ({ stage }: Pick<ShortlistEntry, 'stage'>) => !DONE.has(stage) && stage !== 'waiting';

/**
 * The plan for a brief's shortlist. Amounts in minor units of the brief's currency.
 *
 * @param risk another than the brief's, to see what it would change.
 * @param reckoned the shortlist's reckoning for that risk, where it is made already.
 */
export async function planFor(
  store: Store,
  engine: EnginePort,
  brief: Brief,
  risk: Risk = brief.risk,
  reckoned: Reckoned = reckon(store, brief, risk),
) {
  const { entries, candidates, plan, heldMinor, leftMinor } = reckoned;
  const open = entries.filter(({ entry }) => isOpen(entry));
  const uses = await Promise.all(open.map(({ entry }) => usesOf(store, engine, entry.domain, brief)));
  const resale = await resaleFor(
    engine,
    open.map(({ entry }) => entry.domain.name),
    inCurrency(readRates(store), brief.currency),
    readSettings(store).rangeFactor,
  );
  const turns: Record<number, { lost: Turn; won: Turn }> = {};
  for (const { id, isIn } of plan.bids.slice(0, TURNS_TOLD))
    if (isIn) turns[id] = turnsOf(candidates, leftMinor, buyTerms(brief, risk), plan, id);
  return {
    brief: {
      id: brief.id,
      name: brief.name,
      currency: brief.currency,
      budgetMinor: brief.budgetMinor,
      feesMinor: brief.feesMinor,
    },
    risk,
    heldBeforeMinor: heldMinor,
    leftMinor,
    ...plan,
    turns,
    sales: salesKnown(store),
    entries: open.map(({ entry, ways, way, maximum, mostMinor, order }, n): PlanEntry => {
      const { domainId, stage, maximumBidMinor, worthLowMinor, worthHighMinor, feesMinor, domain } = entry;
      return {
        id: domainId,
        name: domain.name,
        display: domain.name,
        stage,
        maximumBidMinor,
        worthLowMinor,
        worthHighMinor,
        feesMinor,
        ways,
        way: way === null ? null : ways.indexOf(way),
        maximum,
        mostMinor,
        concerns: concernsOf(store, domain, brief.limits),
        resale: resale[n],
        uses: uses[n],
        order: order ? standing(orderViews(store, [order])[0]) : null,
      };
    }),
  };
}
