import { CutSchema } from '../../../../../../contracts/source-forms';
import { getEngine } from '../../../../../server';
import { fileOf } from '../../../../bodies';
import { route } from '../../../../respond';
import { saveUpload, uploadPath } from '../../../../uploads';

/** Takes a link export (as the body, or in a multipart form) and says how it would be read; `?upload=` looks again. */
export const POST = route('POST /sources/cuts/preview', async ({ request, query }) => {
  const upload = query.upload ?? (await saveUpload(await fileOf(request)));
  const shape = CutSchema.pick({ delimiter: true, hasHeader: true, columns: true }).partial();
  const given = shape.parse({
    delimiter: query.delimiter,
    hasHeader: query.header === undefined ? undefined : query.header === '1',
    columns: query.columns,
  });
  return { upload, ...(await getEngine().previewCut(uploadPath(upload), given)) };
});
