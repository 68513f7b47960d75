import { orderViews } from '../../../../../services/orders/orders';
import { orderLog, readOrder } from '../../../../../store/orders/orders';
import { getStore } from '../../../../server';
import { handle, notFound, readId } from '../../../respond';

/** One order with its log. */
export const GET = handle(async (_, { id }) => {
  const store = await getStore();
  const order = readOrder(store, readId(id));
  if (!order) throw notFound(`order ${id}`);
  return Response.json({ order: orderViews(store, [order])[0], log: orderLog(store, { orderId: order.id }) });
});
