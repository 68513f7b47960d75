import { changesOfSource } from '../../../../../../store/offers/listing-changes';
import { openListings } from '../../../../../../store/offers/listings';
import { readSource } from '../../../../../../store/sources/sources';
import { getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

const LISTED = 200;
const CHANGES = 200;

/** Open offers of a venue by the next thing that happens to them, and what its readings changed. */
export const GET = route('GET /sources/{id}/listings', async ({ query: { kind, offset }, params: { id } }) => {
  const store = await getStore();
  const source = readSource(store, readId(id));
  if (!source) throw notFound(`source ${id}`);
  const { rows, kinds } = openListings(store, source.id, kind, offset, LISTED);
  return { listings: rows, kinds, changes: changesOfSource(store, source.id, CHANGES) };
});
