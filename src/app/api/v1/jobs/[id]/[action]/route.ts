import { jobView } from '../../../../../../services/pool/views';
import { getEngine } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

const ACTIONS = ['pause', 'resume', 'cancel'] as const;

export const POST = route('POST /jobs/{id}/{action}', async ({ params: { id, action } }) => {
  const known = ACTIONS.find((entry) => entry === action);
  if (!known) throw notFound(`action "${action.slice(0, 40)}"; a job can be paused, resumed and cancelled`);
  return jobView(await getEngine().steerJob(readId(id), known));
});
