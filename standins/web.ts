import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { VenueAccounts } from './accounts';
import { ARCHIVE_HOST, archiveAnswer } from './archive';
import { interfaceAnswer } from './interfaces';
import { markAnswer } from './mark-register';
import { type Page, pageOf } from './pages';
import { registrarAnswer } from './registrar';
import { Limiter, rdapAnswer } from './registries';
import { searchAnswer } from './search';
import { venueAnswer } from './venues';
import type { World } from './world';

/** Every web server of the world behind one port, told apart by Host. A host that does not resolve drops the connection. */
export function makeWeb(world: World, now: () => number, accounts = new VenueAccounts(world, null)): Server {
  const limiter = new Limiter();
  const moods = new Moods();
  return createServer({ keepAliveTimeout: 8000 }, (request, response) => {
    const host = (request.headers.host ?? '').replace(/:\d+$/, '').toLowerCase();
    const path = request.url ?? '/';
    const at = now();
    if (path.includes('desk/')) {
      void deal(accounts, host, request, response, at);
      return;
    }
    const page =
      host === ARCHIVE_HOST
        ? archiveAnswer(world, path, at)
        : (venueAnswer(world, host, path, at, request.headers, (auction) => accounts.bidsOn(auction)) ??
          searchAnswer(world, host, path, at) ??
          rdapAnswer(world, limiter, host, path, at) ??
          registrarAnswer(world, host, path, at) ??
          markAnswer(host, path) ??
          interfaceAnswer(world, host, path, at, request.headers) ??
          pageOf(world, host, path, at));
    if (!page) {
      request.socket.destroy();
      return;
    }
    const refusal = path === '/robots.txt' ? null : moods.refuse(world, host, path);
    if (refusal) send(response, refusal);
    else if (page.delayMs) setTimeout(() => send(response, page), page.delayMs);
    else send(response, page);
  });
}

const MOST_ORDER_BYTES = 10_000;
const SLOW_MS = 4000;

/** An order at an account. One takes its time to answer, one breaks off once it has done what it was asked. */
async function deal(
  accounts: VenueAccounts,
  host: string,
  request: IncomingMessage,
  response: ServerResponse,
  at: number,
): Promise<void> {
  let body = '';
  for await (const chunk of request) {
    body += chunk;
    if (body.length > MOST_ORDER_BYTES) break;
  }
  const path = request.url ?? '/';
  const page = accounts.answer(host, request.method ?? 'GET', path, body, request.headers.authorization ?? '', at);
  if (!page || (path.startsWith('/lossy-') && request.method === 'PUT')) response.destroy();
  else if (path.startsWith('/slow-') && request.method === 'PUT') setTimeout(() => send(response, page), SLOW_MS);
  else send(response, page);
}

function send(response: ServerResponse, page: Page): void {
  const length = Buffer.byteLength(page.body);
  response.writeHead(page.status, { ...page.headers, 'content-length': length });
  if (page.cutAt === undefined) {
    response.end(page.body);
    return;
  }
  response.write(Buffer.from(page.body).subarray(0, Math.floor(length * page.cutAt)));
  setTimeout(() => response.destroy(), 5);
}

const LIMIT_PER_SECOND = 60;

/** Sites that answer some requests only when asked again. */
class Moods {
  private readonly limiter = new Limiter();
  private readonly asked = new Set<string>();

  refuse(world: World, host: string, path: string): Page | null {
    const manners = world.sites.get(host.replace(/^www\./, ''))?.site.manners;
    if (!manners) return null;
    if (manners.includes('limited')) {
      const wait = this.limiter.wait(host, LIMIT_PER_SECOND, 1000);
      if (wait > 0) return { status: 429, headers: { 'retry-after': String(Math.ceil(wait / 1000)) }, body: 'slower' };
    }
    if (manners.includes('moody') && !this.asked.has(`${host}${path}`)) {
      this.asked.add(`${host}${path}`);
      return { status: 503, headers: { 'retry-after': '0' }, body: 'in a moment' };
    }
    return null;
  }
}
