import { connectionToTry, isAsKept } from '../../../../../services/connections/connections';
import { keepConnectionTried } from '../../../../../store/base/tries';
import { getEngine, getStore } from '../../../../server';
import { route } from '../../../respond';

/** Asks a described service one real question; how a kept one answered is kept. */
export const POST = route('POST /connections/try', async ({ body: { id, connection, question } }) => {
  const store = await getStore();
  const found = await getEngine().tryConnection(connectionToTry(store, id, connection), question);
  if (id !== null && isAsKept(store, id, found.tried)) keepConnectionTried(store, id, found.tried);
  return found;
});
