import { ReferrersSchema } from '../../../../../contracts/crawl';
import { readSource } from '../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../server';
import { handle, readJson } from '../../../respond';
import { uploadPath } from '../../../uploads';

/** Takes what the cuts leave of a referrer file, into the pool or as seeds of a crawl. */
export const POST = handle(async (request) => {
  const { upload, ...order } = await readJson(request, ReferrersSchema);
  const { sourceId, seeds } = await getEngine().importReferrers({ ...order, path: uploadPath(upload) });
  const source = sourceId === null ? null : readSource(await getStore(), sourceId);
  return Response.json({ source, seeds }, { status: 201 });
});
