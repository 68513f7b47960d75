import { isUnset } from '../../../../../core/setup/abilities';
import { jobView } from '../../../../../services/pool/views';
import { readSettings } from '../../../../../store/base/settings';
import { currentBrief, getEngine, getStore } from '../../../../server';
import { Problem, route } from '../../../respond';

/** Searches for phrases, and tells which results' sites are about them. The rows come with the job. */
export const POST = route('POST /sources/searches', async ({ body }) => {
  const { engine: given, ...params } = body;
  const engine = given || null;
  if (engine === null && isUnset('search', readSettings(await getStore())))
    throw new Problem(400, 'No search is set up', 'There is no search to ask.', 'Set one up, under “What works”.');
  const { brief } = await currentBrief();
  const job = await getEngine().addJob({
    kind: 'search',
    sourceId: null,
    params: { engine, ...params, briefWords: brief.subjectWords },
  });
  return { job: jobView(job) };
});
