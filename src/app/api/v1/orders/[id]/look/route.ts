import { getEngine } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

/** Asks the venue at once where an order stands. */
export const POST = route('POST /orders/{id}/look', async ({ params: { id } }) => {
  const order = await getEngine().lookAtOrder(readId(id));
  if (!order) throw notFound(`order ${id}`);
  return { order };
});
