import { SeenSchema } from '../../../../../../contracts/pool';
import { markSeen, readSieve } from '../../../../../../store/pool/sieves';
import { getEngine, getStore } from '../../../../../server';
import { handle, notFound, readId, readJson } from '../../../../respond';

export const POST = handle(async (request, { id }) => {
  const { ids } = await readJson(request, SeenSchema);
  const store = await getStore();
  const sieve = readSieve(store, readId(id));
  if (!sieve) throw notFound(`sieve ${id}`);
  markSeen(store, sieve.id, ids);
  await getEngine().setMembers('fresh', sieve.id, ids, false);
  return new Response(null, { status: 204 });
});
