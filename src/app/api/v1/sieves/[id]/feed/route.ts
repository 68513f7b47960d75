import { atomFeed } from '../../../../../../core/formats/atom';
import { displayName } from '../../../../../../core/names/domain';
import { domainLine } from '../../../../../../services/pool/views';
import { readDomains } from '../../../../../../store/domains/domains';
import { newHits, readSieve } from '../../../../../../store/pool/sieves';
import { getStore } from '../../../../../server';
import { addressInUse, notFound, readId, route } from '../../../../respond';

const ENTRIES = 200;

/** What came new into a kept sieve, the latest first. */
export const GET = route('GET /sieves/{id}/feed', async ({ request, params: { id } }) => {
  const store = await getStore();
  const sieve = readSieve(store, readId(id));
  if (!sieve) throw notFound(`sieve ${id}`);
  const origin = addressInUse(request);
  const hits = newHits(store, sieve.id, 0, ENTRIES);
  const rows = new Map(
    readDomains(
      store,
      hits.map(({ domainId }) => domainId),
    ).map((row) => [row.id, row]),
  );
  const xml = atomFeed({
    id: `urn:jam-ladle:sieve:${sieve.id}`,
    title: `New in "${sieve.name}"`,
    self: `${origin}/api/v1/sieves/${sieve.id}/feed`,
    link: `${origin}/pool?${sieve.view}`,
    updated: sieve.lastAt ?? sieve.createdAt,
    entries: hits.flatMap(({ domainId, at }) => {
      const row = rows.get(domainId);
      if (!row) return [];
      return {
        id: `urn:jam-ladle:sieve:${sieve.id}:${domainId}`,
        title: displayName(row.name),
        link: `${origin}/domains/${row.name}`,
        updated: at,
        summary: domainLine(row),
      };
    }),
  });
  return new Response(xml, { headers: { 'content-type': 'application/atom+xml; charset=utf-8' } });
});
