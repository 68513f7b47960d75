'use client';

import { closing, isSoon } from '../../core/wording/format';
import { type OrderShown, standing } from '../../core/wording/orders';
import Link from '../link';
import { RefreshOnOrders } from '../orders/refresh';
import { useNow } from '../shell/live';

/** Orders that run, and where they stand; drawn again when one changes. */
export function RunningOrders({ orders }: { orders: OrderShown[] }) {
  const now = useNow();
  if (orders.length === 0) return null;
  return (
    <section aria-labelledby="running">
      <RefreshOnOrders />
      <h1 id="running">Your orders</h1>
      {orders.map((order) => (
        <div key={order.id} className="flex items-baseline gap-2 border-t border-rule py-1.5">
          <Link href="/orders" className="min-w-0 truncate font-semibold hover:underline">
            {order.name}
          </Link>
          <span className="small truncate">{standing(order)}</span>
          {order.closesAt !== null && (
            <span
              className={`ml-auto whitespace-nowrap ${isSoon(order.closesAt, now) ? 'rounded-[3px] bg-quince px-1' : ''}`}
            >
              {closing(order.closesAt, now)}
            </span>
          )}
        </div>
      ))}
    </section>
  );
}
