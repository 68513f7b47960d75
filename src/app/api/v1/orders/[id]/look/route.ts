import { getEngine } from '../../../../../server';
import { handle, notFound, readId } from '../../../../respond';

/** Asks the venue at once where an order stands. */
export const POST = handle(async (_, { id }) => {
  const order = await getEngine().lookAtOrder(readId(id));
  if (!order) throw notFound(`order ${id}`);
  return Response.json({ order });
});
