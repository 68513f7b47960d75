import type { OrderView } from '../../contracts/orders';
import type { ShortlistEntry } from '../../core/bids/shortlist-entry';
import { converted } from '../../core/orders/ledger';
import type { Store } from '../../store/base/database';
import { listOrders, type Order, openOrders } from '../../store/orders/order-rows';
import { type Brief, listBriefs } from '../../store/shortlist/briefs';
import { readShortlist } from '../../store/shortlist/shortlist';

/** Orders as screens show them. */
export function orderViews(store: Store, orders: readonly Order[]): OrderView[] {
  const briefs = new Map(listBriefs(store).map((brief) => [brief.id, brief]));
  const worths = new Map<number, Map<number, ShortlistEntry>>();
  const entryOf = ({ briefId, domainId }: Order) => {
    const known = worths.get(briefId) ?? new Map(readShortlist(store, briefId).map((entry) => [entry.domainId, entry]));
    worths.set(briefId, known);
    return known.get(domainId);
  };
  return orders.map((order) => {
    const entry = entryOf(order);
    const { name: briefName = '', currency: briefCurrency = order.currency } =
      briefs.get(order.briefId) ?? ({} as Partial<Brief>);
    const there = (minor: number | null | undefined) =>
      minor === null || minor === undefined ? null : converted(minor, Math.round(1e12 / order.ratePpm));
    return {
      ...order,
      briefName,
      briefCurrency,
      worthLowMinor: there(entry?.worthLowMinor),
      worthHighMinor: there(entry?.worthHighMinor),
      mostMinor: converted(order.amountMinor, order.ratePpm) + order.feesMinor,
    };
  });
}

/** Orders that are open over all briefs, the next to close first, and the last that ended. */
export function ordersToShow(store: Store, briefId: number | null, endedMost = 60) {
  const isWanted = (order: Order) => briefId === null || order.briefId === briefId;
  const open = openOrders(store).filter(isWanted);
  const ended = listOrders(store, briefId)
    .filter(({ endedAt }) => endedAt !== null)
    .slice(0, endedMost);
  return { open: orderViews(store, open), ended: orderViews(store, ended) };
}
