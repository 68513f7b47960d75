import { domainRow } from '../../../../../app/api/domain-row';
import { concernsOf } from '../../../../../services/dossier/concerns';
import { reckon } from '../../../../../services/plan/plan';
import { readShortlist } from '../../../../../store/shortlist/shortlist';
import { currentBrief, getEngine } from '../../../../server';
import { route } from '../../../respond';

/** All ways to have a domain, on the terms of this moment, the cheapest in all first, with what limits allow and the most to pay. */
export const GET = route('GET /orders/terms', async ({ query }) => {
  const { briefs, brief: current } = await currentBrief();
  const { store, row } = await domainRow(query.name);
  const brief = briefs.find((one) => one.id === query.brief) ?? current;
  const terms = await getEngine().orderTerms(brief.id, row.id);
  const isListed = readShortlist(store, brief.id).some(({ domainId }) => domainId === row.id);
  const reckoned = isListed ? reckon(store, brief).entries.find(({ entry }) => entry.domainId === row.id) : null;
  return {
    ...terms,
    warnings: concernsOf(store, row, brief.limits),
    maximumBidMinor: reckoned?.entry.maximumBidMinor ?? null,
    maximum: reckoned?.maximum ?? null,
    mostMinor: reckoned?.mostMinor ?? null,
  };
});
