import { jobView } from '../../../../services/pool/views';
import { checkAndMeasure } from '../../../../store/base/jobs';
import { getEngine, getStore } from '../../../server';
import { namedRows } from '../../domain-row';
import { route } from '../../respond';

const FEW = 20;

/** Checks and measures the domains of a source, or some by id or name. */
export const POST = route('POST /checks', async ({ body }) => {
  const { sourceId, ids, names } = body;
  const store = await getStore();
  const named = namedRows(store, names ?? []).map(({ id }) => id);
  // a person waits for a few names, and wants to know all of them
  const isFew = sourceId === undefined && (ids ?? named).length <= FEW;
  const order = checkAndMeasure(
    sourceId !== undefined ? { sourceId } : { ids: ids ?? named },
    isFew ? { depth: 'full', isRaised: true } : {},
    isFew ? { wantedBy: 'by hand', isByHand: true } : null,
  );
  return { job: jobView(await getEngine().addJob(order)) };
});
