import { getEngine } from '../../../../../server';
import { readId, route } from '../../../../respond';

/** What came of an order that was done by hand. */
export const POST = route('POST /orders/{id}/outcome', async ({ params: { id }, body }) => {
  const { outcome, priceMinor } = body;
  return { order: await getEngine().recordOutcome(readId(id), outcome, priceMinor) };
});
