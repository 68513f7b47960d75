import type { OrderTerms, WayToHave } from '../../contracts/orders';
import type { Connection } from '../../core/connections/connection';
import { EXAMPLE_ORDER, orderFilling } from '../../core/connections/order-answer';
import { requestOf, requestText } from '../../core/connections/request';
import { masked, secretsOf } from '../../core/connections/template';
import { homeMinor, rateOf } from '../../core/listings/rates';
import type { OrderKind } from '../../core/orders/order';
import { isDryAt, type OrderTaker, takerOf } from '../../core/orders/takers';
import { cheapestFirst, reckoned, type Way, type WayKind, type WayTerms, wayToRegister } from '../../core/orders/ways';
import { Refusal } from '../../core/refusal';
import { isUnset } from '../../core/setup/abilities';
import type { AccountTerms } from '../../net/venue-account';
import type { Store } from '../../store/base/database';
import { readRates, readSettings } from '../../store/base/settings';
import { contradictionsOf, type DomainRow, readDomains } from '../../store/domains/domains';
import { saidFor } from '../../store/lifecycle/verdicts';
import { doubtOf, knownWays, registrarOf, registrationPrice } from '../../store/offers/ways';
import { limitsLeft } from '../../store/orders/commitments';
import { type OrderEstimates, tell } from '../../store/orders/order-log';
import { type Order, orderOfClient, ordersOf } from '../../store/orders/order-rows';
import { placeOrder } from '../../store/orders/orders';
import { holdingOf } from '../../store/portfolio/holdings';
import { type Brief, listBriefs } from '../../store/shortlist/briefs';
import { shortlistedFor } from '../../store/shortlist/shortlist';
import { AccountClient } from './account-client';

const TERMS_MS = 6000;
/** A verdict that is older is taken again before a name is registered. */
export const FRESH_VERDICT_MS = 10 * 60_000;

/** An order that is not taken, with why in words. */
export class OrderRefused extends Refusal {
  constructor(message: string, options: ErrorOptions = {}) {
    super('order-refused', message, options);
  }
}

/** All ways to have a domain, each with its terms as the venue says them now, where it can be asked; the cheapest in all first. */
export async function termsOf(store: Store, briefId: number, domainId: number): Promise<OrderTerms> {
  const brief = briefOf(store, briefId);
  const [domain] = readDomains(store, [domainId]);
  if (!domain) throw new OrderRefused('the domain is not in the pool');
  const { isDryRun, currency: homeCurrency } = readSettings(store);
  const terms = wayTerms(store, brief, domain.id);
  const known = knownWays(store, domain, brief, terms);
  const running = ordersOf(store, domainId).filter(({ endedAt }) => endedAt === null);
  // a backorder that others placed too has become an auction that no feed lists
  for (const { venue, kind } of running)
    if (kind === 'backorder' && !known.some((way) => way.venue === venue))
      known.push(unlistedAuction(venue, store.now(), terms));
  // where nothing else is known, whether it could be registered is worth saying
  if (known.length === 0) known.push(registration(store, domain, brief, terms));
  const doubt = domain.phase === 'free' ? doubtOf(store, domain) : null;
  const listed = known.map((way) => (way.kind === 'register' ? { ...way, refusal: doubt } : way));
  const accounts = new AccountClient(store, TERMS_MS);
  const ways = await Promise.all(listed.map((way) => liveWay(store, accounts, domain, way, terms, brief)));
  await accounts.close();
  return {
    id: domain.id,
    name: domain.name,
    brief: { id: brief.id, name: brief.name, currency: brief.currency, feesMinor: brief.feesMinor },
    ways: cheapestFirst(ways),
    orders: ordersOf(store, domainId).slice(0, 10),
    isOwned: holdingOf(store, domainId) !== null,
    isDryRun,
    limits: limitsLeft(store, briefId),
    homeCurrency,
    phase: domain.phase,
    phaseAt: domain.phase_at,
  };
}

export interface OrderWish {
  briefId: number;
  domainId: number;
  venue: string;
  kind: OrderKind;
  /** The most that is paid, in minor units of the venue's currency. */
  amountMinor: number;
  /** Of a venue without a account, whose currency nobody else says. */
  currency?: string;
  /** Not to be sent before; null: at once. */
  sendAt?: number | null;
  estimates?: OrderEstimates;
  /** Chosen by whoever sends it: what comes again under the same key is the same order. */
  clientKey?: string | null;
}

/**
 * Takes an order to be sent, or to be done by hand where the venue has no account, or only to be written down in a dry run.
 *
 * @throws OrderRefused in words; LimitError when a hard limit would be broken.
 */
