import { ReferrerLookSchema } from '../../../../../../contracts/crawl';
import { getEngine } from '../../../../../server';
import { route } from '../../../../respond';
import { saveUpload, uploadedStream, uploadPath } from '../../../../uploads';

/** How a referrer file would be read, and what each cut keeps out. The file itself, or JSON that names its upload. */
export const POST = route('POST /sources/referrers/preview', async ({ request, body }) => {
  const { upload, cuts, columns } =
    body ?? ReferrerLookSchema.parse({ upload: await saveUpload(await uploadedStream(request)) });
  return { upload, ...(await getEngine().previewReferrers(uploadPath(upload), cuts, columns)) };
});
