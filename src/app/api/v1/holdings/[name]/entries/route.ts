import { domainRow } from '../../../../../../app/api/domain-row';
import { EntrySchema, EntryUndoSchema } from '../../../../../../contracts/portfolio';
import { recordNew } from '../../../../../../store/domains/acts';
import { addEntry, listHoldings, setEntryRemoved } from '../../../../../../store/portfolio/holdings';
import { handle, notFound, readJson } from '../../../../respond';

/** Enters what a domain cost or brought. */
export const POST = handle(async (request, { name }) => {
  const entry = await readJson(request, EntrySchema);
  const { store, row } = await domainRow(name);
  if (!listHoldings(store).some(({ domainId }) => domainId === row.id))
    throw notFound(`holding "${name.slice(0, 80)}"`);
  const { result: id, act } = recordNew(
    store,
    { kind: 'holding', words: `${row.name}: ${entry.kind} entered` },
    () => addEntry(store, row.id, entry),
    (added) => [{ table: 'holding_entries', where: { id: added } }],
  );
  return Response.json({ id, act }, { status: 201 });
});

/** Takes an entry back, or lets it stand again. */
export const PATCH = handle(async (request, { name }) => {
  const { id, isRemoved } = await readJson(request, EntryUndoSchema);
  const { store, row } = await domainRow(name);
  if (!setEntryRemoved(store, row.id, id, isRemoved)) throw notFound(`entry ${id}`);
  return Response.json({});
});
