import { readSource } from '../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../server';
import { route } from '../../../respond';
import { uploadPath } from '../../../uploads';

/** Takes what the cuts leave of a referrer file, into the pool or as seeds of a crawl. */
export const POST = route('POST /sources/referrers', async ({ body }) => {
  const { upload, ...order } = body;
  const { sourceId, seeds } = await getEngine().importReferrers({ ...order, path: uploadPath(upload) });
  const source = sourceId === null ? null : readSource(await getStore(), sourceId);
  return { source, seeds };
});
