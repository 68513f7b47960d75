import { orderViews } from '../../../../../services/orders/orders';
import { orderLog } from '../../../../../store/orders/order-log';
import { readOrder } from '../../../../../store/orders/order-rows';
import { getStore } from '../../../../server';
import { notFound, readId, route } from '../../../respond';

/** One order with its log. */
export const GET = route('GET /orders/{id}', async ({ params: { id } }) => {
  const store = await getStore();
  const order = readOrder(store, readId(id));
  if (!order) throw notFound(`order ${id}`);
  return { order: orderViews(store, [order])[0], log: orderLog(store, { orderId: order.id }) };
});
