import { createServer, type Server } from 'node:http';
import { ARCHIVE_HOST, archiveAnswer } from './archive';
import { pageOf } from './pages';
import { Limiter, rdapAnswer } from './registries';
import { venueAnswer } from './venues';
import type { World } from './world';

/** Every web server of the world behind one port, told apart by Host. A host that does not resolve drops the connection. */
export function makeWeb(world: World, now: () => number): Server {
  const limiter = new Limiter();
  return createServer({ keepAliveTimeout: 8000 }, (request, response) => {
    const host = (request.headers.host ?? '').replace(/:\d+$/, '').toLowerCase();
    const path = request.url ?? '/';
    const at = now();
    const page =
      host === ARCHIVE_HOST
        ? archiveAnswer(world, path, at)
        : (venueAnswer(world, host, path, at) ??
          rdapAnswer(world, limiter, host, path, at) ??
          pageOf(world, host, path, at));
    if (!page) {
      request.socket.destroy();
      return;
    }
    response.writeHead(page.status, { ...page.headers, 'content-length': Buffer.byteLength(page.body) });
    response.end(page.body);
  });
}
