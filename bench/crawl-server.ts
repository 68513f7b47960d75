import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';

/** Pages of 28 KB with 240 links each, for as many hosts as are asked for. Its own process, so that it costs the crawler nothing. */
const PAGES = 400;
const LINKS = 240;
const latencyMs = Number(process.env.LATENCY_MS ?? 0);
/** Pages kept; the others are made anew. */
const MOST_CACHED = 20_000;
const cache = new Map<string, Buffer>();

function page(host: string, number: number): Buffer {
  const key = `${host}${number}`;
  const found = cache.get(key);
  if (found) return found;
  const links = Array.from({ length: LINKS }, (_, i) =>
    i % 12 === 0
      ? `<li><a href="http://out${(number * 31 + i * 7) % 5000}-vale.org/page${i}.html">Honey and hives ${i}</a></li>`
      : `<li><a href="/page/${(number * 17 + i * 13) % PAGES}.html">Notes on the brood ${i}</a></li>`,
  ).join('\n');
  const filler = '<p>The colony and the queen and the frame and the forage and the heather.</p>'.repeat(150);
  const body = Buffer.from(`<!doctype html><title>Page ${number}</title><ul>${links}</ul>${filler}`.slice(0, 28_000));
  if (cache.size < MOST_CACHED) cache.set(key, body);
  return body;
}

const server = createServer((request, response) => {
  const path = request.url ?? '/';
  if (path === '/robots.txt') return response.writeHead(404).end();
  const number = Number(/\d+/.exec(path)?.[0] ?? 0);
  const body = page(request.headers.host ?? '', number);
  const send = () => {
    response.writeHead(200, { 'content-type': 'text/html; charset=utf-8', 'content-length': body.length });
    response.end(body);
  };
  if (latencyMs > 0) setTimeout(send, latencyMs);
  else send();
});
server.listen(0, '127.0.0.1', () => process.stdout.write(`${(server.address() as AddressInfo).port}\n`));
