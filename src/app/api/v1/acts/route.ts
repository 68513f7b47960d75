import { listLastActs } from '../../../../services/acts/acts';
import { getStore } from '../../../server';
import { route } from '../../respond';

/** What was changed by hand lately, the latest first: each with the address that undoes it. */
export const GET = route('GET /acts', async () => ({ acts: listLastActs(await getStore()) }));
