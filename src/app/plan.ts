import { beliefOfRange } from '../core/bids/belief';
import { type Candidate, type Offer, planBids, type Risk, type Turn, turnsOf } from '../core/bids/plan';
import { type AuctionHabit, habitOf, rivalsOf } from '../core/bids/rivals';
import { isOpen, nextStep, priceAt } from '../core/listings/listing';
import { homeMinor, type Rates, rateOf } from '../core/listings/rates';
import { type SuggestedBid, suggestedBid } from '../core/orders/suggested-bid';
import type { Brief } from '../store/briefs';
import { readRates, type Store } from '../store/database';
import { endedAuctions, listingsOf, type StoredListing } from '../store/listings';
import { salesKnown } from '../store/sales';
import { readShortlist, type ShortlistEntry } from '../store/shortlist';
import { money } from '../ui/format';
import { getEngine } from './server';

type Entry = ReturnType<typeof readShortlist>[number];

/** A shortlisted domain as the plan sees it. */
export interface PlanEntry
  extends Pick<ShortlistEntry, 'maximumBidMinor' | 'worthLowMinor' | 'worthHighMinor' | 'feesMinor' | 'stage'> {
  id: number;
  name: string;
  display: string;
  /** How it can be had, in words; null: no way is known. */
  offer: string | null;
  /** What is assumed of others, and from what. */
  others: string | null;
  /** What names like it brought, and which; null: too few sales are known. */
  resale: Suggestion | null;
}

/** A worth by sales, in the brief's currency. */
export interface Suggestion {
  lowMinor: number;
  highMinor: number;
  near: { name: string; priceMinor: number; at: number; distance: number; adjustedMinor: number }[];
}

/** The highest bid that leaves a brief's margin, with the steps to it; null: its worth is not said. In minor units of the brief's currency. */
export function suggestionFor(
  brief: Brief,
  { worthLowMinor, worthHighMinor, feesMinor }: Pick<ShortlistEntry, 'worthLowMinor' | 'worthHighMinor' | 'feesMinor'>,
): SuggestedBid | null {
  if (!worthLowMinor || !worthHighMinor) return null;
  return suggestedBid({
    worth: beliefOfRange(worthLowMinor, worthHighMinor),
    risk: brief.risk,
    margin: brief.marginPercent / 100,
    feesMinor: feesMinor ?? brief.feesMinor,
    renewalMinor: brief.renewalMinor,
    months: brief.months,
    interest: brief.interestPercent / 100,
  });
}

const NEAR_TOLD = 5;

async function suggestionsFor(names: string[], priced: ReturnType<typeof inCurrency>): Promise<(Suggestion | null)[]> {
  // the engine judges; while it starts, nothing is suggested
  const worths = await getEngine()
    .resaleWorth(names)
    .catch(() => names.map(() => null));
  const own = (minor: number) => priced(minor, null) ?? minor;
  return worths.map(
    (worth) =>
      worth && {
        lowMinor: own(worth.lowMinor),
        highMinor: own(worth.highMinor),
        near: worth.near.slice(0, NEAR_TOLD).map(({ sale, distance, adjustedMinor }) => ({
          name: sale.name,
          priceMinor: own(sale.priceMinor),
          at: sale.at,
          distance: Math.round(distance * 100) / 100,
          adjustedMinor: own(adjustedMinor),
        })),
      },
  );
}

const TURNS_TOLD = 3;
const DONE = new Set(['had', 'let go']);
/** Held already: what was bid or is owned. */
const HELD = new Set(['had', 'waiting']);
/** How sure one is to be the first where a price is just paid. */
const QUICK = { 'buy-now': 0.9, falling: 0.8, free: 0.95, backorder: 0.4 } as const;

/**
 * The plan for a brief's shortlist. Amounts in minor units of the brief's currency.
 *
 * @param risk another than the brief's, to see what it would change.
 */
export async function planFor(store: Store, brief: Brief, risk: Risk = brief.risk) {
  const now = store.now();
  const circumstances = circumstancesOf(store, brief, now);
  const { priced } = circumstances;
  const shortlist = readShortlist(store, brief.id);
  const heldMinor = shortlist
    .filter(({ stage }) => HELD.has(stage))
    .reduce((sum, { maximumBidMinor }) => sum + (maximumBidMinor ?? 0), 0);
  const leftMinor = Math.max(0, (brief.budgetMinor ?? 0) - heldMinor);
  const open = shortlist.filter(({ stage }) => !DONE.has(stage) && stage !== 'waiting');
  const ways = open.map((entry) => ({ entry, way: wayOf(store, entry, circumstances) }));
  const suggested = await suggestionsFor(
    open.map(({ domain }) => domain.name),
    priced,
  );
  const candidates = ways.flatMap(({ entry, way }): Candidate[] => {
    const { worthLowMinor, worthHighMinor } = entry;
    if (!way || !worthLowMinor || !worthHighMinor) return [];
    return [
      {
        id: entry.domainId,
        name: entry.domain.name,
        worth: beliefOfRange(worthLowMinor, worthHighMinor),
        offer: way.offer,
        feesMinor: entry.feesMinor ?? brief.feesMinor,
        capMinor: entry.maximumBidMinor,
      },
    ];
  });
  const plan = planBids(candidates, leftMinor, risk);
  const turns: Record<number, { lost: Turn; won: Turn }> = {};
  for (const { id, isIn } of plan.bids.slice(0, TURNS_TOLD))
    if (isIn) turns[id] = turnsOf(candidates, leftMinor, risk, plan, id);
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
    entries: ways.map(({ entry, way }, n): PlanEntry => {
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
        offer: way?.words ?? null,
        others: way?.others ?? null,
        resale: suggested[n],
      };
    }),
  };
}

