import { domainRow } from '../../../../../../app/api/domain-row';
import { rebuildPlan } from '../../../../../../services/rebuild/rebuild';
import { changeSteps } from '../../../../../../store/portfolio/rebuild';
import { route } from '../../../../respond';

/** What to bring back of a site: its pages by what they carry, the subjects, its former outline, and the checklist. */
export const GET = route('GET /domains/{name}/rebuild', async ({ params: { name } }) => {
  const { store, row } = await domainRow(name);
  return await rebuildPlan(store, row);
});

/** Decides on steps of the checklist, or adds one; null takes it back. */
export const PATCH = route('PATCH /domains/{name}/rebuild', async ({ params: { name }, body }) => {
  const { steps } = body;
  const { store, row } = await domainRow(name);
  return { before: changeSteps(store, row.id, steps) };
});
