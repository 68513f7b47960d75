import { planFor } from '../../../../services/plan/plan';
import { listBriefs } from '../../../../store/shortlist/briefs';
import { currentBrief } from '../../../server';
import { notFound, route } from '../../respond';

/** Which of a brief's shortlist to go for, up to what and in which order, with what comes of winning and losing. */
export const GET = route('GET /plan', async ({ query: { brief: id, risk } }) => {
  const { store, engine, brief: current } = await currentBrief();
  const brief = id === undefined ? current : listBriefs(store).find((one) => one.id === id);
  if (!brief) throw notFound(`brief ${id}`);
  return await planFor(store, engine, brief, risk ?? brief.risk);
});
