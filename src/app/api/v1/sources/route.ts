import { listSources } from '../../../../store/sources/sources';
import { getStore } from '../../../server';
import { route } from '../../respond';

export const GET = route('GET /sources', async () => ({ sources: listSources(await getStore()) }));
