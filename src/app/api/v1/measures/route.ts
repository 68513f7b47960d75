import { measureView } from '../../../../services/dossier/measured';
import { jobView } from '../../../../services/pool/views';
import { getEngine, getStore } from '../../../server';
import { namedRows } from '../../domain-row';
import { route } from '../../respond';

/** What measuring costs and what is measured next, with the reasons. */
export const GET = route('GET /measures', async () => measureView(await getStore()));

/** Takes the costly measures of some domains: the past, forwarding, referrers, trademarks. */
export const POST = route('POST /measures', async ({ body }) => {
  const { ids = [], names = [], withinBudget = false } = body;
  const store = await getStore();
  const named = namedRows(store, names).map(({ id }) => id);
  const params = {
    ids: [...ids, ...named],
    wantedBy: withinBudget ? 'by hand, within the budget' : 'by hand',
    isByHand: !withinBudget,
  };
  return { job: jobView(await getEngine().addJob({ kind: 'inspect', sourceId: null, params })) };
});
