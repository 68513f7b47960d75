import type { Others } from '../bids/weighed-way';
import type { OrderKind, OrderState } from '../orders/order';
import type { PriceSayer, Way, WayKind } from '../orders/ways';
import { ago, closing, money } from './format';

/** What screens show of an order. */
/** How an order stands. */
export interface OrderStanding {
  id: number;
  name: string;
  venue: string;
  url: string | null;
  kind: OrderKind;
  state: OrderState;
  amountMinor: number;
  currency: string;
  priceMinor: number | null;
  leastMinor: number | null;
  counterMinor: number | null;
  finalMinor: number | null;
  bids: number | null;
  reserve: string | null;
  closesAt: number | null;
  reason: string | null;
  sendAt: number | null;
  answeredAt: number | null;
  createdAt: number;
  /** When it left; null: it has not. */
  sentAt: number | null;
  endedAt: number | null;
  briefId: number;
}

/** With its brief's own words. */
export interface OrderShown extends OrderStanding {
  briefName: string;
  briefCurrency: string;
  worthLowMinor: number | null;
  worthHighMinor: number | null;
  mostMinor: number;
}

export const KIND_WORDS: Record<OrderKind, string> = {
  bid: 'bid',
  buy: 'purchase',
  offer: 'offer',
  backorder: 'backorder',
  register: 'registration',
};

/** As what a name is offered. */
export const OFFERED_WORDS: Record<WayKind, string> = {
  auction: 'auction',
  'expired-auction': 'auction of an expired name',
  'buy-now': 'buy now',
  falling: 'falling price',
  offer: 'offer to its seller',
  backorder: 'backorder',
  registration: 'registration',
};

const SAYER_WORDS: Record<PriceSayer, string> = {
  registrar: 'the registrar says so',
  'own registrations': 'as your own registrations of this TLD cost',
  settings: 'usual for this TLD by Settings; the registrar has not been asked',
  brief: 'a year’s renewal as the brief has it; the registrar has not been asked',
};

/** One way to have a name: "auction at Quillmere, stands at 12.00 EUR, 3 bids". */
export function wayWords(way: Way, now: number): string {
  const { offered, venue, priceMinor, currency, bids, next, says, isPremium, asOf } = way;
  const price = priceMinor === null ? '' : `${PRICE_LEADS[offered]} ${money(priceMinor, currency)}`;
  return [
    `${isPremium ? 'premium ' : ''}${OFFERED_WORDS[offered]} at ${venue}${price}`,
    ...(bids === null || way.kind !== 'bid' ? [] : [bids === 1 ? '1 bid' : `${bids} bids`]),
    ...(next === null ? [] : [`${money(next.priceMinor, currency)} ${closing(next.at, now)}`]),
    ...(says === null ? [] : [`${SAYER_WORDS[says]}${says === 'registrar' ? `, ${ago(asOf, now)}` : ''}`]),
    ...(way.refusal === null ? [] : [way.refusal]),
  ].join(', ');
}

const SHORT_WORDS: Record<WayKind, string> = {
  ...OFFERED_WORDS,
  'expired-auction': 'expired auction',
  falling: 'falling',
  offer: 'offer',
  registration: 'register',
};

/** One way to have a name, as short as a line of a table wants it: "auction, 12 EUR, 3 bids". */
export function shortWay(way: Way, now: number): string {
  const { offered, priceMinor, currency, bids, next, isPremium } = way;
  return [
    `${SHORT_WORDS[offered]}${priceMinor === null ? '' : `, ${money(priceMinor, currency)}`}${isPremium ? ' premium' : ''}`,
    ...(way.kind !== 'bid' || bids === null ? [] : [bids === 0 ? 'no bids' : bids === 1 ? '1 bid' : `${bids} bids`]),
    ...(next === null ? [] : [`${money(next.priceMinor, null)} ${closing(next.at, now)}`]),
  ].join(', ');
}

