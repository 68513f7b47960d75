import { readOrder } from '../../../../../../store/orders/orders';
import { getEngine, getStore } from '../../../../../server';
import { handle, Problem, readId } from '../../../../respond';

/** Takes an order back, where it is not binding. */
export const POST = handle(async (_, { id }) => {
  const refusal = await getEngine().withdrawOrder(readId(id));
  if (refusal !== null) throw new Problem(409, 'It cannot be taken back', refusal);
  return Response.json({ order: readOrder(await getStore(), readId(id)) });
});
