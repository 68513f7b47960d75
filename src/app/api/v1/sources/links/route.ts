import { LinksSchema } from '../../../../../contracts/source-forms';
import { jobView } from '../../../../../services/pool/views';
import { addSource, sourceOf } from '../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../server';
import { fileOf } from '../../../bodies';
import { route } from '../../../respond';
import { saveUpload, uploadPath } from '../../../uploads';

/**
 * Takes the export of a link index, then measures anew: the file as body or multipart (`?name=`), its columns as the header says; or as JSON
 * one that was uploaded before (`/sources/cuts/preview`), with what its columns mean.
 */
export const POST = route('POST /sources/links', async ({ request, body, query }) => {
  const given =
    body ??
    LinksSchema.parse({
      upload: await saveUpload(await fileOf(request)),
      name: query.name,
      asOf: query.asOf,
    });
  const { upload, name, columns, delimiter, hasHeader, asOf } = given;
  const path = uploadPath(upload);
  if (columns) await getEngine().settleCut(path, { columns, delimiter, hasHeader });
  else await getEngine().previewList(path, {});
  const store = await getStore();
  const sourceId = addSource(store, 'links', name, asOf ? { asOf: Date.parse(asOf) } : {});
  const job = await getEngine().addJob({
    kind: 'links',
    sourceId,
    params: { path, columns, delimiter, hasHeader },
    next: [{ kind: 'measure', sourceId, params: { sourceId } }],
  });
  return { source: sourceOf(store, sourceId), job: jobView(job) };
});
