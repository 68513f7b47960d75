import { listTags } from '../../../../store/domains/marks';
import { getStore } from '../../../server';
import { handle } from '../../respond';

export const GET = handle(async () => Response.json({ tags: listTags(await getStore()) }));
