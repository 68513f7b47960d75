import { revokeToken } from '../../../../../store/base/tokens';
import { getStore } from '../../../../server';
import { notFound, readId, route } from '../../../respond';

export const DELETE = route('DELETE /tokens/{id}', async ({ params: { id } }) => {
  const gone = revokeToken(await getStore(), readId(id));
  if (!gone) throw notFound(`token ${id}`);
  return gone;
});
