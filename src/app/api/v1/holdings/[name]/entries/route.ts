import { domainRow } from '../../../../../../app/api/domain-row';
import { recordNew } from '../../../../../../store/domains/acts';
import { addEntry, listHoldings, setEntryRemoved } from '../../../../../../store/portfolio/holdings';
import { notFound, route } from '../../../../respond';

/** Enters what a domain cost or brought. */
export const POST = route('POST /holdings/{name}/entries', async ({ params: { name }, body }) => {
  const entry = body;
  const { store, row } = await domainRow(name);
  if (!listHoldings(store).some(({ domainId }) => domainId === row.id))
    throw notFound(`holding "${name.slice(0, 80)}"`);
  const { result: id, act } = recordNew(
    store,
    { kind: 'holding', words: `${row.name}: ${entry.kind} entered` },
    () => addEntry(store, row.id, entry),
    (added) => [{ table: 'holding_entries', where: { id: added } }],
  );
  return { id, act };
});

/** Takes an entry back, or lets it stand again. */
export const PATCH = route('PATCH /holdings/{name}/entries', async ({ params: { name }, body }) => {
  const { id, isRemoved } = body;
  const { store, row } = await domainRow(name);
  if (!setEntryRemoved(store, row.id, id, isRemoved)) throw notFound(`entry ${id}`);
  return {};
});
