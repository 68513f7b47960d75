import { addSource, readSource } from '../../../../../store/sources';
import { getEngine, getStore } from '../../../../server';
import { jobView } from '../../../../views';
import { handle } from '../../../respond';
import { LinksSchema } from '../../../schemas';
import { saveUpload, uploadedStream, uploadPath } from '../../../uploads';

/** Takes the export of a link index (the file as body or multipart, `?name=`), then measures anew. */
export const POST = handle(async (request) => {
  const upload = await saveUpload(await uploadedStream(request));
  const { name } = LinksSchema.parse({ upload, name: request.nextUrl.searchParams.get('name') ?? 'Link index' });
  const path = uploadPath(upload);
  await getEngine().previewList(path, {});
  const store = await getStore();
  const sourceId = addSource(store, 'links', name, {});
  const job = await getEngine().addJob({
    kind: 'links',
    sourceId,
    params: { path },
    next: [{ kind: 'measure', sourceId, params: { sourceId } }],
  });
  return Response.json({ source: readSource(store, sourceId), job: jobView(job) }, { status: 202 });
});
