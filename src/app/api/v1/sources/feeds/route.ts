import { originOf } from '../../../../../core/connections/connection';
import { connectionOf } from '../../../../../services/connections/connections';
import { jobView } from '../../../../../services/pool/views';
import { addSource, keepDetail, sourceOf } from '../../../../../store/sources/sources';
import { addWatch } from '../../../../../store/sources/watches';
import { getEngine, getStore } from '../../../../server';
import { Problem, route } from '../../../respond';
import { uploadPath } from '../../../uploads';

const MINUTE = 60_000;

/** Reads a venue: its feed (docs/venue-feed.md), or any table by a mapping. With `everyMinutes` it is read again and again. */
export const POST = route('POST /sources/feeds', async ({ body }) => {
  const { name, url, connection, table: given, everyMinutes } = body;
  const store = await getStore();
  const described = connection === null ? null : connectionOf(store, connection);
  if (described && described.use !== 'listings')
    throw new Problem(400, 'No listings', `${described.title} is not described as one that has listings.`);
  const target = described ? originOf(described) : url;
  if (target === null) throw new Problem(400, 'Nothing to read', 'Say an address, or which service is asked.');
  const called = name || described?.title || new URL(target).host;
  let table = null;
  if (given) {
    const { upload, venue, currency, ...shape } = given;
    if (!shape.columns.includes('domain'))
      throw new Problem(400, 'No domain column', 'No column is marked as the domain.', 'Mark the one that holds it.');
    const { format, keys } = await getEngine().settleList(uploadPath(upload), shape);
    table = { ...shape, format, keys, venue, currency };
  }
  const sourceId = addSource(store, 'venue', called, { url, table, connection });
  if (everyMinutes !== null) {
    const everyMs = everyMinutes * MINUTE;
    const options = { excludedEndings: [], checkAfter: false };
    const watch = { kind: 'venue' as const, target, name: called, options, sourceId, everyMs };
    addWatch(store, watch, store.now() + everyMs);
    keepDetail(store, sourceId, { everyMinutes });
  }
  const job = await getEngine().addJob({
    kind: 'venue',
    sourceId,
    params: { url, table, connection },
    next: [{ kind: 'measure', sourceId, params: { sourceId } }],
  });
  return { source: sourceOf(store, sourceId), job: jobView(job) };
});
