import { batchView } from '../../../../../services/availability/batch';
import { readBatch } from '../../../../../store/sources/batches';
import { getStore } from '../../../../server';
import { notFound, readId, route } from '../../../respond';

/** A batch: how far each of its names has come, and when the rest will be through. */
export const GET = route('GET /batches/{id}', async ({ params: { id } }) => {
  const store = await getStore();
  const batch = readBatch(store, readId(id));
  if (!batch) throw notFound(`batch ${id}`);
  return batchView(store, batch);
});
