import { BriefSchema } from '../../../../../contracts/briefs';
import { recordAct } from '../../../../../store/domains/acts';
import { deleteBrief, hasOrders, listBriefs, saveBrief } from '../../../../../store/shortlist/briefs';
import { getEngine, getStore } from '../../../../server';
import { notFound, Problem, readId, route } from '../../../respond';

export const PATCH = route('PATCH /briefs/{id}', async ({ params: { id }, body }) => {
  const store = await getStore();
  const before = listBriefs(store).find((brief) => brief.id === readId(id));
  if (!before) throw notFound(`brief ${id}`);
  const { id: _, createdAt: __, ...old } = before;
  const brief = BriefSchema.parse({ ...old, ...body });
  if (brief.currency !== before.currency && hasOrders(store, before.id))
    throw new Problem(409, 'The currency stays', `Its accounts are in ${before.currency}.`, 'Make another brief.');
  const { act } = recordAct(
    store,
    { kind: 'brief', words: `brief "${before.name}": changed` },
    [{ table: 'briefs', where: { id: before.id } }],
    () => saveBrief(store, brief, before.id),
  );
  if (brief.subjectWords.join() !== before.subjectWords.join()) await getEngine().briefsChanged();
  // trust restarts at the trusted sites, so it is walked again when they change
  if (brief.trustedSites.join() !== before.trustedSites.join())
    await getEngine().addJob({ kind: 'measure', sourceId: null, params: { ids: [] } });
  return { id: before.id, act };
});

export const DELETE = route('DELETE /briefs/{id}', async ({ params: { id } }) => {
  const store = await getStore();
  const brief = listBriefs(store).find((one) => one.id === readId(id));
  const { result: isGone, act } = recordAct(
    store,
    { kind: 'brief', words: `brief "${brief?.name ?? id}": deleted` },
    [
      { table: 'briefs', where: { id: readId(id) } },
      { table: 'shortlist_removed', where: { brief_id: readId(id) } },
    ],
    () => deleteBrief(store, readId(id)),
  );
  if (!isGone)
    throw new Problem(
      409,
      'The brief stays',
      'It has a shortlist or orders, or there is no such brief.',
      'Clear its shortlist first.',
    );
  return { act };
});
