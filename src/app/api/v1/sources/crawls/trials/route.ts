import { jobView } from '../../../../../../services/pool/views';
import { getEngine } from '../../../../../server';
import { route } from '../../../../respond';

/** Tries seeds before a crawl: a few pages of each. The rows come with the job. */
export const POST = route('POST /sources/crawls/trials', async ({ body }) => {
  const params = body;
  const job = await getEngine().addJob({ kind: 'trial', sourceId: null, params });
  return { job: jobView(job) };
});
