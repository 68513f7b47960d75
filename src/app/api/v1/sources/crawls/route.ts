import { jobView } from '../../../../../services/pool/views';
import { checkAndMeasure } from '../../../../../store/base/jobs';
import { addSource, sourceOf } from '../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../server';
import { route } from '../../../respond';

export const POST = route('POST /sources/crawls', async ({ body }) => {
  const { name, checkAfter, ...params } = body;
  const store = await getStore();
  const first = params.seeds[0];
  const address = typeof first === 'string' ? first : first.address;
  const more = params.seeds.length > 1 ? ` and ${params.seeds.length - 1} more` : '';
  const sourceId = addSource(store, 'crawl', name || `${address.replace(/^https?:\/\//, '')}${more}`, params);
  const job = await getEngine().addJob({
    kind: 'crawl',
    sourceId,
    params: { ...params, checkAfter },
    next: checkAfter ? [checkAndMeasure({ sourceId, since: store.now() })] : [],
  });
  return { source: sourceOf(store, sourceId), job: jobView(job) };
});
