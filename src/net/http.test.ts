import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { createServer as createTcp, type Socket, type Server as TcpServer } from 'node:net';
import { gzipSync } from 'node:zlib';
import { afterEach, describe, expect, it } from 'vitest';
import { AddressGuard } from './address-guard';
import { contentType, HttpClient, type HttpOptions } from './http';

const open: { close(): void }[] = [];
afterEach(() => {
  for (const thing of open.splice(0)) thing.close();
});

async function listen(server: Server | TcpServer): Promise<string> {
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  open.push(server);
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
}
const web = (answer: RequestListener) => listen(createServer(answer));
const raw = (answer: (socket: Socket) => void) =>
  listen(
    createTcp((socket) => {
      socket.on('error', () => undefined);
      socket.once('data', () => answer(socket));
      open.push({ close: () => socket.destroy() });
    }),
  );
const client = (options: Partial<HttpOptions> = {}) =>
  new HttpClient({ allowedPrivate: ['127.0.0.1'], timeoutMs: 8000, ...options });
const failure = (promise: Promise<unknown>) =>
  promise.then(
    () => 'no failure',
    (error) => `${error.code}: ${error.message}`,
  );

describe('HttpClient', () => {
  it('reads status, headers and an inflated body', async () => {
    const url = await web((request, response) => {
      response.writeHead(200, { 'content-encoding': 'gzip', 'x-agent': request.headers['user-agent'] ?? '' });
      response.end(gzipSync('hello'));
    });
    const answer = await client({ userAgent: 'Test/1' }).get(`${url}/a?b=c`);
    expect(answer).toMatchObject({ status: 200, headers: { 'x-agent': 'Test/1' } });
    expect(answer.body.toString()).toBe('hello');
  });

  it('hands a body on as it comes, plain, and keeps none of it', async () => {
    const body = 'hive '.repeat(200_000);
    const url = await web((request, response) => {
      expect(request.headers['accept-encoding']).toBe('identity');
      response.end(body);
    });
    const chunks: Buffer[] = [];
    const answer = await client().get(url, { onChunk: (chunk) => chunks.push(chunk) });
    expect(answer.body.length).toBe(0);
    expect(chunks.length).toBeGreaterThan(1);
    expect(Buffer.concat(chunks).toString()).toBe(body);
  });

  it('does not hand on the body of a refusal, and stops when whoever takes it fails', async () => {
    let status = 404;
    const url = await web((_request, response) => response.writeHead(status).end('x'.repeat(100_000)));
    let taken = 0;
    const answer = await client().get(url, { onChunk: (chunk) => (taken += chunk.length) });
    expect([answer.status, taken]).toEqual([404, 0]);
    status = 200;
    const full = () => {
      throw new Error('no space');
    };
    expect(await failure(client().get(url, { onChunk: full }))).toContain('no space');
  });

  it('sends further headers along', async () => {
    const url = await web((request, response) =>
      response.writeHead(request.headers['if-none-match'] ? 304 : 200).end(),
    );
    expect((await client().get(url, { headers: { 'if-none-match': '"1"' } })).status).toBe(304);
  });

  it('does not follow redirects by itself', async () => {
    const url = await web((_request, response) => response.writeHead(302, { location: '/b' }).end());
    expect((await client().get(url)).headers.location).toBe('/b');
  });

  it('refuses private addresses, also behind a name', async () => {
    const url = await web((_request, response) => response.end('secret'));
    const strict = new HttpClient({ timeoutMs: 8000 });
    expect(await failure(strict.get(url))).toContain(
      'private-address: 127.0.0.1 is a private address; allow it in the settings',
    );
    expect(await failure(strict.get(url.replace('127.0.0.1', 'localhost')))).toContain('private-address: localhost (');
    expect(await failure(strict.get('http://[::1]:9/'))).toContain('private-address');
  });

  it('says that a name resolves to nothing', async () => {
    expect(await failure(client().get('http://no-such-host.invalid/'))).toBe(
      'name-not-found: no-such-host.invalid resolves to nothing',
    );
  });

  it('says that a connection is refused', async () => {
    expect(await failure(client().get('http://127.0.0.1:9/'))).toContain('refused: 127.0.0.1:9 refuses');
  });

  it('stops at endless headers', async () => {
    const url = await raw((socket) => {
      socket.write('HTTP/1.1 200 OK\r\n');
      const timer = setInterval(
        () => socket.writable && socket.write(`x-${Math.random()}: ${'y'.repeat(4000)}\r\n`),
        1,
      );
      open.push({ close: () => clearInterval(timer) });
    });
    expect(await failure(client().get(url))).toContain('headers-too-large');
  });

  it('stops at an endless body', async () => {
    const url = await web((_request, response) => {
      response.writeHead(200);
      const timer = setInterval(() => response.write('x'.repeat(64 * 1024)), 1);
      response.on('close', () => clearInterval(timer));
    });
    expect(await failure(client({ maxBodyBytes: 500_000 }).get(url))).toContain(
      'too-large: The answer is larger than 488 KB',
    );
  });

  it('stops at a gzip bomb before it has unfolded', async () => {
    const bomb = gzipSync(Buffer.alloc(200 * 1024 * 1024));
    const url = await web((_request, response) => response.writeHead(200, { 'content-encoding': 'gzip' }).end(bomb));
    const before = process.memoryUsage().arrayBuffers;
    expect(await failure(client().get(url))).toContain('too-large');
    expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(50 * 1024 * 1024);
  });

  it('gives up on a server that says nothing', async () => {
    const url = await raw(() => undefined);
    expect(await failure(client({ timeoutMs: 500 }).get(url))).toContain('timeout: ');
  });

  it('gives up on a body that trickles for ever', async () => {
    const url = await web((_request, response) => {
      response.writeHead(200);
      const timer = setInterval(() => response.write('x'), 20);
      response.on('close', () => clearInterval(timer));
    });
    expect(await failure(client({ timeoutMs: 500 }).get(url))).toContain('timeout: ');
  });

  it('says that a connection broke in the middle, and that gzip is damaged', async () => {
    const cut = await raw((socket) => {
      socket.write('HTTP/1.1 200 OK\r\ncontent-length: 100\r\n\r\nhalf');
      setTimeout(() => socket.destroy(), 20);
    });
    expect(await failure(client().get(cut))).toContain('connection: ');
    const damaged = await web((_request, response) =>
      response.writeHead(200, { 'content-encoding': 'gzip' }).end('not gzip at all'),
    );
    expect(await failure(client().get(damaged))).toContain('bad-encoding');
    const unknown = await web((_request, response) => response.writeHead(200, { 'content-encoding': 'zpaq' }).end('x'));
    expect(await failure(client().get(unknown))).toContain('"zpaq" is not known');
  });

  it('can be stopped', async () => {
    const url = await raw(() => undefined);
    const stop = new AbortController();
    const wait = failure(client().get(url, { signal: stop.signal }));
    setTimeout(() => stop.abort(), 50);
    expect(await wait).toContain('stopped');
  });

  it('leaves a body unread that nobody wants', async () => {
    const url = await web((_request, response) =>
      response.writeHead(200, { 'content-type': 'video/mp4' }).end(Buffer.alloc(1e6)),
    );
    const answer = await client().get(url, {
      wantsBody: (_status, headers) => headers['content-type'] === 'text/html',
    });
    expect(answer.body.length).toBe(0);
  });

  it('sends every host to the connector when there is one', async () => {
    const url = await web((request, response) => response.end(request.headers.host));
    const answer = await client({ connector: url.slice(7), allowedPrivate: [] }).get('http://somewhere.example.org/x');
    expect(answer.body.toString()).toBe('somewhere.example.org');
  });
});

describe('AddressGuard', () => {
  const guard = new AddressGuard(['10.1.0.0/16', '::1']);
  it.each([
    ['93.184.216.34', true],
    ['10.1.2.3', true],
    ['10.2.2.3', false],
    ['127.0.0.1', false],
    ['169.254.1.1', false],
    ['192.168.0.1', false],
    ['100.64.0.1', false],
    ['0.0.0.0', false],
    ['::1', true],
    ['::ffff:127.0.0.1', false],
    ['fd00::1', false],
    ['2606:2800:220:1::1', true],
    ['not an address', false],
  ])('%s: %s', (address, allowed) => expect(guard.permits(address)).toBe(allowed));
});

describe('contentType', () => {
  it.each([
    ['text/html; charset=UTF-8', 'text/html', 'UTF-8'],
    ['TEXT/HTML;Charset="iso-8859-1"', 'text/html', 'iso-8859-1'],
    ['text/plain', 'text/plain', null],
    [undefined, '', null],
  ])('%j', (header, type, charset) => expect(contentType(header)).toEqual({ type, charset }));
});
