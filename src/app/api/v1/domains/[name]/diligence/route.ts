import { domainRow } from '../../../../../../app/api/domain-row';
import { TickSchema } from '../../../../../../contracts/domains';
import { addTick } from '../../../../../../store/domains/notes';
import { handle, readJson } from '../../../../respond';

/** Answers a point of due diligence by hand. */
export const POST = handle(async (request, { name }) => {
  const { item, state, note } = await readJson(request, TickSchema);
  const { store, row } = await domainRow(name);
  return Response.json({ id: addTick(store, row.id, item, state, note) }, { status: 201 });
});
