import { createSocket } from 'node:dgram';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { type AddressInfo, createServer as createTcp } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import packet from 'dns-packet';
import { afterEach, describe, expect, it } from 'vitest';
import { ArchiveClient } from './archive';
import { DnsClient, hostPort } from './dns';
import { HttpClient } from './http';
import { Pacer, retryAfterMs } from './pacer';
import { RdapClient, readAnswer } from './rdap';
import { WhoisClient } from './whois';

const open: (() => void)[] = [];
afterEach(() => {
  for (const close of open.splice(0)) close();
});
const pacer = () => new Pacer({ intervalMs: 1, maxIntervalMs: 60_000 });

type DnsReply = (query: packet.Packet, overTcp: boolean) => Buffer | null;
async function dnsServer(reply: DnsReply): Promise<string> {
  const tcp = createTcp((socket) => {
    socket.on('error', () => undefined);
    socket.on('data', (data) => {
      const answer = reply(packet.decode(data.subarray(2)), true);
      if (!answer) return socket.destroy();
      const length = Buffer.alloc(2);
      length.writeUInt16BE(answer.length);
      // in two parts, as networks do
      socket.write(length);
      setTimeout(() => socket.write(answer), 5);
    });
  });
  await new Promise<void>((done) => tcp.listen(0, '127.0.0.1', done));
  const { port } = tcp.address() as AddressInfo;
  const udp = createSocket('udp4');
  udp.on('message', (message, remote) => {
    const answer = reply(packet.decode(message), false);
    if (answer) udp.send(answer, remote.port, remote.address);
  });
  await new Promise<void>((done) => udp.bind(port, '127.0.0.1', done));
  open.push(
    () => tcp.close(),
    () => udp.close(),
  );
  return `127.0.0.1:${port}`;
}
const answer = (query: packet.Packet, part: Partial<packet.Packet> & { rcode?: number } = {}) => {
  const { rcode = 0, flags = 0, ...rest } = part;
  return packet.encode({ type: 'response', id: query.id, questions: query.questions, ...rest, flags: flags | rcode });
};
const ns = (query: packet.Packet): packet.Answer[] => [
  { type: 'NS', name: query.questions?.[0].name ?? '', ttl: 60, data: 'ns1.coombehosting.net' },
];
const ask = (...resolvers: string[]) =>
  new DnsClient({ resolvers, timeoutMs: 150, tries: 2 }).delegation('pellgatehives.org');

describe('DnsClient', () => {
  it.each([
    ['delegated', (query: packet.Packet) => answer(query, { answers: ns(query) })],
    ['nxdomain', (query: packet.Packet) => answer(query, { rcode: 3 })],
    ['no-delegation', (query: packet.Packet) => answer(query)],
    ['failed', (query: packet.Packet) => answer(query, { rcode: 2 })],
    ['failed', () => null],
    ['failed', () => Buffer.from('rubbish')],
    ['failed', (query: packet.Packet) => answer({ ...query, id: ((query.id ?? 0) + 1) % 65536 }, { rcode: 3 })],
    [
      'failed',
      (query: packet.Packet) => answer({ ...query, questions: [{ type: 'NS', name: 'other.org' }] }, { rcode: 3 }),
    ],
  ] as [string, DnsReply][])('says %s', async (outcome, reply) => {
    expect((await ask(await dnsServer(reply))).outcome).toBe(outcome);
  });

  it('asks again over TCP when the answer was cut', async () => {
    const server = await dnsServer((query, overTcp) =>
      overTcp ? answer(query, { answers: ns(query) }) : answer(query, { flags: packet.TRUNCATED_RESPONSE }),
    );
    expect(await ask(server)).toMatchObject({ outcome: 'delegated', nameServers: ['ns1.coombehosting.net'] });
  });

  it('goes to the next resolver when one is down', async () => {
    const down = await dnsServer(() => null);
    const up = await dnsServer((query) => answer(query, { rcode: 3 }));
    expect(await ask(down, up)).toMatchObject({ outcome: 'nxdomain', server: up });
  });

  it('splits host and port', () => {
    expect(hostPort('127.0.0.1:5353')).toEqual({ host: '127.0.0.1', port: 5353 });
    expect(hostPort('[::1]:53')).toEqual({ host: '::1', port: 53 });
    expect(hostPort('resolver.example')).toEqual({ host: 'resolver.example', port: 53 });
  });
});

