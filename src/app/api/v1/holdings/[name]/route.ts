import { domainRow } from '../../../../../app/api/domain-row';
import { recordAct } from '../../../../../store/domains/acts';
import { changeHolding } from '../../../../../store/portfolio/holdings';
import { notFound, route } from '../../../respond';

/** Changes renewal date, renewal price or note of what is owned. */
export const PATCH = route('PATCH /holdings/{name}', async ({ params: { name }, body }) => {
  const change = body;
  const { store, row } = await domainRow(name);
  const { result: before, act } = recordAct(
    store,
    { kind: 'holding', words: `${row.name}: ${Object.keys(change).join(', ')} changed` },
    [{ table: 'holdings', where: { domain_id: row.id } }],
    () => changeHolding(store, row.id, change),
  );
  if (!before) throw notFound(`holding "${name.slice(0, 80)}"`);
  return { before, act };
});
