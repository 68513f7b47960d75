import { dataFolder } from '../../../../store/base/config';
import { RESTORE_ADVICE } from '../../../../store/base/damage';
import { freeBytes, LEAST_ROOM_BYTES } from '../../../../store/base/refusals';
import { getEngine, getStore } from '../../../server';
import { route } from '../../respond';

export const GET = route('GET /health', async () => {
  const engine = await getEngine()
    .health()
    .catch((error: Error) => ({ state: 'down' as const, message: error.message }));
  const store = await getStore().catch((error: Error) => error);
  const damage = engine.state === 'down' ? null : engine.damage;
  const database =
    store instanceof Error
      ? { state: 'down' as const, message: store.message }
      : damage
        ? { state: 'damaged' as const, message: `Damaged: ${damage.found.join('; ')}.`, advice: RESTORE_ADVICE }
        : { state: 'ready' as const };
  const config = store instanceof Error ? null : store.config;
  const standins = config?.connector
    ? await fetch(`http://${config.connector}/robots.txt`, {
        signal: AbortSignal.timeout(2000),
      })
        .then(() => 'ready')
        .catch((error: Error & { cause?: { code?: string } }) =>
          error.cause?.code === 'ECONNREFUSED' ? 'down' : 'ready',
        )
    : 'not used';
  const free = freeBytes(dataFolder());
  const disk = {
    state: free !== null && free < LEAST_ROOM_BYTES ? ('full' as const) : ('ready' as const),
    freeBytes: free,
  };
  const healthy =
    engine.state === 'ready' && database.state === 'ready' && disk.state === 'ready' && standins !== 'down';
  return Response.json(
    {
      healthy,
      mode: config?.mode ?? null,
      web: { state: 'ready' },
      engine,
      database,
      disk,
      standins: { state: standins },
    },
    { status: healthy ? 200 : 503 },
  );
});
