import { readShortlist } from '../../../../../store/shortlist';
import { suggestionFor } from '../../../../plan';
import { currentBrief, getEngine } from '../../../../server';
import { domainRow } from '../../../domain-row';
import { handle, readId } from '../../../respond';

/** All ways to have a domain, on the terms of this moment, with what limits allow and what a bid should be at most. */
export const GET = handle(async (request) => {
  const asked = request.nextUrl.searchParams;
  const { briefs, brief: current } = await currentBrief();
  const { store, row } = await domainRow(asked.get('name') ?? '');
  const id = asked.get('brief');
  const brief = briefs.find((one) => one.id === (id === null ? current.id : readId(id))) ?? current;
  const terms = await getEngine().orderTerms(brief.id, row.id);
  const entry = readShortlist(store, brief.id).find(({ domainId }) => domainId === row.id);
  return Response.json({
    ...terms,
    maximumBidMinor: entry?.maximumBidMinor ?? null,
    suggested: entry ? suggestionFor(brief, entry) : null,
  });
});
