import { deleteBrief, hasOrders, listBriefs, saveBrief } from '../../../../../store/briefs';
import { getEngine, getStore } from '../../../../server';
import { handle, notFound, Problem, readId } from '../../../respond';
import { BriefSchema } from '../../../schemas';

export const PATCH = handle(async (request, { id }) => {
  const store = await getStore();
  const before = listBriefs(store).find((brief) => brief.id === readId(id));
  if (!before) throw notFound(`brief ${id}`);
  const { id: _, createdAt: __, ...old } = before;
  const brief = BriefSchema.parse({ ...old, ...(await request.json()) });
  if (brief.currency !== before.currency && hasOrders(store, before.id))
    throw new Problem(409, 'The currency stays', `Its accounts are in ${before.currency}.`, 'Make another brief.');
  saveBrief(store, brief, before.id);
  if (brief.subjectWords.join() !== before.subjectWords.join()) await getEngine().briefsChanged();
  // trust restarts at the trusted sites, so it is walked again when they change
  if (brief.trustedSites.join() !== before.trustedSites.join())
    await getEngine().addJob({ kind: 'measure', sourceId: null, params: { ids: [] } });
  return Response.json({ id: before.id });
});

export const DELETE = handle(async (_request, { id }) => {
  if (!deleteBrief(await getStore(), readId(id)))
    throw new Problem(
      409,
      'The brief stays',
      'It has a shortlist or orders, or there is no such brief.',
      'Clear its shortlist first.',
    );
  return new Response(null, { status: 204 });
});