export function place(store: Store, wish: OrderWish): Order {
  const { briefId, domainId, venue, kind, amountMinor, sendAt = null, clientKey = null } = wish;
  const before = clientKey === null ? null : orderOfClient(store, clientKey);
  if (before !== null) return sameOrder(before, wish);
  const brief = briefOf(store, briefId);
  const [domain] = readDomains(store, [domainId]);
  if (!domain) throw new OrderRefused('the domain is not in the pool');
  const settings = readSettings(store);
  const taker = takerOf(settings, venue, kind);
  const terms = wayTerms(store, brief, domainId);
  const listed = knownWays(store, domain, brief, terms).find((way) => way.venue === venue && way.kind === kind);
  checkPeriod(store, brief);
  checkOwnOrders(store, wish);
  if (kind === 'register') checkVerdict(store, domain);
  else if (taker?.by !== 'account' && !listed) throw new OrderRefused(`${venue} does not offer it`);
  const otherwise = otherCurrency(taker, listed);
  if (otherwise !== null) throw new OrderRefused(otherwise);
  const currency = taker?.currency ?? listed?.currency ?? wish.currency ?? brief.currency;
  const ratePpm = rateBetween(store, currency, brief.currency);
  if (ratePpm === null) throw new OrderRefused(`no rate is set between ${currency} and ${brief.currency} (Settings)`);
  const isDry = settings.isDryRun || isDryAt(taker);
  const order = placeOrder(store, {
    briefId,
    domainId,
    venue,
    url: listed?.url ?? null,
    kind,
    amountMinor,
    currency,
    ratePpm,
    // a registration is paid by its price; the first year comes with it
    feesMinor: kind === 'register' ? 0 : terms.feesMinor,
    closesAt: listed?.closesAt ?? null,
    sendAt,
    estimates: wish.estimates,
    way: isDry ? 'dry' : taker ? 'send' : 'by hand',
    clientKey,
  });
  if (isDry && taker?.by === 'service') tell(store, order, 'Jam Ladle', wouldBeSent(taker.service, order));
  return order;
}

const WORDS = 2000;

/** What would go out, as it would, without what is secret. */
function wouldBeSent(service: Connection, { key, name, kind, amountMinor, currency }: Order): string {
  const filling = orderFilling({ ...EXAMPLE_ORDER, key, domain: name, kind, amountMinor, currency });
  const text = masked(requestText(requestOf(service, filling)), secretsOf(service));
  return `this would be sent: ${text}`.slice(0, WORDS);
}

/** Why an amount would mean something else where it is sent to; null: it means the same. */
function otherCurrency(taker: OrderTaker | null, way: Pick<Way, 'venue' | 'currency' | 'priceMinor'> | undefined) {
  if (taker?.by !== 'service' || !way || way.priceMinor === null || way.currency === taker.currency) return null;
  return `${way.venue} has it in ${way.currency}, and orders are described in ${taker.currency}`;
}

/** The order that a key stands for already. @throws OrderRefused where the key comes with another order. */
function sameOrder(before: Order, { briefId, domainId, venue, kind, amountMinor }: OrderWish): Order {
  const isSame =
    before.briefId === briefId &&
    before.domainId === domainId &&
    before.venue === venue &&
    before.kind === kind &&
    before.amountMinor === amountMinor;
  if (!isSame) throw new OrderRefused('another order came under the same key: send this one under a key of its own');
  return before;
}

const DAY = 86_400_000;

function checkPeriod(store: Store, { name, fromAt, untilAt }: Brief): void {
  const now = store.now();
  const day = (at: number) => new Date(at).toISOString().slice(0, 10);
  if (fromAt !== null && now < fromAt) throw new OrderRefused(`"${name}" begins on ${day(fromAt)}`);
  // its last day is part of it
  if (untilAt !== null && now >= untilAt + DAY) throw new OrderRefused(`"${name}" ended on ${day(untilAt)}`);
}

/** Nobody bids against oneself, or buys what is owned. */
function checkOwnOrders(store: Store, { briefId, domainId, venue, kind, amountMinor }: OrderWish): void {
  if (holdingOf(store, domainId) !== null) throw new OrderRefused('you own it already');
  for (const order of ordersOf(store, domainId)) {
    if (order.endedAt !== null) continue;
    if (order.briefId !== briefId) {
      const other = listBriefs(store).find(({ id }) => id === order.briefId)?.name ?? 'another brief';
      throw new OrderRefused(`it is ordered for ${other} already`);
    }
    if (order.venue !== venue) continue;
    if (order.state === 'queued' || order.state === 'sent') throw new OrderRefused('an order for it is on its way');
    const isRaise = kind === 'bid' && (order.kind === 'bid' || order.kind === 'backorder');
    const isAnswer = kind === 'offer' && order.state === 'countered';
    if (!isRaise && !isAnswer) throw new OrderRefused(`an order for it stands already: ${order.state}`);
    if (isRaise && amountMinor <= order.amountMinor) throw new OrderRefused('a raised bid is higher than the last');
  }
}

