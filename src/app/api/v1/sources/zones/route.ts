import { ZonesSchema } from '../../../../../contracts/sources';
import { jobView } from '../../../../../services/pool/views';
import { checkAndMeasure } from '../../../../../store/base/jobs';
import { addSource, readSource } from '../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../server';
import { handle } from '../../../respond';
import { uploadPath } from '../../../uploads';

/** Compares two copies of a zone file that were uploaded before: names that are gone, and names that moved to parking servers. */
export const POST = handle(async (request) => {
  const { name, older, newer, origin, parking, excludedEndings, checkAfter } = ZonesSchema.parse(await request.json());
  const params = { older: uploadPath(older), newer: uploadPath(newer), origin, parking, excludedEndings };
  const store = await getStore();
  const sourceId = addSource(store, 'zones', name, { origin, parking });
  const next = checkAfter ? [checkAndMeasure({ sourceId })] : [];
  const job = await getEngine().addJob({ kind: 'zones', sourceId, params, next });
  return Response.json({ source: readSource(store, sourceId), job: jobView(job) }, { status: 202 });
});
