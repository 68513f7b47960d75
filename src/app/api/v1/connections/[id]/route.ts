import { keepConnection, removeConnection } from '../../../../../services/connections/connections';
import { getStore } from '../../../../server';
import { route } from '../../../respond';

export const PUT = route('PUT /connections/{id}', async ({ params: { id }, body }) =>
  keepConnection(await getStore(), id, body),
);

export const DELETE = route('DELETE /connections/{id}', async ({ params: { id } }) => ({
  act: removeConnection(await getStore(), id),
}));
