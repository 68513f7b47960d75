import { getEngine, getStore } from '../../../server';
import { route } from '../../respond';

export const GET = route('GET /health', async () => {
  const engine = await getEngine()
    .health()
    .catch((error: Error) => ({ state: 'down' as const, message: error.message }));
  const store = await getStore().catch((error: Error) => error);
  const database = store instanceof Error ? { state: 'down', message: store.message } : { state: 'ready' };
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
  const healthy = engine.state === 'ready' && database.state === 'ready' && standins !== 'down';
  return Response.json(
    { healthy, mode: config?.mode ?? null, web: { state: 'ready' }, engine, database, standins: { state: standins } },
    { status: healthy ? 200 : 503 },
  );
});
