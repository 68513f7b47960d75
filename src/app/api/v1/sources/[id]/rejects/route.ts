import { csvLine } from '../../../../../../core/formats/csv';
import { eachReject, readSource } from '../../../../../../store/sources/sources';
import { getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';
import { streamText } from '../../../../stream';

/** Rows that were set aside, with line number and reason, as CSV. */
export const GET = route('GET /sources/{id}/rejects', async ({ params: { id } }) => {
  const store = await getStore();
  const source = readSource(store, readId(id));
  if (!source) throw notFound(`source ${id}`);
  function* lines() {
    yield csvLine(['line', 'reason', 'sample']);
    for (const { line, reason, sample } of eachReject(store, readId(id))) yield csvLine([line, reason, sample]);
  }
  return streamText(lines(), 'text/csv; charset=utf-8', `set-aside-${source.id}.csv`);
});
