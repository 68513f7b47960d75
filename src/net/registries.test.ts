import { createSocket } from 'node:dgram';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { type AddressInfo, createServer as createTcp, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import packet from 'dns-packet';
import { afterEach, describe, expect, it } from 'vitest';
import { readRdap } from '../core/lifecycle/rdap-answer';
import { ArchiveClient } from './archive';
import { DnsClient, hostPort } from './dns';
import { HttpClient } from './http';
import { Pacer, retryAfterMs } from './pacer';
import { RdapClient } from './rdap';
import { readRegistrar } from './registrar';
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
  const udp = createSocket('udp4');
  udp.on('message', (message, remote) => {
    const answer = reply(packet.decode(message), false);
    if (answer) udp.send(answer, remote.port, remote.address);
  });
  // a port that is free for both: where a connection has the number already, another
  for (let attempt = 0; ; attempt++) {
    await new Promise<void>((done, fail) => tcp.once('error', fail).listen(0, '127.0.0.1', done));
    const { port: free } = tcp.address() as AddressInfo;
    const isBound = await new Promise<boolean>((done) =>
      udp.once('error', () => done(false)).bind(free, '127.0.0.1', () => done(true)),
    );
    if (isBound) break;
    if (attempt > 20) throw new Error('no port is free for UDP and TCP');
    await new Promise((done) => tcp.close(done));
  }
  const { port } = udp.address();
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
const NAME = 'pellgatehives.org';
const ask = (...resolvers: string[]) =>
  new DnsClient({ resolvers, timeoutMs: 150, tries: 2, asksEndings: false }).delegation(NAME);
/** With the servers of the ending at one address, and a resolver at another. */
const askEnding = (connector: string, resolver: string) =>
  new DnsClient({ resolvers: [resolver], timeoutMs: 150, tries: 1, connector }).delegation(NAME);
const honest = (query: packet.Packet) =>
  query.questions?.[0].name === NAME ? answer(query, { answers: ns(query) }) : answer(query, { rcode: 3 });
const referral = (query: packet.Packet) => answer(query, { authorities: ns(query) });
const noSuchName = (query: packet.Packet) => answer(query, { rcode: 3, flags: packet.AUTHORITATIVE_ANSWER });

describe('DnsClient', () => {
  it.each([
    ['delegated', honest],
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
      overTcp ? honest(query) : answer(query, { flags: packet.TRUNCATED_RESPONSE }),
    );
    expect(await ask(server)).toMatchObject({ outcome: 'delegated', nameServers: ['ns1.coombehosting.net'] });
  });

  it('goes to the next resolver when one is down', async () => {
    const down = await dnsServer(() => null);
    const up = await dnsServer((query) => answer(query, { rcode: 3 }));
    expect(await ask(down, up)).toMatchObject({ outcome: 'nxdomain', server: up });
  });

  it('believes the servers of the ending before any resolver', async () => {
    const liar = await dnsServer((query) => answer(query, { answers: ns(query) }));
    expect(await askEnding(await dnsServer(noSuchName), liar)).toMatchObject({ outcome: 'nxdomain' });
    const nobody = await dnsServer((query) => answer(query, { rcode: 3 }));
    expect(await askEnding(await dnsServer(referral), nobody)).toMatchObject({
      outcome: 'delegated',
      nameServers: ['ns1.coombehosting.net'],
    });
  });

  it.each([
    ['does not speak for the ending', (query: packet.Packet) => answer(query, { rcode: 3 })],
    ['refuses', (query: packet.Packet) => answer(query, { rcode: 5 })],
    [
      'refers elsewhere',
      (query: packet.Packet) =>
        answer(query, { authorities: [{ type: 'NS', name: 'org', ttl: 60, data: 'a.registry.org' }] }),
    ],
    ['is silent', () => null],
    ['breaks', (query: packet.Packet) => answer(query, { rcode: 2 })],
  ] as [string, DnsReply][])('asks a resolver when a server of the ending %s', async (_, reply) => {
    const resolver = await dnsServer(honest);
    expect(await askEnding(await dnsServer(reply), resolver)).toMatchObject({ outcome: 'delegated', server: resolver });
  });

  it('finds the servers of an ending by a resolver, and keeps to those it may reach', async () => {
    let asked = 0;
    const resolver = await dnsServer((query) => {
      asked++;
      const name = query.questions?.[0].name ?? '';
      if (name === 'org')
        return answer(query, {
          answers: [{ type: 'NS', name, ttl: 60, data: 'a.registry.org' }],
          additionals: [{ type: 'A', name: 'a.registry.org', ttl: 60, data: '127.0.0.1' }],
        });
      return answer(query, { rcode: 3 });
    });
    const client = new DnsClient({ resolvers: [resolver], timeoutMs: 150, tries: 1 });
    // the server is on loopback, which nobody allowed: the resolver answers instead
    expect(await client.delegation(NAME)).toMatchObject({ outcome: 'nxdomain', server: resolver });
    expect(asked).toBe(2);
    await client.delegation('tarnwickpress.org');
    expect(asked).toBe(3);
  });

  it('does not believe a resolver that finds names which cannot be there', async () => {
    const liar = await dnsServer((query) => answer(query, { answers: ns(query) }));
    expect(await ask(liar)).toMatchObject({ outcome: 'failed', detail: expect.stringContaining('do not exist') });
    const honest = await dnsServer((query) => answer(query, { rcode: 3 }));
    expect(await ask(liar, honest)).toMatchObject({ outcome: 'nxdomain', server: honest });
  });

  it('recognises a lame delegation', async () => {
    const served =
      (rcode: number, answers: packet.Answer[] = []) =>
      async () => {
        const resolver = await dnsServer((query) => answer(query, { rcode, answers }));
        return new DnsClient({ resolvers: [resolver], timeoutMs: 150, tries: 1 }).isServed(NAME);
      };
    const data = { mname: 'a', rname: 'b', serial: 1, refresh: 1, retry: 1, expire: 1, minimum: 1 };
    expect(await served(2)()).toBe(false);
    expect(await served(0)()).toBe(false);
    expect(await served(0, [{ type: 'SOA', name: NAME, ttl: 1, data }])()).toBe(true);
    expect(await served(5)()).toBeNull();
  });

  it('has hundreds of questions under way without mixing their answers up', async () => {
    const resolver = await dnsServer((query) => {
      const name = query.questions?.[0].name ?? '';
      return Number(name.slice(1, name.indexOf('.'))) % 2 ? answer(query, { answers: ns(query) }) : noSuchName(query);
    });
    // patient: with a busy core beside it, packets are lost and asked for again
    const client = new DnsClient({ resolvers: [], timeoutMs: 3000, tries: 8, connector: resolver });
    const outcomes: string[] = [];
    let next = 0;
    const work = async () => {
      for (let i = next++; i < 3000; i = next++) outcomes[i] = (await client.delegation(`n${i}.org`)).outcome;
    };
    await Promise.all(Array.from({ length: 256 }, work));
    // what is in the answer section of such a server counts as well as a referral
    expect(outcomes.filter((outcome, i) => outcome !== (i % 2 ? 'delegated' : 'nxdomain'))).toEqual([]);
    client.close();
  });

  it('splits host and port', () => {
    expect(hostPort('127.0.0.1:5353')).toEqual({ host: '127.0.0.1', port: 5353 });
    expect(hostPort('[::1]:53')).toEqual({ host: '::1', port: 53 });
    expect(hostPort('resolver.example')).toEqual({ host: 'resolver.example', port: 53 });
  });
});

