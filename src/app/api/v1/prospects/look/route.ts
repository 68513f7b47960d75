import { changeProspect, listProspects } from '../../../../../store/portfolio/prospects';
import { getEngine, getStore } from '../../../../server';
import { notFound, route } from '../../../respond';

/** Fetches a page of the list again: whether it still links to the dead target or to what was offered, and how it says to reach its owner. */
export const POST = route('POST /prospects/look', async ({ body }) => {
  const { target, page } = body;
  const store = await getStore();
  const row = listProspects(store).find((one) => one.target === target && one.page === page);
  if (!row) throw notFound('page on the list');
  const { links, contact } = await getEngine().linksOf(page);
  const linksStill = links.includes(target);
  const linksToOwn = row.standIn !== null && links.includes(row.standIn);
  if (linksToOwn && row.state !== 'changed') changeProspect(store, target, page, { state: 'changed' });
  if (row.contact === null && contact !== null) changeProspect(store, target, page, { contact });
  return { linksStill, linksToOwn, contact: row.contact ?? contact };
});
