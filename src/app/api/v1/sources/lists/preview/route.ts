import { ListSchema } from '../../../../../../contracts/source-forms';
import { getEngine } from '../../../../../server';
import { Problem, route } from '../../../../respond';
import { saveUpload, uploadedStream, uploadPath } from '../../../../uploads';

/**
 * Takes a file (as the body, or in a multipart form) and says how it would be read. With `?upload=` it looks again at a file
 * that was sent before; `delimiter`, `header` and `columns` correct the guess.
 */
export const POST = route('POST /sources/lists/preview', async ({ request }) => {
  const query = request.nextUrl.searchParams;
  const upload = query.get('upload') ?? (await saveUpload(await uploadedStream(request)));
  if (!/^[a-f0-9-]{36}$/.test(upload)) throw new Problem(400, 'The request makes no sense', 'That is no upload.');
  const shape = ListSchema.pick({ delimiter: true, hasHeader: true, columns: true }).partial();
  const given = shape.parse({
    delimiter: query.get('delimiter') ?? undefined,
    hasHeader: query.has('header') ? query.get('header') === '1' : undefined,
    columns: query.get('columns')?.split(','),
  });
  return { upload, ...(await getEngine().previewList(uploadPath(upload), given)) };
});
