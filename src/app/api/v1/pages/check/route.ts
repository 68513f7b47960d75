import { seedAddress } from '../../../../../core/crawl/address';
import { jobView } from '../../../../../services/pool/views';
import { getEngine } from '../../../../server';
import { Problem, route } from '../../../respond';

/** Begins to look at one page: which of its outside links work, and what the dead ones were worth. */
export const POST = route('POST /pages/check', async ({ body }) => {
  const { url } = body;
  if (!seedAddress(url))
    throw new Problem(400, 'The request makes no sense', `"${url.slice(0, 80)}" is no web address.`);
  const job = await getEngine().addJob({ kind: 'page', sourceId: null, params: { url } });
  return { job: jobView(job) };
});
