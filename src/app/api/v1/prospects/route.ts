import { domainRow } from '../../../../app/api/domain-row';
import { ProspectChangeSchema, ProspectsSchema } from '../../../../contracts/prospecting';
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
import { handle, notFound, readJson } from '../../respond';

const MOST = 2000;

/** The work list: pages that link to dead targets, with what is next and a letter to each. */
export const GET = handle(async () => Response.json(workList(await getStore())));

/** Puts pages that link to a target on the list, all or some, and chooses the own page that stands in. */
export const POST = handle(async (request) => {
  const { target, domain, pages, standIn } = await readJson(request, ProspectsSchema);
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
  return Response.json({ added }, { status: 201 });
});

/** Changes where a page stands, how its owner is reached, or the note; gives back what was before, which may be sent to undo. */
export const PATCH = handle(async (request) => {
  const { target, page, before, isDropped, standIn, ...change } = await readJson(request, ProspectChangeSchema);
  const store = await getStore();
  if (standIn !== undefined) return Response.json({ before: { standIn: chooseStandIn(store, target, standIn) } });
  if (page === undefined) throw notFound('page to be changed');
  if (isDropped) return Response.json({ isDropped: dropProspect(store, target, page) });
  if (before) {
    if (!restoreProspect(store, target, page, before)) throw notFound('page on the list');
    return Response.json({ before: null });
  }
  const was = changeProspect(store, target, page, change);
  if (!was) throw notFound('page on the list');
  return Response.json({ before: was });
});
