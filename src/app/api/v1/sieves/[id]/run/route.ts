import { readSieve } from '../../../../../../store/pool/sieves';
import { getEngine, getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

export const POST = route('POST /sieves/{id}/run', async ({ params: { id } }) => {
  if (!readSieve(await getStore(), readId(id))) throw notFound(`sieve ${id}`);
  return await getEngine().runSieve(readId(id));
});
