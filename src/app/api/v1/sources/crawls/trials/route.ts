import { TrialSchema } from '../../../../../../contracts/crawl';
import { jobView } from '../../../../../../services/pool/views';
import { getEngine } from '../../../../../server';
import { handle, readJson } from '../../../../respond';

/** Tries seeds before a crawl: a few pages of each. The rows come with the job. */
export const POST = handle(async (request) => {
  const params = await readJson(request, TrialSchema);
  const job = await getEngine().addJob({ kind: 'trial', sourceId: null, params });
  return Response.json({ job: jobView(job) }, { status: 202 });
});
