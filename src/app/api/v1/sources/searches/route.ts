import { jobView } from '../../../../../services/pool/views';
import { readSettings } from '../../../../../store/base/settings';
import { currentBrief, getEngine, getStore } from '../../../../server';
import { Problem, route } from '../../../respond';

/** Searches for phrases, and tells which results' sites are about them. The rows come with the job. */
export const POST = route('POST /sources/searches', async ({ body }) => {
  const { engine: given, ...params } = body;
  const engine = given || readSettings(await getStore()).searchEngine;
  if (!engine)
    throw new Problem(
      400,
      'No search is set',
      'There is no search to ask.',
      'Name one in Settings, by the address of its OpenSearch description.',
    );
  const { brief } = await currentBrief();
  const job = await getEngine().addJob({
    kind: 'search',
    sourceId: null,
    params: { engine, ...params, briefWords: brief.subjectWords },
  });
  return { job: jobView(job) };
});
