import { jobView } from '../../../../services/pool/views';
import { listJobs } from '../../../../store/base/jobs';
import { getStore } from '../../../server';
import { route } from '../../respond';

export const GET = route('GET /jobs', async () => ({ jobs: listJobs(await getStore()).map(jobView) }));
