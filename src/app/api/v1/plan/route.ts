import { RISKS, type Risk } from '../../../../core/bids/risk';
import { planFor } from '../../../../services/plan/plan';
import { listBriefs } from '../../../../store/shortlist/briefs';
import { currentBrief } from '../../../server';
import { notFound, Problem, readId, route } from '../../respond';

/** Which of a brief's shortlist to go for, up to what and in which order, with what comes of winning and losing. */
export const GET = route('GET /plan', async ({ request }) => {
  const { store, engine, brief: current } = await currentBrief();
  const asked = request.nextUrl.searchParams;
  const id = asked.get('brief');
  const brief = id === null ? current : listBriefs(store).find((one) => one.id === readId(id));
  if (!brief) throw notFound(`brief ${id}`);
  const risk = asked.get('risk') ?? brief.risk;
  if (!RISKS.includes(risk as Risk))
    throw new Problem(400, 'The request makes no sense', `"${risk.slice(0, 40)}" is none of ${RISKS.join(', ')}.`);
  return await planFor(store, engine, brief, risk as Risk);
});
