import { readPlaces } from '../../../../../core/ideas/read-places';
import { putPlaces } from '../../../../../store/ideas/ideas';
import { getStore } from '../../../../server';
import { Problem, route } from '../../../respond';

const MOST_BYTES = 20 * 1024 * 1024;
const ASIDE_TOLD = 100;

/** Takes a table of places that names may say. A later table of the same name replaces it. */
export const POST = route('POST /ideas/places', async ({ request, query: { name } }) => {
  const bytes = await request.arrayBuffer();
  if (bytes.byteLength > MOST_BYTES)
    throw new Problem(413, 'The file is too large', 'A table of places may have 20 MB.', 'Send it in parts.');
  const { places, aside, problem } = readPlaces(new TextDecoder().decode(bytes));
  if (problem)
    throw new Problem(400, 'The file makes no sense', problem, 'Give it a header line like place,people,growth.');
  const taken = putPlaces(await getStore(), places, name);
  return { taken, setAside: aside.length, aside: aside.slice(0, ASIDE_TOLD) };
});
