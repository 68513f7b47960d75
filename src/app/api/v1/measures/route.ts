import { MeasureSchema } from '../../../../contracts/measures';
import { registrableDomain } from '../../../../core/names/domain';
import { measureView } from '../../../../services/dossier/measured';
import { jobView } from '../../../../services/pool/views';
import { findDomain } from '../../../../store/domains/domains';
import { getEngine, getStore } from '../../../server';
import { handle, notFound, readJson } from '../../respond';

/** What measuring costs and what is measured next, with the reasons. */
export const GET = handle(async () => Response.json(measureView(await getStore())));

/** Takes the costly measures of some domains: the past, forwarding, referrers, word marks. */
export const POST = handle(async (request) => {
  const { ids = [], names = [], withinBudget = false } = await readJson(request, MeasureSchema);
  const store = await getStore();
  const named = names.map((name) => {
    const domain = registrableDomain(name);
    const row = domain && findDomain(store, domain.name);
    if (!row) throw notFound(`domain "${name.slice(0, 80)}" in the pool`);
    return row.id;
  });
  const params = {
    ids: [...ids, ...named],
    wantedBy: withinBudget ? 'by hand, within the budget' : 'by hand',
    isByHand: !withinBudget,
  };
  return Response.json(
    { job: jobView(await getEngine().addJob({ kind: 'inspect', sourceId: null, params })) },
    { status: 202 },
  );
});
