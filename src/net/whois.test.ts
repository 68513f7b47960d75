import { type AddressInfo, createServer as createTcp, type Socket } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { WhoisClient } from './whois';

const open: (() => void)[] = [];
afterEach(() => {
  for (const close of open.splice(0)) close();
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
    new WhoisClient({
      servers: {},
      root: null,
      connector: null,
      allowedPrivate: ['127.0.0.1'],
      timeoutMs: 300,
      ...options,
    });

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
