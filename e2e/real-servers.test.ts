import { type ChildProcess, execFile } from 'node:child_process';
import type { AddressInfo } from 'node:net';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readWhois } from '../src/core/lifecycle/whois-text';
import { startLookups } from '../src/engine/jobs/testing';
import { DnsClient } from '../src/net/dns';
import { write } from '../src/store/base/database';
import { changeSettings } from '../src/store/base/settings';
import { freshStore } from '../src/store/base/testing';
import { putDomain } from '../src/store/domains/domains';
import { countQueues } from '../src/store/lifecycle/question-queues';
import { addQuestions } from '../src/store/lifecycle/questions';
import { makeWhoisServer } from '../standins/registries';
import { makeWorld, stateAt } from '../standins/world';
import { startNsd } from './stock-servers';

const START = Date.UTC(2026, 10, 20, 8);
const run = promisify(execFile);

/** A zone as a registry has it: delegations, with glue, one of them too long for a datagram; names that are not there. */
const ZONE = `$ORIGIN org.
$TTL 300
@ IN SOA a.registry.org. post.registry.org. ( 2026112001 1800 900 604800 86400 )
@ IN NS a.registry.org.
a.registry IN A 127.0.0.1
pellgatehives IN NS ns1.coombehosting.net.
pellgatehives IN NS ns2.pellgatehives.org.
ns2.pellgatehives IN A 127.0.0.1
${Array.from({ length: 60 }, (_, i) => `longdelegation IN NS a-rather-long-name-of-a-server-number-${i}.coombehosting.net.`).join('\n')}
held IN TXT "in the zone, but delegated to nobody"
`;

describe('a stock name server with a real zone', () => {
  let server: ChildProcess;
  let address: string;
  beforeAll(async () => {
    ({ server, address } = await startNsd(ZONE, 'org'));
  });
  afterAll(() => {
    server.kill('SIGTERM');
  });
  const client = () => new DnsClient({ resolvers: [], timeoutMs: 1000, tries: 1, connector: address });

  it('is understood: a referral is a delegation', async () => {
    expect(await client().delegation('pellgatehives.org')).toMatchObject({
      outcome: 'delegated',
      nameServers: ['ns1.coombehosting.net', 'ns2.pellgatehives.org'],
    });
  });
  it('is understood: an authoritative "no such name", and a name without a delegation', async () => {
    expect(await client().delegation('nobodyhasthis.org')).toMatchObject({
      outcome: 'nxdomain',
      detail: 'NXDOMAIN from the servers of .org',
    });
    expect(await client().delegation('held.org')).toMatchObject({ outcome: 'no-delegation' });
  });
  it('is asked again over TCP when its answer does not fit into a datagram', async () => {
    const answer = await client().delegation('longdelegation.org');
    expect(answer.outcome).toBe('delegated');
    expect(answer.nameServers).toHaveLength(60);
  });
  it('does not speak for other zones, and is not believed there', async () => {
    expect(await client().delegation('pellgate.com')).toMatchObject({ outcome: 'failed' });
  });
  it('answers thousands of questions, each as if it were the only one', async () => {
    // a datagram may be late or lost where the machine has other work: which answer is whose is what is looked at
    const dns = new DnsClient({ resolvers: [], timeoutMs: 3000, tries: 3, connector: address });
    const outcomes: string[] = [];
    let next = 0;
    const work = async () => {
      for (let i = next++; i < 4000; i = next++)
        outcomes[i] = (await dns.delegation(i % 3 ? `none${i}.org` : 'pellgatehives.org')).outcome;
    };
    await Promise.all(Array.from({ length: 128 }, work));
    expect(outcomes.filter((outcome, i) => outcome !== (i % 3 ? 'nxdomain' : 'delegated'))).toEqual([]);
    dns.close();
  });
});

describe('a stock name server that limits its answers', () => {
  it('is asked slower, until every name has its verdict', async () => {
    const { server, address } = await startNsd(ZONE, 'org', { limit: 60 });
    const store = await freshStore({ dns: { connector: address } });
    changeSettings(store, { resolvers: ['127.0.0.1:9'], rdapBootstrap: '/nowhere' });
    Object.assign(store.config.whois, { root: null });
    const stop = startLookups(store);
    try {
      const ids = write(store, () =>
        Array.from(
          { length: 900 },
          (_, i) => putDomain(store, { name: `none${i}.org`, ending: 'org' }, true, store.now()).id,
        ),
      );
      write(store, () => addQuestions(store, 1, ids, 'record'));
      await expect.poll(() => countQueues(store).length, { timeout: 60_000 }).toBe(0);
      const failed = store.raw.prepare(`SELECT count(*) FROM checks WHERE outcome = 'failed'`).pluck().get();
      expect(failed).toBeLessThan(45);
    } finally {
      await stop();
      server.kill('SIGTERM');
      await store.close();
    }
  }, 90_000);
});

describe('a stock WHOIS client', () => {
  it('gets from the stand-in what ours gets', async () => {
    const world = makeWorld(4, START, 300);
    const server = makeWhoisServer(world, () => START);
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
    const { port } = server.address() as AddressInfo;
    try {
      const names = [...world.domains.values()].filter(({ ending }) => ending === 'de' || ending === 'eu');
      const taken = names.find((domain) => stateAt(domain, START).phase === 'active');
      const free = names.find((domain) => stateAt(domain, START).phase === 'free');
      const ask = async (name: string) =>
        (await run('whois', ['-h', '127.0.0.1', '-p', String(port), name]).catch((error) => error)).stdout as string;
      const text = await ask(taken?.name ?? '');
      expect(text).toContain(taken?.name);
      const { outcome, record } = readWhois(text, taken?.name);
      expect(outcome).toBe('found');
      expect(Math.abs((record?.registeredAt ?? 0) - (taken?.spans.at(-1)?.from ?? 0))).toBeLessThan(86_400_000);
      expect(readWhois(await ask(free?.name ?? ''), free?.name).outcome).toBe('not-found');
    } finally {
      server.close();
    }
  });
});
