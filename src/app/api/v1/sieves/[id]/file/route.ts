import { sieveFile } from '../../../../../../services/pool/sieve-file';
import { readSieve } from '../../../../../../store/pool/sieves';
import { getStore } from '../../../../../server';
import { asFile, notFound, readId, route } from '../../../../respond';

export const GET = route('GET /sieves/{id}/file', async ({ params: { id } }) => {
  const store = await getStore();
  const sieve = readSieve(store, readId(id));
  if (!sieve) throw notFound(`sieve ${id}`);
  const name = sieve.name.replace(/[^\w-]+/g, '-').slice(0, 60) || 'sieve';
  return asFile(`${name}.sieve.json`, sieveFile(store, sieve));
});
