import { listLastActs } from '../../../../services/acts/acts';
import { getStore } from '../../../server';
import { handle } from '../../respond';

/** What was changed by hand lately, the latest first: each with the address that undoes it. */
export const GET = handle(async () => Response.json({ acts: listLastActs(await getStore()) }));