const PRICE_LEADS: Record<WayKind, string> = {
  auction: ', stands at',
  'expired-auction': ', stands at',
  'buy-now': ' for',
  falling: ', now',
  offer: ', asked',
  backorder: ' for',
  registration: ' for',
};

/** What a way costs in all now, in the brief's currency. */
export function costWords({ costMinor, feesMinor, kind }: Way, currency: string): string {
  if (costMinor === null) return 'what it costs is not said';
  const least = kind === 'bid' ? 'at least ' : '';
  return `${least}${money(costMinor, currency)} in all${feesMinor > 0 ? `, ${money(feesMinor, currency)} of it fees` : ''}`;
}

/** What is assumed of others, and from what; null: of nobody. */
export function othersWords({ watchers, toMinor, auctions, firstShare }: Others): string {
  const seen = watchers ? `${watchers} watch it, ` : '';
  if (firstShare !== null) return `${seen}${Math.round(100 * firstShare)}% sure to be the first, assumed`;
  const from = auctions === 0 ? 'assumed: none of its auctions was seen to end' : `by ${auctions} of its auctions`;
  return `${seen}others to about ${money(Math.round((toMinor ?? 0) / 100) * 100, null)}, ${from}`;
}

/** What the button says that gives an order. */
export const VERBS: Record<OrderKind, string> = {
  bid: 'Bid up to',
  buy: 'Buy for',
  offer: 'Offer',
  backorder: 'Backorder for up to',
  register: 'Register for',
};

/** What is waited for once an order was taken. */
const WAITS: Record<OrderKind, string> = {
  bid: 'taken; where it stands is not said yet',
  buy: 'taken; waits for the venue',
  offer: 'waits for the seller',
  backorder: 'waits for the drop',
  register: 'waits for the registry',
};

/** Where an order stands, in words. */
export function standing(order: OrderStanding): string {
  const price = (minor: number | null) => money(minor, order.currency);
  const at = (minor: number | null, word = 'at') => (minor === null ? '' : ` ${word} ${price(minor)}`);
  switch (order.state) {
    case 'dry':
      return 'a dry run, not sent';
    case 'queued':
      return order.sendAt !== null && order.sendAt > order.createdAt ? 'waits for its time' : 'about to be sent';
    case 'sent':
      return 'sent, no answer yet';
    case 'by hand':
      return order.sentAt === null ? 'yours to do by hand' : 'sent; look there, and say what came of it';
    case 'leading':
      return order.reserve === 'unmet'
        ? `leading${at(order.priceMinor)}, reserve not met`
        : `leading${at(order.priceMinor)}`;
    case 'outbid':
      return `outbid${at(order.priceMinor)}`;
    case 'waiting':
      return WAITS[order.kind];
    case 'countered':
      return `the seller wants ${price(order.counterMinor)}`;
    case 'won':
      return `${order.kind === 'register' ? 'registered' : 'won'}${at(order.finalMinor, 'for')}`;
    case 'lost':
      return order.finalMinor === null
        ? `lost: ${order.reason ?? 'no reason told'}`
        : `lost; it went for ${price(order.finalMinor)}`;
    case 'refused':
      return `refused: ${order.reason ?? 'no reason told'}`;
    case 'withdrawn':
      return order.reason ?? 'taken back';
  }
}

/** Time left as a clock shows it: "2 d 4 h", "3:07:12", "7:03". */
export function countdown(closesAt: number, now: number): string {
  const rest = Math.max(0, Math.floor((closesAt - now) / 1000));
  if (rest === 0) return 'closed';
  const [days, hours, minutes, seconds] = [rest / 86_400, (rest / 3600) % 24, (rest / 60) % 60, rest % 60].map(
    Math.floor,
  );
  if (days > 0) return `${days} d ${hours} h`;
  const two = (value: number) => String(value).padStart(2, '0');
  return hours > 0 ? `${hours}:${two(minutes)}:${two(seconds)}` : `${minutes}:${two(seconds)}`;
}
