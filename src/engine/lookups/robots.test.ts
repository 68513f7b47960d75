import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { HttpClient } from '../../net/http';
import { RobotsCache } from './robots';

let server: Server;
afterEach(() => server.close());

async function cacheFor(answer: RequestListener): Promise<RobotsCache> {
  server = createServer(answer);
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const connector = `127.0.0.1:${(server.address() as AddressInfo).port}`;
  return new RobotsCache(new HttpClient({ connector, timeoutMs: 400 }), 'JamLadle/0.1');
}
const { signal } = new AbortController();
const text =
  (body: string): RequestListener =>
  (_request, response) =>
    response.writeHead(200, { 'content-type': 'text/plain' }).end(body);
const ask = async (rules: string, path: string) =>
  (await (await cacheFor(text(rules))).ask(`http://a.org${path}`, signal)).allowed;

describe('RobotsCache', () => {
  it.each([
    ['User-agent: *\nDisallow: /private/', '/private/x', false],
    ['User-agent: *\nDisallow: /private/', '/open', true],
    ['User-agent: *\nDisallow: /\nAllow: /open', '/open', true],
    ['User-agent: JamLadle\nDisallow: /\n\nUser-agent: *\nDisallow:', '/x', false],
    ['User-agent: Other\nDisallow: /', '/x', true],
    ['User-agent: *\nDisallow: /*.pdf$', '/a.pdf', false],
    ['User-agent: *\nDisallow: /*.pdf$', '/a.pdf?x', true],
    ['', '/x', true],
    ['<html>no rules here</html>', '/x', true],
  ])('by %j lets %s through: %s', async (rules, path, allowed) => {
    expect(await ask(rules, path)).toBe(allowed);
  });

  it('asks each host once', async () => {
    let asked = 0;
    const cache = await cacheFor((_request, response) => {
      asked++;
      response.writeHead(404).end();
    });
    await Promise.all([1, 2, 3].map((n) => cache.ask(`http://a.org/${n}`, signal)));
    await cache.ask('http://b.org/', signal);
    expect(asked).toBe(2);
  });

  it.each([
    [404, true],
    [403, true],
    [500, false],
    [503, false],
  ])('takes status %d for allowed: %s', async (status, allowed) => {
    const cache = await cacheFor((_request, response) => response.writeHead(status).end());
    expect((await cache.ask('http://a.org/x', signal)).allowed).toBe(allowed);
  });

  it('follows redirects of robots.txt, and stops at a ring of them', async () => {
    const moved = await cacheFor((request, response) =>
      request.url === '/robots.txt'
        ? response.writeHead(301, { location: '/rules.txt' }).end()
        : response.writeHead(200).end('User-agent: *\nDisallow: /x'),
    );
    expect((await moved.ask('http://a.org/x', signal)).allowed).toBe(false);
    server.close();
    const ring = await cacheFor((_request, response) => response.writeHead(301, { location: '/robots.txt' }).end());
    expect((await ring.ask('http://a.org/x', signal)).allowed).toBe(true);
  });

  it('grants a wish for a pause, up to half a minute', async () => {
    const rules = (seconds: number) => `User-agent: *\nCrawl-delay: ${seconds}`;
    expect((await (await cacheFor(text(rules(3)))).ask('http://a.org/', signal)).crawlDelayMs).toBe(3000);
    server.close();
    expect((await (await cacheFor(text(rules(900)))).ask('http://a.org/', signal)).crawlDelayMs).toBe(30_000);
  });

  it('takes a robots.txt beyond all size for a no', async () => {
    expect(await ask('#'.repeat(700 * 1024), '/x')).toBe(false);
  });

  it('fails with the host, and asks again the next time', async () => {
    let asked = 0;
    const cache = await cacheFor((request, response) =>
      asked++ === 0 ? request.socket.destroy() : response.writeHead(404).end(),
    );
    await expect(cache.ask('http://a.org/x', signal)).rejects.toThrow('connection to a.org broke');
    expect((await cache.ask('http://a.org/x', signal)).allowed).toBe(true);
  });
});
