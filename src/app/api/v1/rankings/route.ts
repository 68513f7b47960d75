import { readRankings } from '../../../../core/formats/rankings';
import { tablesOf } from '../../../../services/files/table-of';
import { putRankings } from '../../../../store/portfolio/rankings';
import { getEngine, getStore } from '../../../server';
import { bytesOf } from '../../bodies';
import { Problem, route } from '../../respond';

const MOST_BYTES = 40 * 1024 * 1024;
const ASIDE_TOLD = 100;

/** Takes a list of phrases that domains of the pool are found by: estimates of others, kept with the list's name. */
export const POST = route('POST /rankings', async ({ request, query: { name } }) => {
  const tables = await tablesOf(await bytesOf(request, MOST_BYTES, 'A list of keywords'));
  const { rankings, aside, problem } = readRankings(tables);
  if (problem)
    throw new Problem(
      400,
      'The file makes no sense',
      problem,
      'Give it a header line like domain,phrase,position,searches,cpc,currency,competition,date.',
    );
  const { taken, unknown, ids } = putRankings(await getStore(), rankings, name);
  await getEngine().domainsChanged(ids);
  return { taken, unknown, setAside: aside.length, aside: aside.slice(0, ASIDE_TOLD) };
});
