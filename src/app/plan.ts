import { beliefOfRange, outlookOf } from '../core/bids/belief';
import { type Candidate, type Offer, planBids, type Risk, type Turn, turnsOf } from '../core/bids/plan';
import { type AuctionHabit, habitOf, rivalsOf } from '../core/bids/rivals';
import { tenths } from '../core/formats/figures';
import { widened } from '../core/learning/calibration';
import { isOpen, nextStep, priceAt } from '../core/listings/listing';
import { fallingHabitOf, fallingOutlook } from '../core/orders/falling';
import type { OrderKind } from '../core/orders/order';
import { costOf } from '../core/orders/order';
import { type SuggestedBid, suggestedBid } from '../core/orders/suggested-bid';
import { type Brief, listBriefs } from '../store/briefs';
import type { Settings } from '../store/config';
import { readRates, readSettings, type Store } from '../store/database';
import { type DomainRow, readDomains } from '../store/domains';
import { endedAuctions, endedFalling, listingsOf, type StoredListing } from '../store/listings';
import { commitment, listOrders, type OrderEstimates } from '../store/orders';
import { salesKnown } from '../store/sales';
import { readShortlist, type ShortlistEntry } from '../store/shortlist';
import { money } from '../ui/format';
import { standing } from '../ui/orders/words';
import { inCurrency } from './currency';
import { orderViews } from './orders';
import { getEngine } from './server';
import { rebuildFor, redirectFor } from './worth';

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
  /** What it would bring in the other ways that the brief is for. */
  uses: UseWorth[];
  /** The highest bid that leaves the brief's margin, with the way to it; null: its worth is not said. */
  suggested: SuggestedBid | null;
  /** Of a falling price: what each step would bring, and which is the best. */
  falling: FallingAdvice | null;
  /** Where its last order stands, in words. */
  order: string | null;
}

/** A worth by what it would be used for, in the brief's currency. */
export interface UseWorth {
  use: 'rebuild' | 'redirect';
  lowMinor: number;
  highMinor: number;
  /** What it rests on, in a sentence, and how old that is. */
  words: string;
  rows: { what: string; detail: string; minor: number }[];
}

/** When to buy at a falling price; amounts in the brief's currency, but the price that an order names. */
export interface FallingAdvice {
  venue: string;
  steps: { at: number; priceMinor: number; chanceThere: number; expectedMinor: number; listedMinor: number }[];
  best: number | null;
  currency: string | null;
  /** Listings of the venue it is estimated from. */
  seen: number;
}

const ROWS_TOLD = 8;

/** What a domain would bring by visits or links, where the brief is for that. */
async function usesOf(store: Store, row: DomainRow, brief: Brief): Promise<UseWorth[]> {
  const wants = (purpose: 'rebuild' | 'redirect') => brief.purpose === purpose || (brief.mix?.[purpose] ?? 0) > 0;
  const uses: UseWorth[] = [];
  const rebuilt = wants('rebuild') ? rebuildFor(store, row, brief) : null;
  if (rebuilt && rebuilt.lowMinor > 0)
    uses.push({
      use: 'rebuild',
      lowMinor: rebuilt.lowMinor,
      highMinor: rebuilt.highMinor,
      words: `${Math.round(rebuilt.keptVisits)} of ${Math.round(rebuilt.visits)} visits a month would come back (${Math.round(100 * rebuilt.byTime)}% by ${tenths(rebuilt.yearsOff)} years off line, ${Math.round(100 * rebuilt.byDrift)}% by drift, the rest by competition); ${brief.assumptions.earningMonths} months of them; estimates of ${rebuilt.sources.join(', ')}`,
      rows: rebuilt.phrases.slice(0, ROWS_TOLD).map(({ phrase, position, searches, keptVisits, monthMinor }) => ({
        what: phrase,
        detail: `place ${position}, ${searches} searches, ${tenths(keptVisits)} visits back`,
        minor: Math.round(monthMinor),
      })),
    });
  const redirected = wants('redirect') ? await redirectFor(store, row, brief) : null;
  if (redirected && redirected.lowMinor > 0)
    uses.push({
      use: 'redirect',
      lowMinor: redirected.lowMinor,
      highMinor: redirected.highMinor,
      words: `${redirected.ofSubject} of ${redirected.referrers.length} effective referrers are of the subject, of ${redirected.notTold} it is not told; ${brief.assumptions.carryPercent}% of a link is carried over`,
      rows: redirected.referrers.slice(0, ROWS_TOLD).map(({ site, strength, weight, isOfSubject, worthMinor }) => ({
        what: site,
        detail: `strength ${strength === null ? 'not measured' : tenths(strength)}, counts ${weight.toFixed(2)}, ${isOfSubject === null ? 'subject not told' : isOfSubject ? 'of the subject' : 'of another'}`,
        minor: Math.round(worthMinor),
      })),
    });
  return uses;
}

