import { CutSchema } from '../../../../../contracts/sources';
import { jobView } from '../../../../../services/pool/views';
import { checkAndMeasure } from '../../../../../store/base/jobs';
import { addSource, readSource } from '../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../server';
import { handle, Problem, readJson } from '../../../respond';
import { uploadPath } from '../../../uploads';

/** Cuts a link export that was uploaded before to the outside domains it links to. */
export const POST = handle(async (request) => {
  const { upload, name, checkAfter, ...order } = await readJson(request, CutSchema);
  const { columns, delimiter, hasHeader } = order;
  if (!columns.includes('from') || !columns.includes('to'))
    throw new Problem(400, 'Two columns are missing', 'Mark the linking page (from) and the linked page (to).');
  const path = uploadPath(upload);
  const { format, keys } = await getEngine().settleCut(path, { columns, delimiter, hasHeader });
  const store = await getStore();
  const sourceId = addSource(store, 'cut', name, {
    columns,
    leastSites: order.leastSites,
    leaveOut: order.leaveOut,
  });
  const job = await getEngine().addJob({
    kind: 'cut',
    sourceId,
    params: { path, format, keys, ...order },
    next: checkAfter ? [checkAndMeasure({ sourceId })] : [],
  });
  return Response.json({ source: readSource(store, sourceId), job: jobView(job) }, { status: 202 });
});
