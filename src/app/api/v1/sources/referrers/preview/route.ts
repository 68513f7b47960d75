import { ReferrerLookSchema } from '../../../../../../contracts/crawl';
import { getEngine } from '../../../../../server';
import { handle } from '../../../../respond';
import { saveUpload, uploadedStream, uploadPath } from '../../../../uploads';

/** How a referrer file would be read, and what each cut keeps out. The file itself, or JSON that names its upload. */
export const POST = handle(async (request) => {
  const isJson = request.headers.get('content-type')?.startsWith('application/json');
  const { upload, cuts, columns } = ReferrerLookSchema.parse(
    isJson ? await request.json() : { upload: await saveUpload(await uploadedStream(request)) },
  );
  return Response.json({ upload, ...(await getEngine().previewReferrers(uploadPath(upload), cuts, columns)) });
});
