import { deleteSieve } from '../../../../../store/sieves';
import { getStore } from '../../../../server';
import { handle, notFound, readId } from '../../../respond';

export const DELETE = handle(async (_request, { id }) => {
  const sieve = deleteSieve(await getStore(), readId(id));
  if (!sieve) throw notFound(`sieve ${id}`);
  return Response.json(sieve);
});
