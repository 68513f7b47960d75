import { listTags } from '../../../../store/domains/marks';
import { getStore } from '../../../server';
import { route } from '../../respond';

export const GET = route('GET /tags', async () => ({ tags: listTags(await getStore()) }));
