import { jobView } from '../../../../../services/pool/views';
import { checkAndMeasure } from '../../../../../store/base/jobs';
import { addSource, sourceOf } from '../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../server';
import { Problem, route } from '../../../respond';
import { uploadPath } from '../../../uploads';

/** Cuts a link export that was uploaded before to the outside domains it links to. */
export const POST = route('POST /sources/cuts', async ({ body }) => {
  const { upload, name, checkAfter, ...order } = body;
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
  return { source: sourceOf(store, sourceId), job: jobView(job) };
});
