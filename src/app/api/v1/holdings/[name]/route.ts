import { domainRow } from '../../../../../app/api/domain-row';
import { HoldingChangeSchema } from '../../../../../contracts/portfolio';
import { recordAct } from '../../../../../store/domains/acts';
import { changeHolding } from '../../../../../store/portfolio/holdings';
import { handle, notFound, readJson } from '../../../respond';

/** Changes renewal date, renewal price or note of what is owned. */
export const PATCH = handle(async (request, { name }) => {
  const change = await readJson(request, HoldingChangeSchema);
  const { store, row } = await domainRow(name);
  const { result: before, act } = recordAct(
    store,
    { kind: 'holding', words: `${row.name}: ${Object.keys(change).join(', ')} changed` },
    [{ table: 'holdings', where: { domain_id: row.id } }],
    () => changeHolding(store, row.id, change),
  );
  if (!before) throw notFound(`holding "${name.slice(0, 80)}"`);
  return Response.json({ before, act });
});
