import { listSources } from '../../../../store/sources/sources';
import { getStore } from '../../../server';
import { handle } from '../../respond';

export const GET = handle(async () => Response.json({ sources: listSources(await getStore()) }));
