import { addTick } from '../../../../../../store/notes';
import { domainRow } from '../../../../domain-row';
import { handle, readJson } from '../../../../respond';
import { TickSchema } from '../../../../schemas';

/** Answers a point of due diligence by hand. */
export const POST = handle(async (request, { name }) => {
  const { item, state, note } = await readJson(request, TickSchema);
  const { store, row } = await domainRow(name);
  return Response.json({ id: addTick(store, row.id, item, state, note) }, { status: 201 });
});
