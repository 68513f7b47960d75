import { limitsLeft } from '../../../../store/orders/commitments';
import { balances, readLedger } from '../../../../store/orders/ledger';
import { currentBrief } from '../../../server';
import { readId, route } from '../../respond';

/** A brief's accounts in double entry, in minor units of its currency. */
export const GET = route('GET /ledger', async ({ request }) => {
  const { store, brief } = await currentBrief();
  const asked = request.nextUrl.searchParams.get('brief');
  const id = asked === null ? brief.id : readId(asked);
  return { balances: balances(store, id), left: limitsLeft(store, id), lines: readLedger(store, id) };
});
