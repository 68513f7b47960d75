import { tellEngine } from '../../../../../../services/acts/acts';
import { undoAct } from '../../../../../../store/domains/acts';
import { getEngine, getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

/** Gives back what an act changed; one that was undone already stays so. */
export const POST = route('POST /acts/{id}/undo', async ({ params: { id } }) => {
  const store = await getStore();
  const act = undoAct(store, readId(id));
  if (!act) throw notFound(`act ${id}`);
  await tellEngine(store, getEngine(), act.kind);
  return act;
});
