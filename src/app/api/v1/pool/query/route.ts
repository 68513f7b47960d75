import { askPool } from '../../../../../services/pool/ask-pool';
import { currentBrief } from '../../../../server';
import { route } from '../../../respond';

export const POST = route('POST /pool/query', async ({ body }) => {
  const { store, engine, brief } = await currentBrief();
  return await askPool(store, engine, brief, body);
});
