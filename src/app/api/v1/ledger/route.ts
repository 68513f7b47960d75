import { limitsLeft } from '../../../../store/orders/commitments';
import { balances, readLedger } from '../../../../store/orders/ledger';
import { currentBrief } from '../../../server';
import { route } from '../../respond';

/** A brief's accounts in double entry, in minor units of its currency. */
export const GET = route('GET /ledger', async ({ query }) => {
  const { store, brief } = await currentBrief();
  const id = query.brief ?? brief.id;
  return { balances: balances(store, id), left: limitsLeft(store, id), lines: readLedger(store, id) };
});
