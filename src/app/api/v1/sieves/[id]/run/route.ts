import { readSieve } from '../../../../../../store/pool/sieves';
import { getEngine, getStore } from '../../../../../server';
import { handle, notFound, readId } from '../../../../respond';

export const POST = handle(async (_request, { id }) => {
  if (!readSieve(await getStore(), readId(id))) throw notFound(`sieve ${id}`);
  return Response.json(await getEngine().runSieve(readId(id)));
});
