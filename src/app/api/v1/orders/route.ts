import { domainRow } from '../../../../app/api/domain-row';
import { ordersToShow, orderViews } from '../../../../services/orders/orders';
import { estimatesFor } from '../../../../services/orders/ways';
import { orderLog } from '../../../../store/orders/order-log';
import { getEngine, getStore } from '../../../server';
import { route } from '../../respond';

/** Orders that are open, those that ended last, and the log of every act. */
export const GET = route('GET /orders', async ({ query }) => {
  const store = await getStore();
  const briefId = query.brief ?? null;
  return { ...ordersToShow(store, briefId), log: orderLog(store, { briefId }) };
});

/** Gives an order. It is on disk before anything is sent, and is sent once. */
export const POST = route('POST /orders', async ({ body }) => {
  const { name, ...wish } = body;
  const { store, row } = await domainRow(name);
  const estimates = estimatesFor(store, wish.briefId, row.id, wish);
  const order = await getEngine().placeOrder({ ...wish, domainId: row.id, estimates });
  return { order: orderViews(store, [order])[0] };
});
