import { registrableDomain } from '../../../../../../core/names/domain';
import { findDomain } from '../../../../../../store/domains';
import { addMarkReview, markReviewsOf } from '../../../../../../store/word-marks';
import { getStore } from '../../../../../server';
import { handle, notFound, readJson } from '../../../../respond';
import { MarkReviewSchema } from '../../../../schemas';

/** Keeps what the person decided about word marks that are like the name. Earlier decisions stay on record. */
export const POST = handle(async (request, { name }) => {
  const { verdict, note } = await readJson(request, MarkReviewSchema);
  const store = await getStore();
  const domain = registrableDomain(decodeURIComponent(name));
  const row = domain && findDomain(store, domain.name);
  if (!row) throw notFound(`domain "${name.slice(0, 80)}" in the pool`);
  addMarkReview(store, row.id, verdict, note);
  return Response.json({ reviews: markReviewsOf(store, row.id) }, { status: 201 });
});
