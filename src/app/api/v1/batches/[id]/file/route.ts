import { batchTable } from '../../../../../../services/exports/lists/work';
import { getStore } from '../../../../../server';
import { exportAnswer } from '../../../../export-answer';
import { notFound, readId, route } from '../../../../respond';

/** The names of a batch with verdict and evidence, in the order they stood. Streamed. */
export const GET = route('GET /batches/{id}/file', async ({ query: { format }, params: { id } }) => {
  const table = batchTable(await getStore(), readId(id));
  if (!table) throw notFound(`batch ${id}`);
  return exportAnswer(table, format);
});
