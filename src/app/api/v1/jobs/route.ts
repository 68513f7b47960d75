import { jobView } from '../../../../services/pool/views';
import { listJobs } from '../../../../store/base/jobs';
import { getStore } from '../../../server';
import { handle } from '../../respond';

export const GET = handle(async () => Response.json({ jobs: listJobs(await getStore()).map(jobView) }));
