import { ideaViews } from '../../../../../services/ideas/ideas';
import { readIdeaRun } from '../../../../../store/ideas/ideas';
import { listBriefs } from '../../../../../store/shortlist/briefs';
import { getStore } from '../../../../server';
import { notFound, readId, route } from '../../../respond';

/** The best of a run, with what is known of each ending. */
export const GET = route('GET /ideas/{id}', async ({ query: { offset, limit }, params: { id } }) => {
  const store = await getStore();
  const run = readIdeaRun(store, readId(id));
  if (!run) throw notFound(`run ${id}`);
  const brief = listBriefs(store).find(({ id: briefId }) => briefId === run.briefId);
  if (!brief) throw notFound(`brief of run ${id}`);
  return {
    run,
    ...ideaViews(store, { id: run.id, endings: run.pattern.endings, brief }, offset, limit),
  };
});
