import { jobView } from '../../../../../../services/pool/views';
import { jobsOfSource } from '../../../../../../store/base/jobs';
import { UNDOABLE } from '../../../../../../store/domains/undo';
import { readSource } from '../../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../../server';
import { notFound, Problem, readId, route } from '../../../../respond';

/** Takes back an import as a whole. */
export const POST = route('POST /sources/{id}/undo', async ({ params: { id } }) => {
  const store = await getStore();
  const source = readSource(store, readId(id));
  if (!source) throw notFound(`source ${id}`);
  if (!UNDOABLE.includes(source.kind))
    throw new Problem(409, 'Cannot be undone', 'Only what was brought in as one can be undone as one.');
  if (source.undone_at !== null) throw new Problem(409, 'Undone already', `"${source.name}" was undone before.`);
  const open = jobsOfSource(store, source.id).find(({ state }) => ['running', 'queued', 'paused'].includes(state));
  if (open)
    throw new Problem(
      409,
      'Still at work',
      `Job ${open.id} still works on "${source.name}".`,
      'Cancel it, or wait for it.',
    );
  const job = await getEngine().addJob({ kind: 'undo', sourceId: source.id, params: {} });
  return { job: jobView(job) };
});
