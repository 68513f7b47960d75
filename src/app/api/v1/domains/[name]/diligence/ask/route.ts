import { keepFoundPages } from '../../../../../../../store/domains/found-pages';
import { getEngine } from '../../../../../../server';
import { domainRow } from '../../../../../domain-row';
import { route } from '../../../../../respond';

/** Asks a described service which pages show, list or mention a domain; its last answer is kept. */
export const POST = route('POST /domains/{name}/diligence/ask', async ({ params: { name }, body: { item } }) => {
  const { store, row } = await domainRow(name);
  const found = await getEngine().askPages(item, row.name);
  keepFoundPages(store, row.id, item, found);
  return found;
});
