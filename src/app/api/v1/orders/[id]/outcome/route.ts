import { OutcomeSchema } from '../../../../../../contracts/orders';
import { getEngine } from '../../../../../server';
import { handle, readId, readJson } from '../../../../respond';

/** What came of an order that was done by hand. */
export const POST = handle(async (request, { id }) => {
  const { outcome, priceMinor } = await readJson(request, OutcomeSchema);
  return Response.json({ order: await getEngine().recordOutcome(readId(id), outcome, priceMinor) });
});
