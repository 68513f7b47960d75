import { changeWatch } from '../../../../../../store/sources/watches';
import { getStore } from '../../../../../server';
import { handle, notFound, readId } from '../../../../respond';

/** Has it looked at now: the engine's clock finds it due. */
export const POST = handle(async (_request, { id }) => {
  const store = await getStore();
  if (!changeWatch(store, readId(id), { isOn: true, nextAt: store.now() })) throw notFound(`watch ${id}`);
  return new Response(null, { status: 202 });
});
