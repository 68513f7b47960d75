import { countIdeas } from '../../../../core/ideas/pattern';
import { jobView } from '../../../../services/pool/views';
import { addIdeaRun, listIdeaRuns } from '../../../../store/ideas/ideas';
import { listBriefs } from '../../../../store/shortlist/briefs';
import { currentBrief, getEngine, getStore } from '../../../server';
import { notFound, Problem, route } from '../../respond';

const MOST_IDEAS = 5_000_000;

/** Patterns that were run for a brief, the latest first. */
export const GET = route('GET /ideas', async ({ query }) => {
  const { store, brief } = await currentBrief();
  return { runs: listIdeaRuns(store, query.brief ?? brief.id) };
});

/** Makes names from a pattern, judges them and keeps the best. */
export const POST = route('POST /ideas', async ({ body }) => {
  const { briefId, pattern } = body;
  const store = await getStore();
  if (!listBriefs(store).some(({ id }) => id === briefId)) throw notFound(`brief ${briefId}`);
  const count = countIdeas({ ...pattern, endings: pattern.endings.slice(0, 1) });
  if (count === 0) throw new Problem(400, 'The pattern gives nothing', 'No slot has a word.', 'Fill at least one.');
  if (count > MOST_IDEAS)
    throw new Problem(
      400,
      'The pattern gives too much',
      `It would give ${count.toLocaleString('en')} labels; ${MOST_IDEAS.toLocaleString('en')} are made at most.`,
      'Take words out of a slot.',
    );
  const id = addIdeaRun(store, briefId, pattern);
  const job = await getEngine().addJob({ kind: 'ideas', sourceId: null, params: { runId: id } });
  return { id, job: jobView(job) };
});
