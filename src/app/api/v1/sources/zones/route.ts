import { jobView } from '../../../../../services/pool/views';
import { checkAndMeasure } from '../../../../../store/base/jobs';
import { addSource, sourceOf } from '../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../server';
import { route } from '../../../respond';
import { uploadPath } from '../../../uploads';

/** Compares two copies of a zone file that were uploaded before: names that are gone, and names that moved to parking servers. */
export const POST = route('POST /sources/zones', async ({ body }) => {
  const { name, older, newer, origin, parking, excludedEndings, checkAfter } = body;
  const params = { older: uploadPath(older), newer: uploadPath(newer), origin, parking, excludedEndings };
  const store = await getStore();
  const sourceId = addSource(store, 'zones', name, { origin, parking });
  const next = checkAfter ? [checkAndMeasure({ sourceId })] : [];
  const job = await getEngine().addJob({ kind: 'zones', sourceId, params, next });
  return { source: sourceOf(store, sourceId), job: jobView(job) };
});