export type PlanView = Awaited<ReturnType<typeof planFor>>;

/** Converts an offer's price to the brief's currency; null: a rate is missing. */
function inCurrency(rates: Rates, currency: string): (minor: number | null, from: string | null) => number | null {
  const own = rateOf(currency, rates);
  return (minor, from) => {
    const home = homeMinor(minor, from, rates);
    return home === null || own === null ? null : Math.round(home / own);
  };
}

interface Way {
  offer: Offer;
  words: string;
  others: string | null;
}

function circumstancesOf(store: Store, brief: Brief, now: number): Circumstances {
  const habits = new Map<number, AuctionHabit>();
  const habit = (sourceId: number) => {
    const known = habits.get(sourceId) ?? habitOf(endedAuctions(store, sourceId));
    habits.set(sourceId, known);
    return known;
  };
  return { now, priced: inCurrency(readRates(store), brief.currency), habit };
}

/** How each of a shortlist is to be had, and what is assumed of others; null: no way is known. */
export function waysFor(
  store: Store,
  brief: Brief,
  entries: readonly Entry[],
): (Pick<Way, 'words' | 'others'> | null)[] {
  const circumstances = circumstancesOf(store, brief, store.now());
  return entries.map((entry) => wayOf(store, entry, circumstances));
}

interface Circumstances {
  now: number;
  priced: ReturnType<typeof inCurrency>;
  habit(sourceId: number): AuctionHabit;
}

const shown = (minor: number) => money(minor, null);

/** The best way to have a domain: the cheapest price that is just paid, else an auction, else its registration. */
function wayOf(store: Store, { domain }: Entry, circumstances: Circumstances): Way | null {
  const { now } = circumstances;
  const open = listingsOf(store, domain.id).filter((listing) => isOpen(listing, now));
  const ways = open.flatMap((listing) => wayOfListing(listing, circumstances) ?? []);
  const fixed = ways.filter(({ offer }) => offer.kind === 'fixed').sort((a, b) => costOf(a) - costOf(b));
  if (domain.phase === 'free')
    return {
      offer: { kind: 'fixed', priceMinor: 0, chance: QUICK.free, until: null },
      words: 'free: register it',
      others: null,
    };
  return ways.find(({ offer }) => offer.kind === 'auction') ?? fixed[0] ?? null;
}

const costOf = ({ offer }: Way) => (offer.kind === 'fixed' ? offer.priceMinor : offer.rivals.floorMinor);

function wayOfListing(listing: StoredListing, { now, priced, habit }: Circumstances): Way | null {
  const priceMinor = priced(priceAt(listing, now), listing.currency);
  if (priceMinor === null) return null;
  const at = `at ${listing.venue ?? 'a venue'}`;
  switch (listing.kind) {
    case 'auction':
    case 'expired-auction': {
      const learned = habit(listing.sourceId);
      const rivals = rivalsOf({ priceMinor, bids: listing.bids }, learned);
      return {
        offer: { kind: 'auction', rivals, closingAt: listing.closingAt },
        words: `auction ${at}, now ${shown(priceMinor)}, ${listing.bids === 1 ? '1 bid' : `${listing.bids ?? 0} bids`}`,
        others: `others to about ${shown(Math.round(rivals.highest.medianMinor / 100) * 100)}, ${learned.auctions === 0 ? 'assumed: none of its auctions was seen to end' : `by ${learned.auctions} of its auctions`}`,
      };
    }
    case 'buy-now':
      return fixedWay(`buy now ${at} for ${shown(priceMinor)}`, priceMinor, QUICK['buy-now'], listing.closingAt);
    case 'falling':
      return fixedWay(
        `falling price ${at}, now ${shown(priceMinor)}`,
        priceMinor,
        QUICK.falling,
        nextStep(listing, now)?.at ?? null,
      );
    case 'backorder':
      return fixedWay(`backorder ${at} for ${shown(priceMinor)}`, priceMinor, QUICK.backorder, listing.closingAt);
    case 'offer':
      return null;
  }
}

function fixedWay(words: string, priceMinor: number, chance: number, until: number | null): Way {
  return {
    offer: { kind: 'fixed', priceMinor, chance, until },
    words,
    others: `${Math.round(100 * chance)}% sure to be the first, assumed`,
  };
}
