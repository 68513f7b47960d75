import { changeWatch } from '../../../../../../store/sources/watches';
import { getStore } from '../../../../../server';
import { notFound, readId, route } from '../../../../respond';

/** Has it looked at now: the engine's clock finds it due. */
export const POST = route('POST /watches/{id}/look', async ({ params: { id } }) => {
  const store = await getStore();
  if (!changeWatch(store, readId(id), { isOn: true, nextAt: store.now() })) throw notFound(`watch ${id}`);
  return {};
});
