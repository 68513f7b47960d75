import { markSeen, readSieve } from '../../../../../../store/pool/sieves';
import { getEngine, getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

export const POST = route('POST /sieves/{id}/seen', async ({ params: { id }, body }) => {
  const { ids } = body;
  const store = await getStore();
  const sieve = readSieve(store, readId(id));
  if (!sieve) throw notFound(`sieve ${id}`);
  markSeen(store, sieve.id, ids);
  await getEngine().setMembers('fresh', sieve.id, ids, false);
  return new Response(null, { status: 204 });
});
