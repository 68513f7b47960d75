import { isOpen, nextMoment } from '../../core/listings/listing';
import { money } from '../../core/wording/format';
import { standing } from '../../core/wording/orders';
import type { Store } from '../../store/base/database';
import { listingsOf } from '../../store/offers/listings';
import { listOrders, type Order, openOrders } from '../../store/orders/order-rows';
import { waitingInquiries } from '../../store/portfolio/inquiries';
import type { Brief } from '../../store/shortlist/briefs';
import { readShortlist } from '../../store/shortlist/shortlist';
import { orderViews } from '../orders/orders';

const HOUR = 3_600_000;
/** What closes within this is decided today. */
const AHEAD_MS = 24 * HOUR;
/** What was refused or lost stands here for so long. */
const BEHIND_MS = 24 * HOUR;

/** Something that waits for the person. */
export interface Decision {
  key: string;
  name: string;
  /** null: it is for no brief. */
  briefName: string | null;
  /** What it is about. */
  words: string;
  /** The person's maximum, as it is shown; null: none is set. */
  maximum: string | null;
  /** When it is too late, ms; null: no moment is known. */
  at: number | null;
  /** What is done about it here: an order is given, or the orders or the sale are gone to. */
  action: 'order' | 'orders' | 'sale';
  label: string;
}

/**
 * What waits for a decision, the most pressing first: orders that were outbid, answered or refused, buyers who asked, what is to be done by hand, and what
 * is on a shortlist and closes soon without an order.
 */
export function decisionsFor(store: Store, briefs: readonly Brief[], now: number): Decision[] {
  const open = openOrders(store);
  const pressing = open.filter(({ state }) => state === 'outbid' || state === 'countered' || state === 'by hand');
  const refused = listOrders(store, null, 100).filter(
    ({ state, endedAt, domainId, id }) =>
      state === 'refused' && (endedAt ?? 0) > now - BEHIND_MS && !isFollowed(store, domainId, id),
  );
  const decisions = [...pressing, ...refused].map((order) => ofOrder(store, order));
  for (const { resaleId, inquiry, name, buyer, words, offerMinor, currency, until } of waitingInquiries(store))
    decisions.push({
      key: `inquiry ${resaleId} ${inquiry}`,
      name,
      briefName: null,
      words: `${buyer} ${words}${offerMinor === null ? '' : `, ${money(offerMinor, currency)}`}`,
      maximum: null,
      at: until,
      action: 'sale',
      label: 'Answer',
    });
  const ordered = new Set(open.map(({ domainId }) => domainId));
  for (const brief of briefs)
    for (const entry of readShortlist(store, brief.id)) {
      const { domain, stage, maximumBidMinor } = entry;
      if (ordered.has(entry.domainId) || stage === 'had' || stage === 'let go' || stage === 'waiting') continue;
      if (refused.some(({ domainId }) => domainId === entry.domainId)) continue;
      const moment = soonest(store, entry.domainId, now);
      const at = moment?.at ?? null;
      const isSoon = at !== null && at < now + AHEAD_MS;
      const closes = moment?.isStep ? 'its price falls' : 'closes without an order of yours';
      if (!isSoon && stage !== 'to act on') continue;
      decisions.push({
        key: `shortlist ${brief.id} ${entry.domainId}`,
        name: domain.name,
        briefName: brief.name,
        words: domain.phase === 'free' ? 'free to register' : isSoon ? closes : 'to be acted on',
        maximum: maximumBidMinor === null ? null : money(maximumBidMinor, brief.currency),
        at,
        action: 'order',
        label: domain.phase === 'free' ? 'Register' : 'Order',
      });
    }
  return decisions.sort((a, b) => (a.at ?? Number.MAX_SAFE_INTEGER) - (b.at ?? Number.MAX_SAFE_INTEGER));
}

const isFollowed = (store: Store, domainId: number, id: number) =>
  listOrders(store, null, 200).some((other) => other.domainId === domainId && other.id > id);

/** The next moment of a domain's offers: an end, or a step of its price. */
function soonest(store: Store, domainId: number, now: number): { at: number; isStep: boolean } | null {
  const moments = listingsOf(store, domainId)
    .filter((listing) => isOpen(listing, now))
    .flatMap((listing) => {
      const at = nextMoment(listing, now);
      return at === null ? [] : { at, isStep: at !== listing.closingAt };
    });
  return moments.sort((a, b) => a.at - b.at)[0] ?? null;
}

function ofOrder(store: Store, order: Order): Decision {
  const [view] = orderViews(store, [order]);
  const labels: Partial<Record<Order['state'], string>> = {
    outbid: 'Bid again',
    countered: 'Answer',
    'by hand': 'Say what came of it',
  };
  return {
    key: `order ${order.id}`,
    name: order.name,
    briefName: view.briefName,
    words: standing(view),
    maximum: money(order.amountMinor, order.currency),
    at: order.closesAt,
    action: order.state === 'refused' ? 'order' : 'orders',
    label: labels[order.state] ?? 'Order again',
  };
}

/** Auctions of the person's that run, the next to close first. */
export function runningFor(store: Store) {
  return orderViews(
    store,
    openOrders(store).filter(
      ({ state }) => state === 'leading' || state === 'waiting' || state === 'queued' || state === 'sent',
    ),
  );
}
