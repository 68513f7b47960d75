import { readPlaces } from '../../../../../core/ideas/read-places';
import { tablesOf } from '../../../../../services/files/table-of';
import { putPlaces } from '../../../../../store/ideas/ideas';
import { getStore } from '../../../../server';
import { bytesOf } from '../../../bodies';
import { Problem, route } from '../../../respond';

const MOST_BYTES = 20 * 1024 * 1024;
const ASIDE_TOLD = 100;

/** Takes a table of places that names may say. A later table of the same name replaces it. */
export const POST = route('POST /ideas/places', async ({ request, query: { name } }) => {
  const tables = await tablesOf(await bytesOf(request, MOST_BYTES, 'A table of places'));
  const { places, aside, problem } = readPlaces(tables);
  if (problem)
    throw new Problem(400, 'The file makes no sense', problem, 'Give it a header line like place,people,growth.');
  const taken = putPlaces(await getStore(), places, name);
  return { taken, setAside: aside.length, aside: aside.slice(0, ASIDE_TOLD) };
});
