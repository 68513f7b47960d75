import { listHoldings } from '../../../../store/holdings';
import { getStore } from '../../../server';
import { handle } from '../../respond';

/** What is owned, the next to renew first. */
export const GET = handle(async () => Response.json({ holdings: listHoldings(await getStore()) }));
