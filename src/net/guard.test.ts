import type { AddressInfo } from 'node:net';
import { createServer, type Server, type Socket } from 'node:net';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { AddressGuard } from './address-guard';
import { DnsClient } from './dns';
import { HttpClient } from './http';
import { WhoisClient } from './whois';

/** Ways to write this machine, and what only this machine and its network can reach. */
const INSIDE = [
  '127.0.0.1', '127.8.8.8', '0.0.0.0', '10.1.2.3', '172.16.0.1', '192.168.1.1', '169.254.169.254', '100.64.0.1', '198.18.0.1', '240.0.0.1',
  '255.255.255.255', '224.0.0.1', '::', '::1', '::ffff:127.0.0.1', '::ffff:a00:1', '::7f00:1', '::127.0.0.1', '64:ff9b::7f00:1', '64:ff9b::10.0.0.1',
  '64:ff9b:1::1', '2002:7f00:1::', '2001::1', 'fc00::1', 'fd12:3456::1', 'fe80::1', 'fec0::1', 'ff02::1', '100::1', '2001:db8::1', '5f00::1', '4000::1',
]; // biome-ignore format: addresses
const OUTSIDE = ['203.0.114.7', '8.8.4.4', '2606:4700::1111', '2a00:1450::1', '64:ff9b::8.8.4.4', '::ffff:8.8.4.4'];

let canary: Server;
let canaryPort: number;
let hits: string[];
const servers: Server[] = [];

/** A server on an address of this machine. */
async function listen(address: string, serve: (socket: Socket) => void): Promise<{ server: Server; port: number }> {
  const server = createServer((socket) => {
    socket.on('error', () => undefined);
    serve(socket);
  });
  await new Promise<void>((done) => server.listen(0, address, done));
  servers.push(server);
  return { server, port: (server.address() as AddressInfo).port };
}

beforeEach(async () => {
  hits = [];
  ({ server: canary, port: canaryPort } = await listen('127.0.0.1', (socket) => {
    hits.push('somebody came');
    socket.end();
  }));
});
afterEach(() => {
  for (const server of servers.splice(0)) server.close();
});

describe('the guard', () => {
  const guard = new AddressGuard([]);
  it.each(INSIDE)('keeps from %s', (address) => {
    expect(guard.permits(address)).toBe(false);
  });
  it.each(OUTSIDE)('lets through to %s', (address) => {
    expect(guard.permits(address)).toBe(true);
  });

  it('lets through what the settings name, and only that', () => {
    const own = new AddressGuard(['127.0.0.1', '10.0.0.0/8', 'fd00::/8']);
    expect(['127.0.0.1', '10.9.9.9', 'fd12::1', '::ffff:127.0.0.1'].map((one) => own.permits(one))).toEqual([
      true,
      true,
      true,
      true,
    ]);
    expect(['127.0.0.2', '11.0.0.1', 'fc00::1'].map((one) => own.permits(one))).toEqual([false, true, false]);
    expect(() => new AddressGuard(['nonsense'])).toThrow();
  });

  it('speaks a protocol with its ports, and with any where the settings name the address', async () => {
    expect(guard.permitsPort('8.8.4.4', 43, 'whois')).toBe(true);
    expect(guard.permitsPort('8.8.4.4', 25, 'whois')).toBe(false);
    expect(guard.permitsPort('8.8.4.4', 587, 'smtp')).toBe(true);
    expect(guard.permitsPort('8.8.4.4', 6379, 'smtp')).toBe(false);
    for (const port of [80, 443, 8080, 3000]) expect(guard.permitsPort('8.8.4.4', port, 'http')).toBe(true);
    for (const port of [22, 25, 53, 110, 6667]) expect(guard.permitsPort('8.8.4.4', port, 'http')).toBe(false);
    expect(new AddressGuard(['127.0.0.1']).permitsPort('127.0.0.1', 6379, 'smtp')).toBe(true);
    await expect(guard.addressOf('8.8.4.4', 6379, 'whois')).rejects.toThrow('one of another protocol');
  });

  it('looks at all addresses of a name, and gives the one that was looked at', async () => {
    const find = async (name: string) =>
      (name === 'two-faced.test' ? ['8.8.4.4', '127.0.0.1'] : ['8.8.4.4']).map((address) => ({ address, family: 4 }));
    expect(await guard.addressOf('fine.test', 43, 'whois', find)).toBe('8.8.4.4');
    await expect(guard.addressOf('two-faced.test', 43, 'whois', find)).rejects.toThrow(
      'two-faced.test (127.0.0.1) is a private address',
    );
    await expect(guard.addressOf('localhost', 43, 'whois')).rejects.toThrow('private address');
  });
});

