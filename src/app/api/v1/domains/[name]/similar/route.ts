import { similarNames } from '../../../../../similar';
import { domainRow } from '../../../../domain-row';
import { handle } from '../../../../respond';

/** Names of the pool that are like this one. */
export const GET = handle(async (_request, { name }) => {
  const { store, row } = await domainRow(name);
  return Response.json({ names: await similarNames(store, row.name, row.ending) });
});