/** @param pricedAt converts an amount to the brief's currency. */
function fallingAdvice(
  store: Store,
  entry: Entry,
  { now, priced }: Circumstances,
  feesMinor: number,
): FallingAdvice | null {
  const listing = listingsOf(store, entry.domainId).find(
    (one) => one.kind === 'falling' && isOpen(one, now) && one.steps.length > 0,
  );
  const { worthLowMinor, worthHighMinor } = entry;
  if (!listing || !worthLowMinor || !worthHighMinor) return null;
  const steps = listing.steps.map(({ at, priceMinor }) => ({
    at,
    priceMinor: priced(priceMinor, listing.currency) ?? priceMinor,
  }));
  const ended = endedFalling(store, listing.sourceId);
  const outlook = fallingOutlook(
    steps,
    now,
    beliefOfRange(worthLowMinor, worthHighMinor),
    feesMinor,
    fallingHabitOf(ended),
  );
  return {
    venue: listing.venue ?? 'a venue',
    steps: outlook.steps.map(({ at, priceMinor, chanceThere, expectedMinor, step }) => ({
      at,
      priceMinor,
      chanceThere,
      expectedMinor,
      listedMinor: listing.steps[step].priceMinor,
    })),
    best: outlook.best,
    currency: listing.currency,
    seen: ended.length,
  };
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

async function suggestionsFor(
  names: string[],
  priced: ReturnType<typeof inCurrency>,
  rangeFactor: number,
): Promise<(Suggestion | null)[]> {
  // the engine judges; while it starts, nothing is suggested
  const worths = await getEngine()
    .resaleWorth(names)
    .catch(() => names.map(() => null));
  const own = (minor: number) => priced(minor, null) ?? minor;
  return worths.map(
    (worth) =>
      worth && {
        ...widened({ lowMinor: own(worth.lowMinor), highMinor: own(worth.highMinor) }, rangeFactor),
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
  // what was ordered is in the accounts; what was dealt with elsewhere counts by its maximum
  const latest = new Map(
    listOrders(store, brief.id)
      .filter(({ state }) => state !== 'dry')
      .reverse()
      .map((order) => [order.domainId, order]),
  );
  const booked = costOf(commitment(store, brief.id));
  const heldMinor = shortlist
    .filter(({ stage, domainId }) => HELD.has(stage) && !latest.has(domainId))
    .reduce((sum, { maximumBidMinor }) => sum + (maximumBidMinor ?? 0), booked);
  const leftMinor = Math.max(0, (brief.budgetMinor ?? 0) - heldMinor);
  const open = shortlist.filter(({ stage }) => !DONE.has(stage) && stage !== 'waiting');
  const ways = open.map((entry) => {
    const falling = fallingAdvice(store, entry, circumstances, entry.feesMinor ?? brief.feesMinor);
    return { entry, falling, way: atBestStep(wayOf(store, entry, circumstances), falling, circumstances) };
  });
  const uses = await Promise.all(open.map(({ domain }) => usesOf(store, domain, brief)));
  const suggested = await suggestionsFor(
    open.map(({ domain }) => domain.name),
    priced,
    readSettings(store).rangeFactor,
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
    entries: ways.map(({ entry, way, falling }, n): PlanEntry => {
      const order = latest.get(entry.domainId);
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
        uses: uses[n],
        suggested: suggestionFor(brief, entry),
        falling,
        order: order ? standing(orderViews(store, [order])[0]) : null,
      };
    }),
  };
}

export type PlanView = Awaited<ReturnType<typeof planFor>>;

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
  return { now, chances: readSettings(store).chances, priced: inCurrency(readRates(store), brief.currency), habit };
}

/** What is thought of an order before it is given: the chance to win at its amount, and the worth; in the order's currency. */
export function estimatesFor(
  store: Store,
  briefId: number,
  domainId: number,
  { venue, kind, amountMinor }: { venue: string; kind: OrderKind; amountMinor: number },
): OrderEstimates {
  const brief = listBriefs(store).find(({ id }) => id === briefId);
  const entry = brief && readShortlist(store, briefId).find((one) => one.domainId === domainId);
  const [row] = readDomains(store, [domainId]);
  if (!brief || !row) return {};
  const circumstances = circumstancesOf(store, brief, store.now());
  const { priced, now } = circumstances;
  const listing = listingsOf(store, domainId).find((one) => one.venue === venue && isOpen(one, now));
  const way = listing ? wayOfListing(listing, circumstances) : null;
  const unit = priced(1_000_000, listing?.currency ?? null) ?? 1_000_000;
  const there = (minor: number) => Math.round((minor * 1_000_000) / unit);
  const estimates: OrderEstimates = {};
  if (entry?.worthLowMinor && entry.worthHighMinor) {
    estimates.worthLowMinor = there(entry.worthLowMinor);
    estimates.worthHighMinor = there(entry.worthHighMinor);
  }
  if (kind === 'register') estimates.winChance = circumstances.chances.free;
  else if (way?.offer.kind === 'auction' && kind === 'bid')
    estimates.winChance = outlookOf(
      priced(amountMinor, listing?.currency ?? null) ?? amountMinor,
      way.offer.rivals,
    ).winChance;
  else if (way?.offer.kind === 'fixed') estimates.winChance = way.offer.chance;
  return estimates;
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
  /** How sure one is to be the first where a price is just paid. */
  chances: Settings['chances'];
  priced: ReturnType<typeof inCurrency>;
  habit(sourceId: number): AuctionHabit;
}

const shown = (minor: number) => money(minor, null);

/** The best way to have a domain: the cheapest price that is just paid, else an auction, else its registration. */
function wayOf(store: Store, { domain }: Entry, circumstances: Circumstances): Way | null {
  const { now } = circumstances;
  const open = listingsOf(store, domain.id).filter((listing) => isOpen(listing, now));
  const ways = open.flatMap((listing) => wayOfListing(listing, circumstances) ?? []);
  const fixed = ways.filter(({ offer }) => offer.kind === 'fixed').sort((a, b) => leastOf(a) - leastOf(b));
  if (domain.phase === 'free')
    return {
      offer: { kind: 'fixed', priceMinor: 0, chance: circumstances.chances.free, until: null },
      words: 'free: register it',
      others: null,
    };
  return ways.find(({ offer }) => offer.kind === 'auction') ?? fixed[0] ?? null;
}

const leastOf = ({ offer }: Way) => (offer.kind === 'fixed' ? offer.priceMinor : offer.rivals.floorMinor);

function wayOfListing(listing: StoredListing, { now, chances, priced, habit }: Circumstances): Way | null {
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
        others: `${listing.watchers ? `${listing.watchers} watch it, ` : ''}others to about ${shown(Math.round(rivals.highest.medianMinor / 100) * 100)}, ${learned.auctions === 0 ? 'assumed: none of its auctions was seen to end' : `by ${learned.auctions} of its auctions`}`,
      };
    }
    case 'buy-now':
      return fixedWay(
        `buy now ${at} for ${shown(priceMinor)}`,
        priceMinor,
        chances.buyNow,
        listing.closingAt,
        listing.watchers,
      );
    case 'falling':
      return fixedWay(
        `falling price ${at}, now ${shown(priceMinor)}`,
        priceMinor,
        chances.falling,
        nextStep(listing, now)?.at ?? null,
        listing.watchers,
      );
    case 'backorder':
      return fixedWay(
        `backorder ${at} for ${shown(priceMinor)}`,
        priceMinor,
        chances.backorder,
        listing.closingAt,
        listing.watchers,
      );
    case 'offer':
      return null;
  }
}

/** A falling price is bought at its best step, where that is said. */
function atBestStep(way: Way | null, falling: FallingAdvice | null, { chances }: Circumstances): Way | null {
  if (!way || !falling || falling.best === null || !way.words.startsWith('falling')) return way;
  const { at, priceMinor, chanceThere } = falling.steps[falling.best];
  const chance = Math.min(chances.falling, chanceThere);
  // what runs now is decided before it falls further
  const until = falling.best === 0 ? (falling.steps[1]?.at ?? null) : at;
  return { ...way, offer: { kind: 'fixed', priceMinor, chance, until } };
}

function fixedWay(
  words: string,
  priceMinor: number,
  chance: number,
  until: number | null,
  watchers: number | null | undefined,
): Way {
  return {
    offer: { kind: 'fixed', priceMinor, chance, until },
    words,
    others: `${watchers ? `${watchers} watch it, ` : ''}${Math.round(100 * chance)}% sure to be the first, assumed`,
  };
}