function checkVerdict(store: Store, domain: DomainRow): void {
  const { phase, phase_at: at, contradictions } = domain;
  if (at === null || store.now() - at > FRESH_VERDICT_MS)
    throw new OrderRefused('its verdict is not fresh: confirm first that it is still available');
  if (phase !== 'free') throw new OrderRefused(`it is not available: ${phase}`);
  const said = contradictionsOf({ contradictions });
  if (said.length > 0) throw new OrderRefused(`the checks disagree: ${said.join('; ')}`);
  const doubt = doubtOf(store, domain);
  if (doubt !== null) throw new OrderRefused(doubt);
  // where a registrar can be asked, it has said so, too, before anything is sent
  const { registrar } = saidFor(store, domain);
  const isAsked = !isUnset('registrar', readSettings(store));
  if (isAsked && registrar !== 'available' && registrar !== 'premium')
    throw new OrderRefused('the registrar has not said yet that it would register it: confirm it first');
}

function briefOf(store: Store, briefId: number): Brief {
  const brief = listBriefs(store).find(({ id }) => id === briefId);
  if (!brief) throw new OrderRefused('there is no such brief');
  return brief;
}

/** How amounts become the brief's currency, and what comes beside a price: as the shortlist has it, else the brief. */
function wayTerms(store: Store, brief: Brief, domainId: number): WayTerms {
  const rates = readRates(store);
  const own = rateOf(brief.currency, rates);
  const entry = shortlistedFor(store, domainId).find(({ briefId }) => briefId === brief.id);
  return {
    priced: (minor, currency) => {
      const home = homeMinor(minor, currency, rates);
      return home === null || own === null ? null : Math.round(home / own);
    },
    feesMinor: entry?.feesMinor ?? brief.feesMinor,
    homeCurrency: rates.home,
  };
}

function registration(store: Store, domain: DomainRow, brief: Brief, terms: WayTerms): Way {
  return wayToRegister(registrarOf(store), registrationPrice(store, domain, brief), store.now(), null, terms.priced);
}

function unlistedAuction(venue: string, now: number, { feesMinor, homeCurrency }: WayTerms): Way {
  return {
    kind: 'bid',
    offered: 'auction',
    venue,
    currency: homeCurrency,
    priceMinor: null,
    leastMinor: null,
    costMinor: null,
    feesMinor,
    next: null,
    bids: null,
    watchers: null,
    reserve: null,
    closesAt: null,
    url: null,
    asOf: now,
    says: null,
    isPremium: false,
    refusal: null,
  };
}

async function liveWay(
  store: Store,
  accounts: AccountClient,
  domain: DomainRow,
  known: Way,
  { priced }: WayTerms,
  brief: Brief,
): Promise<WayToHave> {
  const taker = accounts.takerOf(known.venue, known.kind);
  const here = (way: Way, isLive: boolean): WayToHave => ({
    ...reckoned(way, priced),
    hasAccount: taker !== null,
    hasDesk: taker !== null,
    isDry: isDryAt(taker),
    isLive,
    ratePpm: rateBetween(store, way.currency, brief.currency),
  });
  if (taker?.by === 'service') return here({ ...known, refusal: known.refusal ?? otherCurrency(taker, known) }, false);
  if (!taker || known.refusal !== null) return here(known, false);
  const { account } = taker;
  const way = { ...known, currency: known.priceMinor === null ? account.currency : known.currency };
  const reply = await accounts.terms(account, domain.name);
  if (reply.outcome === 'none') return here({ ...way, refusal: `${way.venue} does not offer it any more` }, false);
  if (reply.outcome !== 'answered') {
    // a listing said a price; what a registration costs is only supposed
    const isSaid = way.priceMinor !== null && (way.says === null || way.says === 'registrar');
    const refusal = isSaid ? null : `${way.venue} does not say on what terms: ${reply.reason}`;
    return here({ ...way, refusal }, false);
  }
  return here(taken(way, reply.value, store.now()), true);
}

function taken(way: Way, terms: AccountTerms, now: number): Way {
  const { kind, state, priceMinor, leastMinor, currency, closesAt, bids, reserve } = terms;
  const canBeHad = state === 'open' || state === 'available' || state === 'premium';
  // a registry that names no fees: what it is supposed to cost stays
  const isUnpriced = kind === 'register' && way.kind === 'register' && priceMinor === null;
  if (isUnpriced && canBeHad) return { ...way, asOf: now };
  return {
    ...way,
    kind,
    // a caught name for which several waited is auctioned among them
    offered: kind === way.kind ? way.offered : OFFERED_AS[kind],
    priceMinor,
    leastMinor: leastMinor ?? (kind === 'offer' ? null : priceMinor),
    currency,
    closesAt: closesAt ?? way.closesAt,
    bids,
    reserve,
    asOf: now,
    says: kind === 'register' ? 'registrar' : null,
    isPremium: state === 'premium',
    refusal: canBeHad ? null : `${way.venue} says: ${state}`,
  };
}

const OFFERED_AS: Record<OrderKind, WayKind> = {
  bid: 'auction',
  buy: 'buy-now',
  offer: 'offer',
  backorder: 'backorder',
  register: 'registration',
};

/** Millionths of one currency that a unit of the other is worth; null: a rate is missing. */
export function rateBetween(store: Store, from: string, to: string): number | null {
  const rates = readRates(store);
  const [a, b] = [rateOf(from, rates), rateOf(to, rates)];
  return a === null || b === null ? null : Math.round((a / b) * 1_000_000);
}
