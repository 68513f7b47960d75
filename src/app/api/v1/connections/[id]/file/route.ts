import { Description } from '../../../../../../core/connections/connection';
import { connectionOf } from '../../../../../../services/connections/connections';
import { getStore } from '../../../../../server';
import { asFile, route } from '../../../../respond';

/** What can be handed on: the description alone. */
export const GET = route('GET /connections/{id}/file', async ({ params: { id } }) => {
  const connection = connectionOf(await getStore(), id);
  return asFile(`${id}.connection.json`, { jamLadleConnection: 1 as const, ...Description.parse(connection) });
});
