import { pageCheckView } from '../../../../../../services/crawl/page-check';
import { getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

/** How far the look at a page has come, with every link as far as it is known. */
export const GET = route('GET /pages/check/{id}', async ({ params: { id } }) => {
  const view = pageCheckView(await getStore(), readId(id));
  if (!view) throw notFound(`look at a page ${id}`);
  return view;
});
