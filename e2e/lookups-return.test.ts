import type { ChildProcess } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { runCheck } from '../src/engine/jobs/check';
import { startLookups, trial } from '../src/engine/jobs/testing';
import { Checker } from '../src/engine/lookups/checker';
import { type Store, write } from '../src/store/base/database';
import { changeSettings } from '../src/store/base/settings';
import { freshStore } from '../src/store/base/testing';
import { findDomain, putDomain } from '../src/store/domains/domains';
import { lookupProblems } from '../src/store/lifecycle/lookup-problems';
import { countQueues } from '../src/store/lifecycle/question-queues';
import { releaseDue, waitingNames } from '../src/store/lifecycle/suspended-questions';
import { freePort, startNginx, startNsd } from './stock-servers';

const DAY = 86_400_000;
const ZONE = `$ORIGIN org.
$TTL 300
@ IN SOA a.registry.org. post.registry.org. ( 2026112001 1800 900 604800 86400 )
@ IN NS a.registry.org.
a.registry IN A 127.0.0.1
nic IN NS ns1.coombehosting.net.
kept IN NS ns1.coombehosting.net.
`;
/** A registry whose RDAP knows its own name and nothing else. */
const RDAP = `default_type application/rdap+json;
location = /domain/nic.org { return 200 '{"objectClassName":"domain","ldhName":"nic.org","status":["active"]}'; }
location / { default_type application/rdap+json; return 404 '{"errorCode":404,"title":"not found"}'; }
error_page 404 @none;
location @none { default_type application/rdap+json; return 404 '{"errorCode":404,"title":"not found"}'; }`;

let store: Store;
let dnsPort: number;
let rdapPort: number;
const started: ChildProcess[] = [];
const closing: (() => unknown)[] = [];
beforeEach(async () => {
  store = await freshStore();
  [dnsPort, rdapPort] = [await freePort(), await freePort()];
  store.config.dns = { connector: `127.0.0.1:${dnsPort}` };
  Object.assign(store.config.whois, { root: null });
  const bootstrap = join(store.folder, 'bootstrap.json');
  writeFileSync(bootstrap, JSON.stringify({ services: [[['org'], [`http://127.0.0.1:${rdapPort}/`]]] }));
  changeSettings(store, {
    resolvers: [`127.0.0.1:${dnsPort}`],
    rdapBootstrap: bootstrap,
    registryIntervalMs: 1,
    allowedPrivate: ['127.0.0.1'],
  });
});
afterEach(async () => {
  for (const close of closing.splice(0).reverse()) await close();
  for (const child of started.splice(0)) child.kill('SIGTERM');
  await store.close();
});

const startDns = async () => started.push((await startNsd(ZONE, 'org', { port: dnsPort })).server);
const startRdap = async () => started.push(await startNginx(RDAP, rdapPort));
const NAMES = ['kept.org', ...Array.from({ length: 11 }, (_, n) => `lapsed${n}.org`)];
const idsOf = (names: readonly string[]) =>
  write(store, () => names.map((name) => putDomain(store, { name, ending: 'org' }, true, store.now()).id));
const phases = (names = NAMES) => [...new Set(names.map((name) => findDomain(store, name)?.phase))].sort();

/** A check job of the names, to its end. @returns what it said last. */
async function check(names = NAMES): Promise<string> {
  const job = trial(store, 'check', { ids: idsOf(names) });
  await runCheck(job.context);
  return job.progress.at(-1)?.message ?? '';
}

