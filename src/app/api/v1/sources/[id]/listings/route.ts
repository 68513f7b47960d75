import { z } from 'zod';
import { LISTING_KINDS } from '../../../../../../core/formats/list-fields';
import { changesOfSource } from '../../../../../../store/offers/listing-changes';
import { openListings } from '../../../../../../store/offers/listings';
import { readSource } from '../../../../../../store/sources/sources';
import { getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

const Query = z.object({
  kind: z.enum(LISTING_KINDS).nullable(),
  offset: z.coerce.number().int().min(0).default(0),
});
const LISTED = 200;
const CHANGES = 200;

/** Open offers of a venue by the next thing that happens to them, and what its readings changed. */
export const GET = route('GET /sources/{id}/listings', async ({ request, params: { id } }) => {
  const store = await getStore();
  const source = readSource(store, readId(id));
  if (!source) throw notFound(`source ${id}`);
  const query = request.nextUrl.searchParams;
  const { kind, offset } = Query.parse({ kind: query.get('kind'), offset: query.get('offset') ?? undefined });
  const { rows, kinds } = openListings(store, source.id, kind, offset, LISTED);
  return { listings: rows, kinds, changes: changesOfSource(store, source.id, CHANGES) };
});
