import { sieveFile } from '../../../../../../services/pool/sieve-file';
import { readSieve } from '../../../../../../store/pool/sieves';
import { getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

export const GET = route('GET /sieves/{id}/file', async ({ params: { id } }) => {
  const store = await getStore();
  const sieve = readSieve(store, readId(id));
  if (!sieve) throw notFound(`sieve ${id}`);
  const name = sieve.name.replace(/[^\w-]+/g, '-').slice(0, 60) || 'sieve';
  return new Response(`${JSON.stringify(sieveFile(store, sieve), null, 2)}\n`, {
    headers: { 'content-type': 'application/json', 'content-disposition': `attachment; filename="${name}.sieve.json"` },
  });
});
