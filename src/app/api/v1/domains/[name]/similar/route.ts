import { domainRow } from '../../../../../../app/api/domain-row';
import { similarNames } from '../../../../../../services/dossier/similar';
import { getEngine } from '../../../../../server';
import { route } from '../../../../respond';

/** Names of the pool that are like this one. */
export const GET = route('GET /domains/{name}/similar', async ({ params: { name } }) => {
  const { store, row } = await domainRow(name);
  return { names: await similarNames(store, getEngine(), row.name, row.ending) };
});
