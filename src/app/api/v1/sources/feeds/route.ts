import { jobView } from '../../../../../services/pool/views';
import { addSource, keepDetail, sourceOf } from '../../../../../store/sources/sources';
import { addWatch } from '../../../../../store/sources/watches';
import { getEngine, getStore } from '../../../../server';
import { Problem, route } from '../../../respond';
import { uploadPath } from '../../../uploads';

const MINUTE = 60_000;

/** Reads a venue: its feed (docs/venue-feed.md), or any table by a mapping. With `everyMinutes` it is read again and again. */
export const POST = route('POST /sources/feeds', async ({ body }) => {
  const { name, url, table: given, everyMinutes } = body;
  const store = await getStore();
  let table = null;
  if (given) {
    const { upload, venue, currency, ...shape } = given;
    if (!shape.columns.includes('domain'))
      throw new Problem(400, 'No domain column', 'No column is marked as the domain.', 'Mark the one that holds it.');
    const { format, keys } = await getEngine().settleList(uploadPath(upload), shape);
    table = { ...shape, format, keys, venue, currency };
  }
  const sourceId = addSource(store, 'venue', name || new URL(url).host, { url, table });
  if (everyMinutes !== null) {
    const everyMs = everyMinutes * MINUTE;
    const options = { excludedEndings: [], checkAfter: false };
    const watch = { kind: 'venue' as const, target: url, name: name || new URL(url).host, options, sourceId, everyMs };
    addWatch(store, watch, store.now() + everyMs);
    keepDetail(store, sourceId, { everyMinutes });
  }
  const job = await getEngine().addJob({
    kind: 'venue',
    sourceId,
    params: { url, table },
    next: [{ kind: 'measure', sourceId, params: { sourceId } }],
  });
  return { source: sourceOf(store, sourceId), job: jobView(job) };
});
