import { ListSchema } from '../../../../../../contracts/source-forms';
import { getEngine } from '../../../../../server';
import { fileOf } from '../../../../bodies';
import { route } from '../../../../respond';
import { saveUpload, uploadPath } from '../../../../uploads';

/**
 * Takes a file (as the body, or in a multipart form) and says how it would be read. With `?upload=` it looks again at a file
 * that was sent before; `delimiter`, `header`, `headRows`, `order`, `sheet` and `columns` correct the guess.
 */
export const POST = route('POST /sources/lists/preview', async ({ request, query }) => {
  const upload = query.upload ?? (await saveUpload(await fileOf(request)));
  const shape = ListSchema.pick({ delimiter: true, hasHeader: true, headRows: true, columns: true }).partial();
  const given = {
    ...shape.parse({
      delimiter: query.delimiter,
      hasHeader: query.header === undefined ? undefined : query.header === '1',
      headRows: query.headRows,
      columns: query.columns,
    }),
    ...(query.order && { order: query.order }),
    ...(query.sheet && { sheet: query.sheet }),
  };
  return { upload, ...(await getEngine().previewList(uploadPath(upload), given)) };
});
