import { z } from 'zod';
import { jobView } from '../../../../../../services/pool/views';
import { jobRows, readJob } from '../../../../../../store/base/jobs';
import { getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

/** A job with what it found out so far: rows of a trial or a search. */
export const GET = route('GET /jobs/{id}/rows', async ({ params: { id } }) => {
  const store = await getStore();
  const job = readJob(store, readId(id));
  if (!job) throw notFound(`job ${id}`);
  return { job: jobView(job), params: job.params, rows: jobRows(store, job.id, z.unknown()) };
});
