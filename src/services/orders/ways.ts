import { beliefOfRange, outlookOf } from '../../core/bids/belief';
import { type BuyTerms, type Maximum, maximumOf, presentWorth, renewalsUntilSold } from '../../core/bids/maximum';
import type { Risk } from '../../core/bids/risk';
import { type AuctionHabit, habitOf, rivalsOf } from '../../core/bids/rivals';
import type { ShortlistEntry } from '../../core/bids/shortlist-entry';
import type { FallingAdvice, WeighedWay } from '../../core/bids/weighed-way';
import { fallingHabitOf, fallingOutlook } from '../../core/orders/falling';
import type { OrderKind } from '../../core/orders/order';
import { cheapestFirst, type Way, type WayTerms } from '../../core/orders/ways';
import type { Settings } from '../../core/settings/settings';
import type { Store } from '../../store/base/database';
import { readRates, readSettings } from '../../store/base/settings';
import { type DomainRow, readDomains } from '../../store/domains/domains';
import { endedAuctions, endedFalling } from '../../store/offers/listing-changes';
import { listingsOf, type StoredListing } from '../../store/offers/listings';
import { knownWays } from '../../store/offers/ways';
import type { OrderEstimates } from '../../store/orders/order-log';
import { type Brief, listBriefs } from '../../store/shortlist/briefs';
import { shortlistedFor } from '../../store/shortlist/shortlist';
import { inCurrency } from '../plan/currency';

/** What a person says a name is worth, and pays beside its price. */
export type Said = Pick<ShortlistEntry, 'worthLowMinor' | 'worthHighMinor' | 'feesMinor'>;
const NOTHING_SAID: Said = { worthLowMinor: null, worthHighMinor: null, feesMinor: null };

/** What a brief asks of a name it buys. */
export function buyTerms(brief: Brief, risk: Risk = brief.risk): BuyTerms {
  return {
    risk,
    margin: brief.marginPercent / 100,
    renewalMinor: brief.renewalMinor,
    months: brief.months,
    interest: brief.interestPercent / 100,
  };
}

export function worthOf({ worthLowMinor, worthHighMinor }: Said) {
  return worthLowMinor && worthHighMinor ? beliefOfRange(worthLowMinor, worthHighMinor) : null;
}

/** The most to pay in a way, with the steps to it; null: what it is worth is not said. In minor units of the brief's currency. */
export function maximumFor(brief: Brief, said: Said, way: WeighedWay | null, risk: Risk = brief.risk): Maximum | null {
  const worth = worthOf(said);
  if (worth === null) return null;
  const offer = way?.offer ?? null;
  const feesMinor = offer?.feesMinor ?? said.feesMinor ?? brief.feesMinor;
  return maximumOf(worth, buyTerms(brief, risk), feesMinor, offer?.kind === 'auction' ? offer.rivals : null);
}

interface Circumstances {
  store: Store;
  brief: Brief;
  now: number;
  /** How sure one is to be the first where a price is just paid. */
  chances: Settings['chances'];
  terms: BuyTerms;
  priced: WayTerms['priced'];
  habit(sourceId: number): AuctionHabit;
}

function circumstancesOf(store: Store, brief: Brief, risk: Risk): Circumstances {
  const habits = new Map<number, AuctionHabit>();
  const habit = (sourceId: number) => {
    const known = habits.get(sourceId) ?? habitOf(endedAuctions(store, sourceId));
    habits.set(sourceId, known);
    return known;
  };
  return {
    store,
    brief,
    now: store.now(),
    chances: readSettings(store).chances,
    terms: buyTerms(brief, risk),
    priced: inCurrency(readRates(store), brief.currency),
    habit,
  };
}

/** All ways to have each of some domains for a brief, the cheapest in all first. The one place that plan, shortlist and review take them from. */
export function waysFor(
  store: Store,
  brief: Brief,
  domains: readonly { domain: DomainRow; said?: Said }[],
  risk: Risk = brief.risk,
): WeighedWay[][] {
  const circumstances = circumstancesOf(store, brief, risk);
  return domains.map(({ domain, said = NOTHING_SAID }) => {
    const listings = listingsOf(store, domain.id);
    const terms = {
      priced: circumstances.priced,
      feesMinor: said.feesMinor ?? brief.feesMinor,
      homeCurrency: readRates(store).home,
    };
    return cheapestFirst(knownWays(store, domain, brief, terms)).map((way) =>
      weighed(way, listings, said, circumstances),
    );
  });
}