const rdap = (status: number, body: string, name: string) =>
  readRdap({ status, contentType: 'application/rdap+json', body, serverKnown: true }, name);

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
  return { client: new RdapClient(http, bootstrap), base };
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
    expect(await client.domain(base, 'pellgatehives.org', true)).toMatchObject({
      outcome: 'found',
      record: {
        statuses: ['pending delete'],
        registeredAt: Date.UTC(1990, 11, 31, 23, 59, 59),
        registrar: 'Coombe Names',
        nameServers: ['ns1.coombe.example'],
      },
    });
  });

  it('reads the domain of RFC 9083, 5.3, figure for figure', () => {
    const links = [
      {
        value: 'https://example.net/domain/XXXX',
        rel: 'self',
        href: 'https://example.net/domain/XXXX',
        type: 'application/rdap+json',
      },
    ];
    const text = JSON.stringify({
      objectClassName: 'domain',
      handle: 'XXXX',
      ldhName: 'xn--fo-5ja.example',
      unicodeName: 'fóo.example',
      variants: [
        {
          relation: ['registered', 'conjoined'],
          variantNames: [{ ldhName: 'xn--fo-cka.example', unicodeName: 'fõo.example' }],
        },
        {
          relation: ['unregistered', 'registration restricted'],
          idnTable: '.EXAMPLE Swedish',
          variantNames: [{ ldhName: 'xn--fo-8ja.example' }],
        },
      ],
      status: ['locked', 'transfer prohibited'],
      publicIds: [{ type: 'ENS_Auth ID', identifier: '1234567890' }],
      nameservers: [
        {
          objectClassName: 'nameserver',
          handle: 'XXXX',
          ldhName: 'ns1.example.com',
          status: ['active'],
          ipAddresses: { v6: ['2001:db8::123', '2001:db8::124'], v4: ['192.0.2.1', '192.0.2.2'] },
          remarks: [{ description: ['She sells sea shells down by the sea shore.'] }],
          links,
          events: [{ eventAction: 'registration', eventDate: '1990-12-31T23:59:59Z' }],
        },
        { objectClassName: 'nameserver', handle: 'XXXX', ldhName: 'ns2.example.com', status: ['active'], links },
      ],
      secureDNS: {
        zoneSigned: true,
        delegationSigned: true,
        maxSigLife: 604800,
        keyData: [{ flags: 257, protocol: 3, algorithm: 8, publicKey: 'AwEAAa6eDzronzjEDbT...Jg1M5N rBSPkuXpdFE=' }],
      },
      remarks: [
        { description: ['She sells sea shells down by the sea shore.', 'Originally written by Terry Sullivan.'] },
      ],
      links,
      port43: 'whois.example.net',
      events: [
        { eventAction: 'registration', eventDate: '1990-12-31T23:59:59Z' },
        { eventAction: 'last changed', eventDate: '1991-12-31T23:59:59Z', eventActor: 'joe@example.com' },
        { eventAction: 'transfer', eventDate: '1991-12-31T23:59:59Z', eventActor: 'joe@example.com' },
        { eventAction: 'expiration', eventDate: '2016-12-31T23:59:59Z', eventActor: 'joe@example.com' },
      ],
      entities: [
        {
          objectClassName: 'entity',
          handle: 'XXXX',
          vcardArray: [
            'vcard',
            [
              ['version', {}, 'text', '4.0'],
              ['fn', {}, 'text', 'Joe User'],
              ['kind', {}, 'text', 'individual'],
            ],
          ],
          status: ['validated', 'locked'],
          roles: ['registrant'],
          remarks: [{ description: ['She sells sea shells down by the sea shore.'] }],
          links,
        },
      ],
    });
    expect(rdap(200, text, 'xn--fo-5ja.example')).toEqual({
      outcome: 'found',
      words: null,
      unread: [],
      record: {
        statuses: ['locked', 'transfer prohibited'],
        registeredAt: Date.UTC(1990, 11, 31, 23, 59, 59),
        expiresAt: Date.UTC(2016, 11, 31, 23, 59, 59),
        changedAt: Date.UTC(1991, 11, 31, 23, 59, 59),
        deletesAt: null,
        freeAt: null,
        registrant: 'Joe User',
        registrar: null,
        nameServers: ['ns1.example.com', 'ns2.example.com'],
      },
    });
    // the error of section 6 is no "no such domain"
    const error = {
      errorCode: 418,
      title: 'Your Beverage Choice is Not Available',
      description: ['I know coffee has more ummppphhh.', 'Sorry, dude!'],
    };
    expect(rdap(418, JSON.stringify(error), 'xn--fo-5ja.example').outcome).toBe('failed');
  });

  it('says that it was refused, and for how long', async () => {
    const { client, base } = await rdapServer([{ status: 429, headers: { 'retry-after': '30' } }, { status: 503 }]);
    expect(await client.domain(base, NAME, true)).toMatchObject({ outcome: 'refused', retryAfterMs: 30_000 });
    expect(await client.domain(base, NAME, true)).toMatchObject({ outcome: 'refused', retryAfterMs: null });
  });

  it('keeps an answer that it does not understand, and tells a broken connection from it', async () => {
    const { client, base } = await rdapServer([{ status: 200, body: 'rubbish' }]);
    expect(await client.domain(base, NAME, true)).toMatchObject({
      outcome: 'failed',
      isDropped: false,
      text: 'rubbish',
    });
    expect(await client.domain('http://127.0.0.1:9/', NAME, true)).toMatchObject({
      outcome: 'failed',
      isDropped: true,
    });
  });

  it.each([
    [404, '', 'not-found'],
    [200, 'not json', 'failed'],
    [200, '{"objectClassName":"nameserver"}', 'failed'],
    [200, '{"objectClassName":"domain","ldhName":"other.org"}', 'failed'],
    [200, '{"objectClassName":"domain"}', 'failed'],
    [200, '{"objectClassName":"domain","ldhName":"pellgatehives.org","status":"active"}', 'found'],
    [500, '', 'failed'],
    [302, '', 'failed'],
  ])('judges status %d with %j', (status, text, outcome) => {
    expect(rdap(status, text, 'pellgatehives.org').outcome).toBe(outcome);
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
  const client = (options: Partial<ConstructorParameters<typeof WhoisClient>[0]> = {}) =>
    new WhoisClient({ servers: {}, root: null, connector: null, timeoutMs: 300, ...options });

  it('knows the server of an ending by its table, by the root, or not at all', async () => {
    const root = await whoisServer((ending) => (ending === 'eu' ? 'refer: whois.gantrymoor.eu\r\n' : 'domain: X\r\n'));
    const whois = client({ servers: { de: 'whois.eskerby.de:43' }, root });
    expect(await whois.serverFor('de')).toBe('whois.eskerby.de:43');
    expect(await whois.serverFor('co.eu')).toBe('whois.gantrymoor.eu:43');
    expect(await whois.serverFor('xx')).toBeNull();
    expect(await client().serverFor('de')).toBeNull();
  });
  it('asks a server', async () => {
    const server = await whoisServer((question) => `Domain: ${question}\r\nStatus: active\r\nCreated: 2004-05-06\r\n`);
    expect(await client().domain(server, 'pellgate.de')).toMatchObject({
      outcome: 'found',
      server,
      text: null,
      record: { registeredAt: Date.UTC(2004, 4, 6) },
    });
  });
  it('goes on to the registrar where the registry is thin', async () => {
    const registrar = await whoisServer(
      (question) => `Domain: ${question}\r\nCreated: 2004-05-06\r\nExpires: 2027-05-06\r\nRegistrar: Coombe Names\r\n`,
    );
    const registry = await whoisServer(
      (question) => `Domain Name: ${question}\r\nDomain Status: ok\r\nRegistrar WHOIS Server: ${registrar}\r\n`,
    );
    expect(await client().domain(registry, 'pellgate.com')).toMatchObject({
      outcome: 'found',
      record: { statuses: ['ok'], expiresAt: Date.UTC(2027, 4, 6), registrar: 'Coombe Names' },
      detail: expect.stringContaining(`the rest from ${registrar}`),
    });
  });
  it('takes a refusal in words for one, and keeps what it cannot read', async () => {
    const cross = await whoisServer(() => 'Query rate limit exceeded\r\n');
    expect(await client().domain(cross, 'a.de')).toMatchObject({ outcome: 'refused' });
    const strange = await whoisServer(() => 'Bonjour\r\n');
    expect(await client().domain(strange, 'a.de')).toMatchObject({
      outcome: 'failed',
      text: 'Bonjour\r\n',
      isDropped: false,
    });
  });
  it.each([
    ['silence', () => undefined, 'no answer in time'],
    ['a connection closed at once', (socket: Socket) => socket.end(), 'closed without an answer'],
    ['a connection broken', (socket: Socket) => socket.resetAndDestroy(), ''],
    [
      'an answer without end',
      (socket: Socket) => {
        const timer = setInterval(() => socket.write('x'.repeat(65_536)), 1);
        socket.on('close', () => clearInterval(timer));
      },
      'never ends',
    ],
  ] as [string, (socket: Socket) => void, string][])('fails on %s', async (_, act, detail) => {
    const server = createTcp((socket) => {
      socket.on('error', () => undefined);
      act(socket);
    });
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    open.push(() => server.close());
    const address = `127.0.0.1:${(server.address() as AddressInfo).port}`;
    const answer = await client({ timeoutMs: 400 }).domain(address, 'pellgate.de');
    expect(answer).toMatchObject({ outcome: 'failed', isDropped: true });
    expect(answer.detail).toContain(detail);
  });
});

describe('askRegistrar', () => {
  it.each([
    ['{"domain":"a.org","availability":"available"}', 'available', 'available'],
    [
      '{"domain":"A.org","availability":"premium","priceMinor":120000,"currency":"EUR"}',
      'premium',
      'premium, 1200.00 EUR',
    ],
    ['{"domain":"b.org","availability":"available"}', 'failed', 'the answer is about b.org'],
    ['{"domain":"a.org","availability":"perhaps"}', 'failed', 'the answer is none of a registrar'],
    ['{"domain":"a.org","availability":"refused"}', 'failed', 'the answer is none of a registrar'],
    ['<html>', 'failed', 'the answer is no JSON'],
  ])('reads %s', (text, outcome, detail) => {
    expect(readRegistrar(text, 'a.org')).toMatchObject({ outcome, detail });
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
    const turns: string[] = [];
    const take = (server: string) => paced.turn(server).then(() => turns.push(server));
    await Promise.all([take('a'), take('a'), take('a'), take('b')]);
    expect(performance.now() - started).toBeGreaterThan(115);
    // the other server's turn is not behind those that wait
    expect(turns.indexOf('b')).toBeLessThan(2);
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
