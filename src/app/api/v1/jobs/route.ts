import { listJobs } from '../../../../store/jobs';
import { getStore } from '../../../server';
import { jobView } from '../../../views';
import { handle } from '../../respond';

export const GET = handle(async () => Response.json({ jobs: listJobs(await getStore()).map(jobView) }));
