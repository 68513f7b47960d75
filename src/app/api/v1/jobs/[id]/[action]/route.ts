import { jobView } from '../../../../../../services/pool/views';
import { getEngine } from '../../../../../server';
import { handle, notFound, readId } from '../../../../respond';

const ACTIONS = ['pause', 'resume', 'cancel'] as const;

export const POST = handle(async (_request, { id, action }) => {
  const known = ACTIONS.find((entry) => entry === action);
  if (!known) throw notFound(`action "${action.slice(0, 40)}"; a job can be paused, resumed and cancelled`);
  return Response.json(jobView(await getEngine().steerJob(readId(id), known)));
});
