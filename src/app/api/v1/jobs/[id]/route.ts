import { jobView } from '../../../../../services/pool/views';
import { readJob } from '../../../../../store/base/jobs';
import { getStore } from '../../../../server';
import { notFound, readId, route } from '../../../respond';

export const GET = route('GET /jobs/{id}', async ({ params: { id } }) => {
  const job = readJob(await getStore(), readId(id));
  if (!job) throw notFound(`job ${id}`);
  return jobView(job);
});
