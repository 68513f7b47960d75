import { balances, limitsLeft, readLedger } from '../../../../store/orders/orders';
import { currentBrief } from '../../../server';
import { handle, readId } from '../../respond';

/** A brief's accounts in double entry, in minor units of its currency. */
export const GET = handle(async (request) => {
  const { store, brief } = await currentBrief();
  const asked = request.nextUrl.searchParams.get('brief');
  const id = asked === null ? brief.id : readId(asked);
  return Response.json({ balances: balances(store, id), left: limitsLeft(store, id), lines: readLedger(store, id) });
});
