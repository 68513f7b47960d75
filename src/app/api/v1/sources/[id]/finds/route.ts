import { jobView } from '../../../../../../services/pool/views';
import { checkAndMeasure, jobsOfSource } from '../../../../../../store/base/jobs';
import { switchCounts } from '../../../../../../store/crawl/find-causes';
import { keepDetail, readSource } from '../../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

/** What the switches of a crawl or cut leave out of its finds, and how many each would. */
export const GET = route('GET /sources/{id}/finds', async ({ params: { id } }) => {
  const store = await getStore();
  const sourceId = readId(id);
  if (!readSource(store, sourceId)) throw notFound(`source ${id}`);
  return switchCounts(store, sourceId);
});

/** Switches them; what comes back into the finds is checked, where the source's finds are. */
export const PATCH = route('PATCH /sources/{id}/finds', async ({ params: { id }, body }) => {
  const { leaveOut } = body;
  const store = await getStore();
  const sourceId = readId(id);
  if (!readSource(store, sourceId)) throw notFound(`source ${id}`);
  keepDetail(store, sourceId, { leaveOut });
  const first = jobsOfSource(store, sourceId).at(0);
  const isChecked = first !== undefined && (first.params.checkAfter ?? first.next.length > 0);
  const job = await getEngine().addJob({
    kind: 'finds',
    sourceId,
    params: { leaveOut },
    next: isChecked ? [checkAndMeasure({ sourceId, since: first.createdAt })] : [],
  });
  return { job: jobView(job), ...switchCounts(store, sourceId) };
});
