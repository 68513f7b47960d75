import { jobView } from '../../../../../../services/pool/views';
import { readSource } from '../../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../../server';
import { notFound, Problem, readId, route } from '../../../../respond';

/** Reads a venue again now. */
export const POST = route('POST /sources/{id}/refresh', async ({ params: { id } }) => {
  const source = readSource(await getStore(), readId(id));
  if (!source) throw notFound(`source ${id}`);
  if (source.kind !== 'venue' || source.undone_at !== null)
    throw new Problem(409, 'Not a venue', 'Only a venue that is not undone can be read again.');
  const { url = null, table = null, connection = null } = source.detail;
  const job = await getEngine().addJob({ kind: 'venue', sourceId: source.id, params: { url, table, connection } });
  return { job: jobView(job) };
});
