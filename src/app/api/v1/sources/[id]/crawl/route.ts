import { crawlView } from '../../../../../../services/crawl/crawl-view';
import { jobView } from '../../../../../../services/pool/views';
import type { Store } from '../../../../../../store/base/database';
import { checkAndMeasure, jobsOfSource, setJobParams } from '../../../../../../store/base/jobs';
import { setSiteState } from '../../../../../../store/crawl/sites';
import { recordAct, type Touched } from '../../../../../../store/domains/acts';
import { readSource } from '../../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../../server';
import { answered, notFound, readId, route } from '../../../../respond';

/** A crawl as it stands: funnel, sites, traps, troubles, and how it went over time. */
export const GET = route('GET /sources/{id}/crawl', async ({ params: { id } }) => {
  const view = crawlView(await getStore(), readId(id));
  if (!view) throw notFound(`crawl ${id}`);
  return view;
});

/** Changes budgets, or drops sites, while it runs; a crawl that has ended goes on with the new budgets. */
export const PATCH = route('PATCH /sources/{id}/crawl', async ({ params: { id }, body }) => {
  const { drop, ...budgets } = body;
  const store = await getStore();
  const sourceId = readId(id);
  const last = jobsOfSource(store, sourceId)
    .filter((job) => job.kind === 'crawl')
    .at(-1);
  if (!last) throw notFound(`crawl ${id}`);
  const params: Record<string, unknown> = { ...last.params, ...budgets };
  const isOpen = ['queued', 'running', 'paused'].includes(last.state);
  const hasBudgets = Object.keys(budgets).length > 0;
  const touched: Touched[] = drop.map((site) => ({ table: 'crawl_sites', where: { source_id: sourceId, site } }));
  if (isOpen && hasBudgets) touched.push({ table: 'jobs', where: { id: last.id } });
  const { act } = recordAct(
    store,
    { kind: 'crawl', words: wordsOf(store, sourceId, drop, hasBudgets) },
    touched,
    () => {
      for (const site of drop)
        if (!setSiteState(store, sourceId, site, 'dropped', 'dropped by you'))
          throw notFound(`site ${site} in this crawl`);
      if (isOpen && hasBudgets) setJobParams(store, last.id, params);
    },
  );
  if (isOpen) return { job: jobView({ ...last, params }), act };
  if (!hasBudgets) return { job: jobView(last), act };
  const job = await getEngine().addJob({
    kind: 'crawl',
    sourceId,
    params,
    next: params.checkAfter === false ? [] : [checkAndMeasure({ sourceId, since: last.createdAt })],
  });
  return answered(202, { job: jobView(job), act });
});

/** What was changed, as the list of last acts says it. */
function wordsOf(store: Store, sourceId: number, drop: readonly string[], hasBudgets: boolean): string {
  const dropped = drop.length === 1 ? `${drop[0]} dropped` : `${drop.length} sites dropped`;
  const said = [...(drop.length > 0 ? [dropped] : []), ...(hasBudgets ? ['other budgets'] : [])];
  return `${readSource(store, sourceId)?.name ?? 'a crawl'}: ${said.join(', ')}`;
}
