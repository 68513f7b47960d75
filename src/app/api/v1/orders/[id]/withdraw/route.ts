import { readOrder } from '../../../../../../store/orders/order-rows';
import { getEngine, getStore } from '../../../../../server';
import { Problem, readId, route } from '../../../../respond';

/** Takes an order back, where it is not binding. */
export const POST = route('POST /orders/{id}/withdraw', async ({ params: { id } }) => {
  const refusal = await getEngine().withdrawOrder(readId(id));
  if (refusal !== null) throw new Problem(409, 'It cannot be taken back', refusal);
  return { order: readOrder(await getStore(), readId(id)) };
});
