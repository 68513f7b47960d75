import { askColumns } from '../../../../../services/pool/ask-pool';
import { currentBrief } from '../../../../server';
import { route } from '../../../respond';

export const POST = route('POST /pool/columns', async ({ body }) => {
  const { store, engine, brief } = await currentBrief();
  return await askColumns(store, engine, brief, body);
});
