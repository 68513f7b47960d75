import { domainRow } from '../../../../../../../app/api/domain-row';
import { undoTick } from '../../../../../../../store/domains/notes';
import { notFound, readId, route } from '../../../../../respond';

/** Takes an answer back: the one before counts again, or what was found. */
export const DELETE = route('DELETE /domains/{name}/diligence/{id}', async ({ params: { name, id } }) => {
  const { store, row } = await domainRow(name);
  if (!undoTick(store, row.id, readId(id))) throw notFound(`answer ${id} that stands`);
  return new Response(null, { status: 204 });
});
