import { getEngine } from '../../../server';
import { route } from '../../respond';

/** Progress of jobs and versions of the pool, as server-sent events. */
export const GET = route('GET /events', async ({ request }) => {
  const stream = await getEngine().events(request.signal);
  return new Response(stream, {
    headers: {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store, no-transform',
      'x-accel-buffering': 'no',
    },
  });
});