describe('nobody inside is reached', () => {
  const forms = () => [
    '127.0.0.1',
    '[::ffff:127.0.0.1]',
    '[::7f00:1]',
    '2130706433',
    '0x7f.1',
    '127.1',
    '0177.0.0.1',
    'localhost',
    '0.0.0.0',
  ];

  it('by HTTP, however the address is written', async () => {
    const http = new HttpClient({ timeoutMs: 2000 });
    for (const form of forms())
      await expect(http.get(`http://${form}:${canaryPort}/`), form).rejects.toThrow(
        /private address|resolves to nothing/,
      );
    await http.close();
    expect(hits).toEqual([]);
  });

  it('by WHOIS: not as a server, not by what the root or a registry refers to', async () => {
    const direct = new WhoisClient({ servers: {}, root: null, connector: null, timeoutMs: 1000 });
    for (const form of forms()) {
      const answer = await direct.domain(`${form}:${canaryPort}`, 'tarnhives.org');
      expect(answer.outcome, form).toBe('failed');
    }
    // servers that may be reached, on another address of this machine
    const { port } = await listen('127.0.0.2', (socket) => {
      socket.once('data', (data) => {
        const asked = data.toString().trim();
        socket.end(
          asked === 'org'
            ? `refer: 127.0.0.1:${canaryPort}\r\n`
            : `Domain Name: ${asked}\r\nCreation Date: 2004-05-06\r\nRegistrar WHOIS Server: 127.0.0.1:${canaryPort}\r\n`,
        );
      });
    });
    const root = `127.0.0.2:${port}`;
    const whois = new WhoisClient({
      servers: { de: root },
      root,
      connector: null,
      allowedPrivate: ['127.0.0.2'],
      timeoutMs: 1000,
    });
    const referred = (await whois.serverFor('org')) ?? '';
    expect(referred).toBe(`127.0.0.1:${canaryPort}`);
    expect((await whois.domain(referred, 'tarnhives.org')).detail).toContain('private address');
    const thin = await whois.domain(root, 'tarnhives.de');
    expect(thin).toMatchObject({ outcome: 'found' });
    expect(thin.detail).toContain('private address');
    expect(hits).toEqual([]);
  });

  it('by DNS: a server of an ending that lies inside is not asked', async () => {
    const dns = new DnsClient({ resolvers: ['127.0.0.2:53'], timeoutMs: 200, tries: 1 });
    const asked: string[] = [];
    const reply = {
      rcode: 'NOERROR',
      isAuthoritative: false,
      hasSoa: true,
      answers: [],
      nameServers: [{ owner: 'org', server: 'ns.inside.test' }],
    };
    Object.assign(dns, {
      exchange: {
        ask: async (server: string, name: string, type: string) => {
          asked.push(server);
          const addresses = type === 'A' || name === 'org' ? [{ owner: 'ns.inside.test', address: '::7f00:1' }] : [];
          return { ...reply, addresses };
        },
      },
    });
    await dns.delegation('tarnhives.org', 'org');
    expect(new Set(asked)).toEqual(new Set(['127.0.0.2:53']));
  });

  it('is what the canary would have heard', async () => {
    const http = new HttpClient({ timeoutMs: 2000, allowedPrivate: ['127.0.0.1'] });
    await http.get(`http://127.0.0.1:${canaryPort}/`).catch(() => undefined);
    await http.close();
    expect(hits).toHaveLength(1);
    expect(canary.listening).toBe(true);
  });
});
