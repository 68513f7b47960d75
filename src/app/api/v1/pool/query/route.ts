import { readDomains } from '../../../../../store/domains';
import { shortlistIds } from '../../../../../store/shortlist';
import { currentBrief, getEngine } from '../../../../server';
import { domainView } from '../../../../views';
import { handle, readJson } from '../../../respond';
import { PoolQuerySchema } from '../../../schemas';

export const POST = handle(async (request) => {
  const query = await readJson(request, PoolQuerySchema);
  const { ids, ...answer } = await getEngine().queryPool(query);
  const { store, brief } = await currentBrief();
  const shortlisted = shortlistIds(store, brief.id);
  const rows = readDomains(store, ids).map((row) => domainView(row, shortlisted.has(row.id)));
  return Response.json({ ...answer, rows });
});
