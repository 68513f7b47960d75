import packet from 'dns-packet';
import { afterEach, describe, expect, it } from 'vitest';
import { DnsClient, hostPort } from './dns';
import { closeServers, type DnsReplier, dnsAnswer, dnsServer } from './testing';

afterEach(closeServers);
const answer = dnsAnswer;
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
  ] as [string, DnsReplier][])('says %s', async (outcome, reply) => {
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
  ] as [string, DnsReplier][])('asks a resolver when a server of the ending %s', async (_, reply) => {
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
