import { jobView } from '../../../../../services/pool/views';
import { readJob } from '../../../../../store/base/jobs';
import { getStore } from '../../../../server';
import { handle, notFound, readId } from '../../../respond';

export const GET = handle(async (_request, { id }) => {
  const job = readJob(await getStore(), readId(id));
  if (!job) throw notFound(`job ${id}`);
  return Response.json(jobView(job));
});
