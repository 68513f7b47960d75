import type { NextRequest } from 'next/server';
import type { QueryOf } from '../../../../../contracts/calls';
import { ListSchema } from '../../../../../contracts/source-forms';
import { jobView } from '../../../../../services/pool/views';
import type { JobOrder } from '../../../../../store/base/jobs';
import { checkAndMeasure } from '../../../../../store/base/jobs';
import { addSource, sourceOf } from '../../../../../store/sources/sources';
import { getEngine, getStore } from '../../../../server';
import { fileOf } from '../../../bodies';
import { Problem, route } from '../../../respond';
import { saveUpload, uploadPath } from '../../../uploads';

/**
 * Imports a list. Either JSON that names an upload whose preview was corrected, or the file itself (body or multipart) with
 * `?name=`; then everything is recognised.
 */
export const POST = route('POST /sources/lists', async ({ request, body, query }) => {
  const order = body ?? (await recognised(request, query));
  if (!order.columns.includes('domain'))
    throw new Problem(
      400,
      'No domain column',
      'No column looks like it holds domains.',
      'Say with columns= which one does.',
    );
  const path = uploadPath(order.upload);
  const store = await getStore();
  const { name, columns, delimiter, hasHeader, headRows, order: dates, sheet } = order;
  // refuses what is no list before a source is made of it
  const { format, keys } = await getEngine().settleList(path, {
    columns,
    delimiter,
    hasHeader,
    headRows,
    order: dates,
    sheet,
  });
  const sourceId = addSource(store, 'list', name, { columns, delimiter, hasHeader });
  const next: JobOrder[] = order.checkAfter ? [checkAndMeasure({ sourceId })] : [];
  const job = await getEngine().addJob({
    kind: 'list',
    sourceId,
    params: {
      path,
      format,
      keys,
      delimiter,
      hasHeader,
      headRows,
      order: dates,
      sheet,
      columns,
      venue: order.venue,
      excludedEndings: order.excludedEndings,
    },
    next,
  });
  return { source: sourceOf(store, sourceId), job: jobView(job) };
});

async function recognised(request: NextRequest, query: QueryOf<'POST /sources/lists'>) {
  const upload = await saveUpload(await fileOf(request));
  const guess = await getEngine().previewList(uploadPath(upload), {
    ...(query.delimiter && { delimiter: query.delimiter }),
    ...(query.headRows !== undefined && { headRows: query.headRows }),
    ...(query.order && { order: query.order }),
    ...(query.sheet && { sheet: query.sheet }),
  });
  return ListSchema.parse({
    upload,
    name: query.name,
    delimiter: query.delimiter ?? guess.delimiter,
    hasHeader: guess.hasHeader,
    headRows: guess.headRows,
    order: query.order ?? null,
    sheet: guess.sheet,
    columns: query.columns ?? guess.columns,
    excludedEndings: query.exclude ?? [],
    checkAfter: query.check === '1',
  });
}
