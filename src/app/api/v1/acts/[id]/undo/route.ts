import { tellEngine } from '../../../../../../services/acts/acts';
import { ActChanged, undoAct } from '../../../../../../store/acts';
import { getEngine, getStore } from '../../../../../server';
import { handle, notFound, Problem, readId } from '../../../../respond';

/** Gives back what an act changed; one that was undone already stays so. */
export const POST = handle(async (_request, { id }) => {
  try {
    const store = await getStore();
    const act = undoAct(store, readId(id));
    if (!act) throw notFound(`act ${id}`);
    await tellEngine(store, getEngine(), act.kind);
    return Response.json(act);
  } catch (error) {
    if (error instanceof ActChanged)
      throw new Problem(409, 'It cannot be undone any more', error.message, 'Undo first what came after it.');
    throw error;
  }
});
