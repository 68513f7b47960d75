import { getEngine } from '../../../../../server';
import { handle, readId, readJson } from '../../../../respond';
import { OutcomeSchema } from '../../../../schemas';

/** What came of an order that was done by hand. */
export const POST = handle(async (request, { id }) => {
  const { outcome, priceMinor } = await readJson(request, OutcomeSchema);
  return Response.json({ order: await getEngine().recordOutcome(readId(id), outcome, priceMinor) });
});
