import { figuresService } from '../../../../services/connections/figures';
import { checkAndMeasure } from '../../../../store/base/jobs';
import { type Act, tagNamed } from '../../../../store/domains/marks';
import { listBriefs } from '../../../../store/shortlist/briefs';
import { getEngine, getStore } from '../../../server';
import { namedRows } from '../../domain-row';
import { answered, notFound, route } from '../../respond';

/** Does one thing to some domains, or to all that pass a sieve. Answers with the number of the action, by which it can be undone. */
export const POST = route('POST /actions', async ({ body }) => {
  const { act, which } = body;
  const store = await getStore();
  const engine = getEngine();
  const asked = 'names' in which ? { ids: namedRows(store, which.names).map(({ id }) => id) } : which;
  if (act.kind === 'measure') {
    const { ids } = await engine.idsOf(asked);
    if (ids.length > 0) await engine.addJob(checkAndMeasure({ ids }));
    return answered(202, { action: null, changed: ids.length });
  }
  if (act.kind === 'inspect') {
    const { ids } = await engine.idsOf(asked);
    const params = { ids, wantedBy: 'by hand', isByHand: true };
    if (ids.length > 0) await engine.addJob({ kind: 'inspect', sourceId: null, params });
    return answered(202, { action: null, changed: ids.length });
  }
  if (act.kind === 'figures') {
    const { id, sourceId } = figuresService(store);
    const { ids } = await engine.idsOf(asked);
    if (ids.length > 0) await engine.addJob({ kind: 'figures', sourceId, params: { connection: id, ids } });
    return answered(202, { action: null, changed: ids.length });
  }
  if ('brief' in act && !listBriefs(store).some(({ id }) => id === act.brief)) throw notFound(`brief ${act.brief}`);
  const done: Act =
    act.kind === 'tag' || act.kind === 'untag' ? { kind: act.kind, tag: tagNamed(store, act.tag) } : act;
  return await engine.act(done, asked);
});
