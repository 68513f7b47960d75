import { csvLine } from '../../../../../../core/formats/csv';
import { eachSetAside } from '../../../../../../store/crawl/crawl';
import { eachLeftOut } from '../../../../../../store/crawl/find-causes';
import { LEAVE_OUT_WORDS } from '../../../../../../ui/crawl/leave-out-words';
import { getStore } from '../../../../../server';
import { readId, route } from '../../../../respond';
import { streamText } from '../../../../stream';

/** Domains that a source named and that were set aside, with the reason, as CSV. */
export const GET = route('GET /sources/{id}/aside', async ({ params: { id } }) => {
  const store = await getStore();
  const sourceId = readId(id);
  function* lines(): Generator<string> {
    yield csvLine(['domain', 'reason']);
    for (const { name, reason } of eachSetAside(store, sourceId)) yield csvLine([name, reason]);
    for (const { name, causes } of eachLeftOut(store, sourceId))
      yield csvLine([name, `left out: ${causes.map((cause) => LEAVE_OUT_WORDS[cause]).join(', ')}`]);
  }
  return streamText(lines(), 'text/csv; charset=utf-8', `set-aside-${sourceId}.csv`);
});
