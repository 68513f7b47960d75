import { pageCheckView } from '../../../../../../services/crawl/page-check';
import { getStore } from '../../../../../server';
import { handle, notFound, readId } from '../../../../respond';

/** How far the look at a page has come, with every link as far as it is known. */
export const GET = handle(async (_request, { id }) => {
  const view = pageCheckView(await getStore(), readId(id));
  if (!view) throw notFound(`look at a page ${id}`);
  return Response.json(view);
});
