import { readHoldings } from '../../../../core/formats/holdings';
import { tablesOf } from '../../../../services/files/table-of';
import { recordNew } from '../../../../store/domains/acts';
import { addHoldings, listHoldings } from '../../../../store/portfolio/holdings';
import { getEngine, getStore } from '../../../server';
import { bytesOf } from '../../bodies';
import { Problem, route } from '../../respond';

const MOST_BYTES = 10 * 1024 * 1024;
const ASIDE_TOLD = 100;

/** What is owned, the next to renew first. */
export const GET = route('GET /holdings', async () => ({ holdings: listHoldings(await getStore()) }));

/** Takes a list of what one owns already; each is watched from then on. */
export const POST = route('POST /holdings', async ({ request }) => {
  const tables = await tablesOf(await bytesOf(request, MOST_BYTES, 'A list of your own domains'));
  const { holdings, aside, problem } = readHoldings(tables);
  if (problem)
    throw new Problem(
      400,
      'The file makes no sense',
      problem,
      'Give it a header line like domain,bought,cost,currency,renews,renewal,registrar.',
    );
  const store = await getStore();
  const { result: ids, act } = recordNew(
    store,
    { kind: 'holding', words: 'a list of your own domains taken in' },
    () => addHoldings(store, holdings),
    (added) => added.map((id) => ({ table: 'holdings', where: { domain_id: id } })),
  );
  if (ids.length > 0) await getEngine().act({ kind: 'watch' }, { ids });
  const known = holdings.length - ids.length;
  return { taken: ids.length, known, setAside: aside.length, aside: aside.slice(0, ASIDE_TOLD), act };
});
