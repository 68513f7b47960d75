import { getEngine } from '../../../server';
import { handle } from '../../respond';

/** Progress of jobs and versions of the pool, as server-sent events. */
export const GET = handle(async (request) => {
  const stream = await getEngine().events(request.signal);
  return new Response(stream, {
    headers: {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store, no-transform',
      'x-accel-buffering': 'no',
    },
  });
});
