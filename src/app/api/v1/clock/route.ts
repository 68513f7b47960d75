import { getStore } from '../../../server';
import { handle, Problem, readJson } from '../../respond';
import { ClockSchema } from '../../schemas';

/** Moves the time of the demo's world forward, for all its servers and the product alike. */
export const POST = handle(async (request) => {
  const { forwardMs } = await readJson(request, ClockSchema);
  const store = await getStore();
  if (!store.forward)
    throw new Problem(
      409,
      'Time goes by itself',
      'Only the time of the demo can be moved.',
      'Start it with npm run demo.',
    );
  store.forward.move(forwardMs);
  return Response.json({ now: store.now() });
});
