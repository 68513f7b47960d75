/** What can be ordered: a maximum in an auction; a price that is just paid; an offer to a seller; a catch at the drop; a registration. */
export const ORDER_KINDS = ['bid', 'buy', 'offer', 'backorder', 'register'] as const;
export type OrderKind = (typeof ORDER_KINDS)[number];

/**
 * Where an order stands.
 *
 * - `dry`: written down in a dry run, never sent;
 * - `queued`: waits to be sent, or for its time;
 * - `sent`: on its way; whether it arrived is not known until the venue answers;
 * - `by hand`: the person does it at the venue, and says what came of it;
 * - `leading`, `outbid`: a bid in a running auction;
 * - `waiting`: taken by the venue, which decides later (a backorder until the drop, an offer until it is answered);
 * - `countered`: the seller wants another price;
 * - the rest are ends.
 */
export const ORDER_STATES = [
  'dry',
  'queued',
  'sent',
  'by hand',
  'leading',
  'outbid',
  'waiting',
  'countered',
  'won',
  'lost',
  'refused',
  'withdrawn',
] as const;
export type OrderState = (typeof ORDER_STATES)[number];

/** States that a venue names in its answers (docs/venue-orders.md). */
export const VENUE_STATES = [
  'leading',
  'outbid',
  'waiting',
  'countered',
  'won',
  'lost',
  'refused',
  'withdrawn',
] as const satisfies readonly OrderState[];
export type VenueState = (typeof VENUE_STATES)[number];

/**
 * What an order was refused for: `gone`: it is not to be had any more, or somebody else was first; `price`: less than is asked; `payment`:
 * it could not be paid; `other`: none of these, or the venue does not say.
 */
export const REFUSED_FOR = ['gone', 'price', 'payment', 'other'] as const;
export type RefusedFor = (typeof REFUSED_FOR)[number];

/** What happens to an order. */
export type OrderEvent =
  /** It goes out; written down before the first byte does. */
  | { kind: 'send' }
  /** The venue says where it stands. */
  | { kind: 'answer'; state: VenueState }
  /** Nothing is known yet, or nothing could be done: it stays what it is. */
  | { kind: 'later' }
  /** The venue has never heard of it, so it may go out again. */
  | { kind: 'no trace' }
  /** It cannot go out any more: a limit, or its time is over. */
  | { kind: 'refuse' }
  /** The person takes it back; what was sent needs the venue's word, which comes as an answer. */
  | { kind: 'withdraw' }
  /** What is at a venue that nobody can be asked about goes on by hand. */
  | { kind: 'by hand' }
  /** The person says what came of what was done by hand. */
  | { kind: 'hand'; outcome: 'won' | 'lost' | 'withdrawn' };

const ENDS: ReadonlySet<OrderState> = new Set(['dry', 'won', 'lost', 'refused', 'withdrawn']);
/** May be told by a venue of an order in each state; what has an answer is never unsent again. */
const LIVE: ReadonlySet<OrderState> = new Set(['sent', 'leading', 'outbid', 'waiting', 'countered']);

export const isEnded = (state: OrderState): boolean => ENDS.has(state);

/** Where an order stands after something happened; null: that cannot happen to it. */
export function stateAfter(state: OrderState, event: OrderEvent): OrderState | null {
  switch (event.kind) {
    case 'send':
      return state === 'queued' || state === 'sent' ? 'sent' : null;
    case 'answer':
      return LIVE.has(state) ? event.state : null;
    case 'later':
      return LIVE.has(state) || state === 'queued' ? state : null;
    case 'no trace':
      return state === 'sent' ? 'queued' : null;
    case 'refuse':
      return state === 'queued' ? 'refused' : null;
    case 'withdraw':
      return state === 'queued' || state === 'by hand' ? 'withdrawn' : null;
    case 'by hand':
      return LIVE.has(state) ? 'by hand' : null;
    case 'hand':
      return state === 'by hand' ? event.outcome : null;
  }
}

/** Parts of an order that money is reckoned by; amounts in minor units of the brief's currency. */
export interface OrderMoney {
  state: OrderState;
  /** Orders of one group are for the same thing, so only one of them can be won: raised bids, an offer after an offer. */
  group: string;
  /** The most it can cost, without fees. */
  amountMinor: number;
  /** What it was had for; null: not yet, or never. */
  finalMinor: number | null;
  /** Paid beside the price when it is had. */
  feesMinor: number;
}

/** What orders hold and have spent, in minor units. */
export interface Commitment {
  heldMinor: number;
  spentMinor: number;
  feesMinor: number;
}

const HOLDS: ReadonlySet<OrderState> = new Set(['queued', 'sent', 'by hand', 'leading', 'waiting']);

/** What one order holds: its maximum with its fees as long as it may be won by itself. Outbid or countered, only a new order can win. */
export function heldBy({ state, amountMinor, feesMinor }: OrderMoney): number {
  return HOLDS.has(state) ? amountMinor + feesMinor : 0;
}

/** What orders commit to together: of one group the dearest is held, and nothing beside it once it was won. */
export function commitmentOf(orders: readonly OrderMoney[]): Commitment {
  const total: Commitment = { heldMinor: 0, spentMinor: 0, feesMinor: 0 };
  const groups = new Map<string, number>();
  for (const order of orders) {
    if (order.state === 'won') {
      total.spentMinor += order.finalMinor ?? order.amountMinor;
      total.feesMinor += order.feesMinor;
    }
    groups.set(order.group, Math.max(groups.get(order.group) ?? 0, heldBy(order)));
  }
  for (const order of orders) if (order.state === 'won') groups.delete(order.group);
  for (const held of groups.values()) total.heldMinor += held;
  return total;
}

/** All that a commitment may cost. */
export const costOf = ({ heldMinor, spentMinor, feesMinor }: Commitment): number => heldMinor + spentMinor + feesMinor;
