import { domainRow } from '../../../../app/api/domain-row';
import { targetDetail, workList } from '../../../../services/prospecting/prospects';
import {
  addProspects,
  changeProspect,
  chooseStandIn,
  dropProspect,
  linksToTarget,
  restoreProspect,
} from '../../../../store/portfolio/prospects';
import { getStore } from '../../../server';
import { answered, notFound, route } from '../../respond';

const MOST = 2000;

/** The outreach list: pages that link to dead targets, with what is next and a letter to each. */
export const GET = route('GET /prospects', async () => workList(await getStore()));

/** Puts pages that link to a target on the list, all or some, and chooses the own page that stands in. */
export const POST = route('POST /prospects', async ({ body }) => {
  const { target, domain, pages, standIn } = body;
  const { store, row } = await domainRow(domain);
  const wanted = pages && new Set(pages);
  const { links } = targetDetail(store, target, row.name);
  if (links.length === 0 && linksToTarget(store, target, row.name, MOST).length === 0)
    throw notFound('link to that target');
  if (standIn !== undefined) chooseStandIn(store, target, standIn);
  const added = addProspects(
    store,
    { target, domain: row.name },
    wanted ? links.filter(({ page }) => wanted.has(page)) : links,
  );
  return answered(201, { added });
});

/** Changes where a page stands, how its owner is reached, or the note; gives back what was before, which may be sent to undo. */
export const PATCH = route('PATCH /prospects', async ({ body }) => {
  const { target, page, before, isDropped, standIn, ...change } = body;
  const store = await getStore();
  if (standIn !== undefined) return { before: { standIn: chooseStandIn(store, target, standIn) } };
  if (page === undefined) throw notFound('page to be changed');
  if (isDropped) {
    if (!dropProspect(store, target, page)) throw notFound('page on the list');
    return { before: null };
  }
  if (before) {
    if (!restoreProspect(store, target, page, before)) throw notFound('page on the list');
    return { before: null };
  }
  const was = changeProspect(store, target, page, change);
  if (!was) throw notFound('page on the list');
  return { before: was };
});
