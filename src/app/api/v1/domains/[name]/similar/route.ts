import { domainRow } from '../../../../../../app/api/domain-row';
import { similarNames } from '../../../../../../services/dossier/similar';
import { getEngine } from '../../../../../server';
import { handle } from '../../../../respond';

/** Names of the pool that are like this one. */
export const GET = handle(async (_request, { name }) => {
  const { store, row } = await domainRow(name);
  return Response.json({ names: await similarNames(store, getEngine(), row.name, row.ending) });
});
