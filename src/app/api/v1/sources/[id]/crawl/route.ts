import { setSiteState } from '../../../../../../store/crawl';
import { write } from '../../../../../../store/database';
import { checkAndMeasure, jobsOfSource, setJobParams } from '../../../../../../store/jobs';
import { crawlView } from '../../../../../crawl-view';
import { getEngine, getStore } from '../../../../../server';
import { jobView } from '../../../../../views';
import { handle, notFound, readId, readJson } from '../../../../respond';
import { CrawlChangeSchema } from '../../../../schemas';

/** A crawl as it stands: funnel, sites, traps, troubles, and how it went over time. */
export const GET = handle(async (_request, { id }) => {
  const view = crawlView(await getStore(), readId(id));
  if (!view) throw notFound(`crawl ${id}`);
  return Response.json(view);
});

/** Changes budgets, or drops sites, while it runs; a crawl that has ended goes on with the new budgets. */
export const PATCH = handle(async (request, { id }) => {
  const { drop, ...budgets } = await readJson(request, CrawlChangeSchema);
  const store = await getStore();
  const sourceId = readId(id);
  const last = jobsOfSource(store, sourceId)
    .filter((job) => job.kind === 'crawl')
    .at(-1);
  if (!last) throw notFound(`crawl ${id}`);
  write(store, () => {
    for (const site of drop)
      if (!setSiteState(store, sourceId, site, 'dropped', 'dropped by you'))
        throw notFound(`site ${site} in this crawl`);
  });
  const params: Record<string, unknown> = { ...last.params, ...budgets };
  if (['queued', 'running', 'paused'].includes(last.state)) {
    setJobParams(store, last.id, params);
    return Response.json({ job: jobView({ ...last, params }) });
  }
  if (Object.keys(budgets).length === 0) return Response.json({ job: jobView(last) });
  const job = await getEngine().addJob({
    kind: 'crawl',
    sourceId,
    params,
    next: params.checkAfter === false ? [] : [checkAndMeasure({ sourceId, since: last.createdAt })],
  });
  return Response.json({ job: jobView(job) }, { status: 202 });
});
