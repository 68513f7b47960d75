import { setTimeout as sleep } from 'node:timers/promises';
import { FORWARD_LOOK_MS } from '../../../../store/base/config';
import { getStore } from '../../../server';
import { Problem, route } from '../../respond';

/** Moves the time of the demo's world forward, for all its servers and the product alike; answers when each of them has it. */
export const POST = route('POST /clock', async ({ body }) => {
  const { forwardMs } = body;
  const store = await getStore();
  if (!store.forward)
    throw new Problem(
      409,
      'Time goes by itself',
      'Only the time of the demo can be moved.',
      'Start it with npm run demo.',
    );
  store.forward.move(forwardMs);
  await sleep(FORWARD_LOOK_MS + FORWARD_LOOK_MS / 5);
  return { now: store.now() };
});
