import { CutSchema } from '../../../../../../contracts/source-forms';
import { getEngine } from '../../../../../server';
import { Problem, route } from '../../../../respond';
import { saveUpload, uploadedStream, uploadPath } from '../../../../uploads';

/** Takes a link export (as the body, or in a multipart form) and says how it would be read; `?upload=` looks again. */
export const POST = route('POST /sources/cuts/preview', async ({ request }) => {
  const query = request.nextUrl.searchParams;
  const upload = query.get('upload') ?? (await saveUpload(await uploadedStream(request)));
  if (!/^[a-f0-9-]{36}$/.test(upload)) throw new Problem(400, 'The request makes no sense', 'That is no upload.');
  const shape = CutSchema.pick({ delimiter: true, hasHeader: true, columns: true }).partial();
  const given = shape.parse({
    delimiter: query.get('delimiter') ?? undefined,
    hasHeader: query.has('header') ? query.get('header') === '1' : undefined,
    columns: query.get('columns')?.split(','),
  });
  return { upload, ...(await getEngine().previewCut(uploadPath(upload), given)) };
});
