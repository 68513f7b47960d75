import { ReferrerLookSchema } from '../../../../../../contracts/crawl';
import { getEngine } from '../../../../../server';
import { fileOf } from '../../../../bodies';
import { route } from '../../../../respond';
import { saveUpload, uploadPath } from '../../../../uploads';

/** How a referrer file would be read, and what each cut keeps out. The file itself, or JSON that names its upload. */
export const POST = route('POST /sources/referrers/preview', async ({ request, body }) => {
  const { upload, cuts, columns } =
    body ?? ReferrerLookSchema.parse({ upload: await saveUpload(await fileOf(request)) });
  return { upload, ...(await getEngine().previewReferrers(uploadPath(upload), cuts, columns)) };
});