function weighed(way: Way, listings: readonly StoredListing[], said: Said, given: Circumstances): WeighedWay {
  const listing = listings.find(
    ({ venue, sourceName, kind }) => (venue ?? sourceName) === way.venue && kind === way.offered,
  );
  const priceMinor = given.priced(way.priceMinor, way.currency);
  const none = { ...way, offer: null, others: null, falling: null };
  if (priceMinor === null) return none;
  const { feesMinor, watchers } = way;
  const fixed = (chance: number, until: number | null): WeighedWay => ({
    ...none,
    offer: { kind: 'fixed', feesMinor, priceMinor, chance, until },
    others: { watchers, toMinor: null, auctions: 0, firstShare: chance },
  });
  switch (way.offered) {
    case 'auction':
    case 'expired-auction': {
      if (!listing) return none;
      const learned = given.habit(listing.sourceId);
      const rivals = rivalsOf({ priceMinor, bids: way.bids }, learned);
      const toMinor = Math.round(rivals.highest.medianMinor);
      return {
        ...none,
        offer: { kind: 'auction', feesMinor, rivals, closingAt: way.closesAt },
        others: { watchers, toMinor, auctions: learned.auctions, firstShare: null },
      };
    }
    case 'buy-now':
      return fixed(given.chances.buyNow, way.closesAt);
    case 'falling':
      return atBestStep(
        fixed(given.chances.falling, way.next?.at ?? null),
        listing ? fallingAdvice(listing, said, way, given) : null,
        given,
      );
    case 'backorder':
      return fixed(given.chances.backorder, way.closesAt);
    case 'registration':
      return fixed(given.chances.free, null);
    case 'offer':
      return none;
  }
}

function fallingAdvice(
  listing: StoredListing,
  said: Said,
  { venue, feesMinor }: Way,
  { store, now, priced, terms }: Circumstances,
): FallingAdvice | null {
  const worth = worthOf(said);
  if (worth === null || listing.steps.length === 0) return null;
  const ended = endedFalling(store, listing.sourceId);
  const steps = listing.steps.map(({ at, priceMinor }) => ({
    at,
    priceMinor: priced(priceMinor, listing.currency) ?? priceMinor,
  }));
  // what it counts as is what the rest of the plan counts it as
  const worthMinor = presentWorth(worth, terms) - renewalsUntilSold(terms);
  const outlook = fallingOutlook(steps, now, worthMinor, feesMinor, fallingHabitOf(ended));
  return {
    venue,
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

/** A falling price is bought at its best step, where that is said. */
function atBestStep(way: WeighedWay, falling: FallingAdvice | null, { chances }: Circumstances): WeighedWay {
  if (falling === null || falling.best === null) return { ...way, falling };
  const { at, priceMinor, chanceThere } = falling.steps[falling.best];
  const chance = Math.min(chances.falling, chanceThere);
  // what runs now is decided before it falls further
  const until = falling.best === 0 ? (falling.steps[1]?.at ?? null) : at;
  return { ...way, falling, offer: { kind: 'fixed', feesMinor: way.feesMinor, priceMinor, chance, until } };
}

/** What is thought of an order before it is given: the chance to win at its amount, and the worth; in the order's currency. */
export function estimatesFor(
  store: Store,
  briefId: number,
  domainId: number,
  { venue, kind, amountMinor }: { venue: string; kind: OrderKind; amountMinor: number },
): OrderEstimates {
  const brief = listBriefs(store).find(({ id }) => id === briefId);
  const [domain] = readDomains(store, [domainId]);
  if (!brief || !domain) return {};
  const said = shortlistedFor(store, domainId).find((entry) => entry.briefId === briefId) ?? NOTHING_SAID;
  const [ways] = waysFor(store, brief, [{ domain, said }]);
  const way = ways.find((one) => one.venue === venue && one.kind === kind);
  const priced = inCurrency(readRates(store), brief.currency);
  const unit = priced(1_000_000, way?.currency ?? null) ?? 1_000_000;
  const there = (minor: number) => Math.round((minor * 1_000_000) / unit);
  const estimates: OrderEstimates = {};
  if (said.worthLowMinor && said.worthHighMinor) {
    estimates.worthLowMinor = there(said.worthLowMinor);
    estimates.worthHighMinor = there(said.worthHighMinor);
  }
  if (kind === 'register') estimates.winChance = readSettings(store).chances.free;
  else if (way?.offer?.kind === 'auction')
    estimates.winChance = outlookOf(priced(amountMinor, way.currency) ?? amountMinor, way.offer.rivals).winChance;
  else if (way?.offer?.kind === 'fixed') estimates.winChance = way.offer.chance;
  return estimates;
}
