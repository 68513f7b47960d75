import { limitsLeft } from '../../../../store/orders/commitments';
import { balances, readLedger } from '../../../../store/orders/ledger';
import { currentBrief } from '../../../server';
import { notFound, route } from '../../respond';

/** A brief's accounts in double entry, in minor units of its currency. */
export const GET = route('GET /ledger', async ({ query }) => {
  const { store, briefs, brief } = await currentBrief();
  const id = query.brief ?? brief.id;
  if (!briefs.some((one) => one.id === id)) throw notFound('brief of that number');
  return { balances: balances(store, id), left: limitsLeft(store, id), lines: readLedger(store, id) };
});