describe('names that cannot be asked about', () => {
  it('wait for DNS with the reason, and are asked by themselves once it answers', { timeout: 120_000 }, async () => {
    // the address is taken, and says nothing
    const silent = createSocket('udp4');
    await new Promise<void>((done) => silent.bind(dnsPort, '127.0.0.1', done));
    await startRdap();
    closing.push(startLookups(store));
    expect(await check()).toMatch(/No server of DNS answers .* They are asked when it can be\./);
    const [waiting] = waitingNames(store);
    expect([waiting.waitsFor, waiting.names]).toEqual(['dns', NAMES.length]);
    await new Promise<void>((done) => silent.close(done));
    await startDns();
    await expect.poll(() => phases(), { timeout: 60_000 }).toEqual(['active', 'free']);
    expect(waitingNames(store)).toEqual([]);
    expect(lookupProblems(store)).toEqual([]);
  });

  it('wait for a registry that cannot be reached, and are asked once it can', { timeout: 120_000 }, async () => {
    await startDns();
    closing.push(startLookups(store));
    await check(NAMES.slice(0, 3));
    expect(phases(NAMES.slice(0, 3))).toEqual(['active', 'unknown']);
    expect(findDomain(store, 'lapsed0.org')?.phase_reason).toMatch(/^Could not be asked: /);
    expect(waitingNames(store)).toEqual([
      expect.objectContaining({ waitsFor: `server 127.0.0.1:${rdapPort}`, names: 2 }),
    ]);
    await startRdap();
    await expect.poll(() => phases(NAMES.slice(0, 3)), { timeout: 90_000 }).toEqual(['active', 'free']);
    expect(waitingNames(store)).toEqual([]);
  });

  it('wait for the list of servers, also over a restart, and are asked at once when the setting is changed', {
    timeout: 120_000,
  }, async () => {
    await startDns();
    await startRdap();
    const bootstrap = join(store.folder, 'bootstrap.json');
    changeSettings(store, { rdapBootstrap: join(store.folder, 'nothing.json') });
    const stop = startLookups(store);
    await check();
    await stop();
    expect(waitingNames(store)).toEqual([expect.objectContaining({ waitsFor: 'bootstrap', names: NAMES.length - 1 })]);
    closing.push(startLookups(store));
    changeSettings(store, { rdapBootstrap: bootstrap });
    await expect.poll(() => phases(), { timeout: 60_000 }).toEqual(['active', 'free']);
  });
});

describe('a name whose own DNS never answers', () => {
  it('is said to be so within a minute while others are answered, and tried once more each day as long as it is wanted', {
    timeout: 120_000,
  }, async () => {
    await startDns();
    changeSettings(store, { asksEndings: false, rdapBootstrap: join(store.folder, 'nothing.json') });
    // a resolver that finds what stock servers hold, and says nothing of some names
    let isOver = false;
    const resolver = createSocket('udp4').on('message', (message, from) => {
      if (message.includes('mute')) return;
      const upstream = createSocket('udp4').on('message', (answer) => {
        if (!isOver) resolver.send(answer, from.port, from.address);
        upstream.close();
      });
      upstream.send(message, dnsPort, '127.0.0.1');
    });
    await new Promise<void>((done) => resolver.bind(0, '127.0.0.1', done));
    closing.push(() => {
      isOver = true;
      resolver.close();
    });
    writeFileSync(join(store.folder, 'none.json'), JSON.stringify({ services: [] }));
    changeSettings(store, {
      resolvers: [`127.0.0.1:${resolver.address().port}`],
      rdapBootstrap: join(store.folder, 'none.json'),
    });
    closing.push(startLookups(store));
    const mute = Array.from({ length: 12 }, (_, n) => `mute${n}.org`);
    const started = performance.now();
    await check(['kept.org', ...mute]);
    expect(performance.now() - started).toBeLessThan(60_000);
    expect(findDomain(store, 'kept.org')?.phase).toBe('active');
    expect(phases(mute)).toEqual(['unknown']);
    const [waiting] = waitingNames(store);
    expect([waiting.waitsFor, waiting.names]).toEqual(['its servers', mute.length]);
    expect(waiting.nextAt).toBeGreaterThan(store.now() + 0.9 * DAY);
    // a day later they are asked once more; a month later only who is watched
    expect(write(store, () => releaseDue(store, store.now() + 2 * DAY))).toBe(mute.length);
    await expect.poll(() => waitingNames(store)[0]?.names, { timeout: 60_000 }).toBe(mute.length);
    store.raw.prepare(`UPDATE domains SET watched_at = 1 WHERE name = 'mute3.org'`).run();
    expect(write(store, () => releaseDue(store, store.now() + 30 * DAY))).toBe(1);
  });
});

describe('whoever waits for lookups that have stopped', () => {
  it('is told that there is no answer, in bounded time, and the question stays', { timeout: 30_000 }, async () => {
    const [id] = idsOf(['one.org']);
    const checker = new Checker(
      { store, signal: new AbortController().signal },
      -1,
      () => undefined,
      'record',
      'usual',
      800,
    );
    expect(await checker.ask({ id, name: 'one.org', ending: 'org' })).toBe('failed');
    expect([checker.waiting, checker.unanswered]).toEqual([0, 1]);
    checker.close(true);
    expect(countQueues(store)).toEqual([{ step: 'dns', server: '', waiting: 1 }]);
  });
});

describe('a check whose lookups have stopped', () => {
  it('ends with what it has and says so', { timeout: 30_000 }, async () => {
    const job = trial(store, 'check', { ids: idsOf(NAMES) });
    await runCheck(job.context, 1500);
    expect(job.progress.at(-1)?.message).toContain('the lookups have stopped');
  });
});
