import { jobView } from '../../../../../../services/pool/views';
import { readSource } from '../../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../../server';
import { handle, notFound, Problem, readId } from '../../../../respond';

/** Reads a venue again now. */
export const POST = handle(async (_request, { id }) => {
  const source = readSource(await getStore(), readId(id));
  if (!source) throw notFound(`source ${id}`);
  if (source.kind !== 'venue' || source.undone_at !== null)
    throw new Problem(409, 'Not a venue', 'Only a venue that is not undone can be read again.');
  const { url, table = null } = source.detail;
  const job = await getEngine().addJob({ kind: 'venue', sourceId: source.id, params: { url, table } });
  return Response.json({ job: jobView(job) }, { status: 202 });
});
