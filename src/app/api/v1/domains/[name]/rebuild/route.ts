import { domainRow } from '../../../../../../app/api/domain-row';
import { StepChangesSchema } from '../../../../../../contracts/rebuild';
import { rebuildPlan } from '../../../../../../services/rebuild/rebuild';
import { changeSteps } from '../../../../../../store/portfolio/rebuild';
import { handle, readJson } from '../../../../respond';

/** What to bring back of a site: its pages by what they carry, the subjects, its former outline, and the checklist. */
export const GET = handle(async (_, { name }) => {
  const { store, row } = await domainRow(name);
  return Response.json(await rebuildPlan(store, row));
});

/** Decides on steps of the checklist, or adds one; null takes it back. */
export const PATCH = handle(async (request, { name }) => {
  const { steps } = await readJson(request, StepChangesSchema);
  const { store, row } = await domainRow(name);
  return Response.json({ before: changeSteps(store, row.id, steps) });
});
