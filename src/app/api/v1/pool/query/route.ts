import { askPool } from '../../../../ask-pool';
import { handle, readJson } from '../../../respond';
import { PoolQuerySchema } from '../../../schemas';

export const POST = handle(async (request) => Response.json(await askPool(await readJson(request, PoolQuerySchema))));