async function rdapServer(replies: { status: number; body?: object | string; headers?: Record<string, string> }[]) {
  let asked = 0;
  const server = createServer((_request, response) => {
    const { status, body = {}, headers = {} } = replies[Math.min(asked++, replies.length - 1)];
    response.writeHead(status, { 'content-type': 'application/rdap+json', ...headers });
    response.end(typeof body === 'string' ? body : JSON.stringify(body));
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  open.push(() => server.close());
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  const bootstrap = join(mkdtempSync(join(tmpdir(), 'rdap-')), 'bootstrap.json');
  writeFileSync(bootstrap, JSON.stringify({ services: [[['org', 'co.uk'], [base.slice(0, -1)]]] }));
  const http = new HttpClient({ allowedPrivate: ['127.0.0.1'] });
  return { client: new RdapClient(http, pacer(), bootstrap), base, asked: () => asked };
}

describe('RdapClient', () => {
  // After the example of RFC 9083 section 5.3.
  const object = {
    objectClassName: 'domain',
    ldhName: 'PELLGATEHIVES.org',
    status: ['pending delete'],
    events: [
      { eventAction: 'registration', eventDate: '1990-12-31T23:59:59Z' },
      { eventAction: 'expiration', eventDate: '2026-12-31T23:59:59Z' },
    ],
    nameservers: [{ objectClassName: 'nameserver', ldhName: 'NS1.Coombe.example' }],
    entities: [
      {
        roles: ['registrar'],
        vcardArray: [
          'vcard',
          [
            ['version', {}, 'text', '4.0'],
            ['fn', {}, 'text', 'Coombe Names'],
          ],
        ],
      },
    ],
  };

  it('finds the server by the longest ending', async () => {
    const { client, base } = await rdapServer([]);
    expect(await client.serverFor('co.uk')).toBe(base);
    expect(await client.serverFor('other.org')).toBe(base);
    expect(await client.serverFor('de')).toBeNull();
  });

  it('reads a record', async () => {
    const { client, base } = await rdapServer([{ status: 200, body: object }]);
    expect(await client.domain(base, 'pellgatehives.org')).toMatchObject({
      outcome: 'found',
      record: {
        statuses: ['pending delete'],
        registeredAt: Date.UTC(1990, 11, 31, 23, 59, 59),
        registrar: 'Coombe Names',
        nameServers: ['ns1.coombe.example'],
      },
    });
  });

  it('waits as long as a refusal asks, then gets its answer', async () => {
    const { client, base, asked } = await rdapServer([
      { status: 429, headers: { 'retry-after': '1' } },
      { status: 404 },
    ]);
    const started = performance.now();
    expect((await client.domain(base, 'pellgatehives.org')).outcome).toBe('not-found');
    expect(performance.now() - started).toBeGreaterThan(900);
    expect(asked()).toBe(2);
  });

  it('leaves a registry alone that wants a long pause', async () => {
    const { client, base, asked } = await rdapServer([{ status: 429, headers: { 'retry-after': '3000' } }]);
    expect((await client.domain(base, 'a.org')).outcome).toBe('refused');
    expect((await client.domain(base, 'b.org')).detail).toContain('not asked: the registry wants a pause');
    expect(asked()).toBe(1);
  });

  it.each([
    [404, '', 'not-found'],
    [200, 'not json', 'failed'],
    [200, '{"objectClassName":"nameserver"}', 'failed'],
    [200, '{"objectClassName":"domain","ldhName":"other.org"}', 'failed'],
    [200, '{"objectClassName":"domain","status":"active"}', 'failed'],
    [500, '', 'failed'],
    [302, '', 'failed'],
  ])('judges status %d with %j', (status, text, outcome) => {
    expect(readAnswer(status, text, 'pellgatehives.org').outcome).toBe(outcome);
  });
});

describe('WhoisClient', () => {
  async function whoisServer(reply: (question: string) => string): Promise<string> {
    const server = createTcp((socket) => {
      socket.on('error', () => undefined);
      socket.once('data', (data) => socket.end(reply(data.toString().trim())));
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    open.push(() => server.close());
    return `127.0.0.1:${(server.address() as AddressInfo).port}`;
  }
  const client = (options: Partial<ConstructorParameters<typeof WhoisClient>[0]>) =>
    new WhoisClient({ servers: {}, root: null, connector: null, timeoutMs: 300, ...options }, pacer());

  it('asks the server of the ending', async () => {
    const server = await whoisServer((question) => `Domain: ${question}\r\nStatus: active\r\nCreated: 2004-05-06\r\n`);
    const found = await client({ servers: { de: server } }).domain('pellgate.de', 'de');
    expect(found).toMatchObject({ outcome: 'found', server, record: { registeredAt: Date.UTC(2004, 4, 6) } });
  });
  it('is referred by the root', async () => {
    const server = await whoisServer(() => 'No match for it.\r\n');
    const root = await whoisServer(() => `refer: ${server}\r\n`);
    expect(await client({ root }).domain('pellgate.eu', 'eu')).toMatchObject({ outcome: 'not-found', server });
  });
  it('tries again after a refusal in words', async () => {
    let asked = 0;
    const server = await whoisServer(() => (asked++ === 0 ? 'Query rate limit exceeded\r\n' : 'NOT FOUND\r\n'));
    expect(await client({ servers: { de: server } }).domain('pellgate.de', 'de')).toMatchObject({
      outcome: 'not-found',
    });
    expect(asked).toBe(2);
  });
  it('has nobody to ask for an ending without a server', async () => {
    expect(await client({}).domain('pellgate.de', 'de')).toBeNull();
  });
  it('fails on silence', async () => {
    const server = createTcp(() => undefined);
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    open.push(() => server.close());
    const address = `127.0.0.1:${(server.address() as AddressInfo).port}`;
    expect(await client({ servers: { de: address } }).domain('pellgate.de', 'de')).toMatchObject({
      outcome: 'failed',
      detail: 'no answer in time',
    });
  });
});

describe('ArchiveClient', () => {
  it('reads a TimeMap over its pages, and knows none when it is missing', async () => {
    const server = createServer((request, response) => {
      const { port } = server.address() as AddressInfo;
      const self = `http://127.0.0.1:${port}`;
      if (request.url?.startsWith('/none')) response.writeHead(404).end();
      else if (request.url === '/page2')
        response.end(`<${self}/web/2/x>;rel="memento";datetime="Tue, 27 Oct 2009 20:49:54 GMT"`);
      else
        response.end(
          `<${self}/web/1/x>;rel="first memento";datetime="Tue, 20 Jun 2000 18:02:59 GMT",<${self}/page2>;rel="next"`,
        );
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    open.push(() => server.close());
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const http = new HttpClient({ allowedPrivate: ['127.0.0.1'] });
    const archive = (path: string) => new ArchiveClient(http, pacer(), `${base}${path}/{url}`);
    expect(
      (await archive('/map').timeMap('http://a.org/')).mementos.map(({ at }) => new Date(at).getUTCFullYear()),
    ).toEqual([2000, 2009]);
    expect((await archive('/none').timeMap('http://a.org/')).mementos).toEqual([]);
  });
});

describe('Pacer', () => {
  it('spaces the questions to one server, not to two', async () => {
    const paced = new Pacer({ intervalMs: 60, maxIntervalMs: 1000 });
    const started = performance.now();
    await Promise.all([paced.turn('a'), paced.turn('a'), paced.turn('a'), paced.turn('b')]);
    const took = performance.now() - started;
    expect(took).toBeGreaterThan(115);
    expect(took).toBeLessThan(400);
  });
  it('slows down after a refusal and recovers', () => {
    const paced = new Pacer({ intervalMs: 100, maxIntervalMs: 1000 });
    const pauseAfterRefusal = () => {
      paced.refused('a', null);
      return Math.round(paced.waitMs('a') / 10) * 10;
    };
    expect(pauseAfterRefusal()).toBe(200);
    expect(pauseAfterRefusal()).toBe(400);
    for (let i = 0; i < 50; i++) paced.answered('a');
    expect(pauseAfterRefusal()).toBe(200);
    for (let i = 0; i < 9; i++) pauseAfterRefusal();
    expect(pauseAfterRefusal()).toBe(1000);
    expect(paced.waitMs('b')).toBe(0);
  });
  it('reads Retry-After as seconds or as a date', () => {
    expect(retryAfterMs('3', 0)).toBe(3000);
    expect(retryAfterMs(new Date(5000).toUTCString(), 2000)).toBe(3000);
    expect(retryAfterMs('soon', 0)).toBeNull();
    expect(retryAfterMs(undefined, 0)).toBeNull();
  });
});
