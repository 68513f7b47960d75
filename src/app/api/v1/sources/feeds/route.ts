import { addSource, readSource } from '../../../../../store/sources';
import { getEngine, getStore } from '../../../../server';
import { jobView } from '../../../../views';
import { handle, readJson } from '../../../respond';
import { FeedSchema } from '../../../schemas';

/** Reads a venue's feed (docs/venue-feed.md). */
export const POST = handle(async (request) => {
  const { name, url } = await readJson(request, FeedSchema);
  const store = await getStore();
  const sourceId = addSource(store, 'venue', name || new URL(url).host, { url });
  const job = await getEngine().addJob({
    kind: 'venue',
    sourceId,
    params: { url },
    next: [{ kind: 'measure', sourceId, params: { sourceId } }],
  });
  return Response.json({ source: readSource(store, sourceId), job: jobView(job) }, { status: 202 });
});
