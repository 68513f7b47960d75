import { sieveFile } from '../../../../../../services/pool/sieve-file';
import { readSieve } from '../../../../../../store/pool/sieves';
import { getStore } from '../../../../../server';
import { handle, notFound, readId } from '../../../../respond';

export const GET = handle(async (_request, { id }) => {
  const store = await getStore();
  const sieve = readSieve(store, readId(id));
  if (!sieve) throw notFound(`sieve ${id}`);
  const name = sieve.name.replace(/[^\w-]+/g, '-').slice(0, 60) || 'sieve';
  return new Response(`${JSON.stringify(sieveFile(store, sieve), null, 2)}\n`, {
    headers: { 'content-type': 'application/json', 'content-disposition': `attachment; filename="${name}.sieve.json"` },
  });
});
