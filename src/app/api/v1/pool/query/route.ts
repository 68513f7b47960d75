import { PoolQuerySchema } from '../../../../../contracts/pool';
import { askPool } from '../../../../../services/pool/ask-pool';
import { currentBrief } from '../../../../server';
import { handle, readJson } from '../../../respond';

export const POST = handle(async (request) => {
  const { store, engine, brief } = await currentBrief();
  return Response.json(await askPool(store, engine, brief, await readJson(request, PoolQuerySchema)));
});
