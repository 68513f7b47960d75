import { domainRow } from '../../../../../../app/api/domain-row';
import { addTick } from '../../../../../../store/domains/notes';
import { route } from '../../../../respond';

/** Answers a point of due diligence by hand. */
export const POST = route('POST /domains/{name}/diligence', async ({ params: { name }, body }) => {
  const { item, state, note } = body;
  const { store, row } = await domainRow(name);
  return { id: addTick(store, row.id, item, state, note) };
});
