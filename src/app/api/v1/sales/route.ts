import { readSales } from '../../../../core/formats/sales';
import { tablesOf } from '../../../../services/files/table-of';
import { putSales, salesKnown } from '../../../../store/offers/sales';
import { getStore } from '../../../server';
import { bytesOf } from '../../bodies';
import { Problem, route } from '../../respond';

const MOST_BYTES = 20 * 1024 * 1024;
const ASIDE_TOLD = 100;

/** Which sales are known. */
export const GET = route('GET /sales', async () => salesKnown(await getStore()));

/** Takes a list of names that were sold: a table with columns for domain, price and date. */
export const POST = route('POST /sales', async ({ request, query: { name } }) => {
  const tables = await tablesOf(await bytesOf(request, MOST_BYTES, 'A list of sales'));
  const { sales, aside, problem } = readSales(tables);
  if (problem)
    throw new Problem(
      400,
      'The file makes no sense',
      problem,
      'Give it a header line like domain,price,currency,date,venue.',
    );
  const store = await getStore();
  const taken = putSales(store, sales, name);
  return {
    taken,
    repeated: sales.length - taken,
    setAside: aside.length,
    aside: aside.slice(0, ASIDE_TOLD),
    known: salesKnown(store),
  };
});
