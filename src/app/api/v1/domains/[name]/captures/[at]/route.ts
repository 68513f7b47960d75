import { domainRow } from '../../../../../../../app/api/domain-row';
import { capturePage, capturesOf } from '../../../../../../../store/links/captures';
import { notFound, readId, route } from '../../../../../respond';

/** One capture that was read, with what it shows as plain blocks (null: read before pages were kept). */
export const GET = route('GET /domains/{name}/captures/{at}', async ({ params: { name, at } }) => {
  const { store, row } = await domainRow(name);
  const capture = capturesOf(store, row.id).find((one) => one.at === readId(at));
  if (!capture) throw notFound(`capture of that time that was read`);
  return { ...capture, terms: [...capture.terms], blocks: capturePage(store, row.id, capture.at) };
});
