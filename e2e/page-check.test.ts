import type { ChildProcess } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { chmodSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { LinkVerdict } from '../src/core/crawl/page-look';
import { checkPage } from '../src/engine/crawl/page-check';
import { startLookups, trial } from '../src/engine/jobs/testing';
import { HttpClient } from '../src/net/http';
import { NameLookup } from '../src/net/name-lookup';
import type { Store } from '../src/store/base/database';
import { changeSettings, readSettings } from '../src/store/base/settings';
import { freshStore } from '../src/store/base/testing';
import { deadTargets } from '../src/store/crawl/pages';
import { findDomain } from '../src/store/domains/domains';
import { freePort, startNginx, startNsd } from './stock-servers';

const LIVING = Array.from({ length: 40 }, (_, n) => `living${n}.org`);
const GONE = Array.from({ length: 20 }, (_, n) => `gone${n}.org`);
/** In the zone, but whatever is asked about their hosts nobody answers. */
const MUTE = Array.from({ length: 12 }, (_, n) => `mute${n}.org`);

const zone = () => `$ORIGIN org.
$TTL 300
@ IN SOA a.registry.org. post.registry.org. ( 2026112001 1800 900 604800 86400 )
@ IN NS a.registry.org.
a.registry IN A 127.0.0.1
${[...LIVING, ...MUTE, 'clubs.org', 'flaky.org', 'shut.org'].map((name) => `${name}. IN NS ns1.${name}.\nns1.${name}. IN A 127.0.0.1`).join('\n')}
`;

let store: Store;
let port: number;
let resolver: ReturnType<typeof createSocket>;
let flaky: Server;
let flakyPort: number;
let shutPort: number;
const started: ChildProcess[] = [];
const closing: (() => unknown)[] = [];

beforeAll(async () => {
  port = await freePort();
  shutPort = await freePort();
  const nsd = await startNsd(zone(), 'org');
  started.push(nsd.server);
  // a resolver as small as it may be: addresses of what lives, nothing at all of what is mute, and slow with what is gone
  resolver = createSocket('udp4').on('message', (message, from) => {
    const text = message.toString('latin1');
    if (text.includes('mute')) return;
    const flags = text.includes('gone') ? 3 : 0;
    const head = Buffer.from(message);
    head.writeUInt16BE(0x8180 | flags, 2);
    head.writeUInt16BE(0, 10); // without the additional section
    const end = message.indexOf(0, 12) + 5;
    const isA = message.readUInt16BE(end - 4) === 1;
    const answer = Buffer.from([0xc0, 12, 0, 1, 0, 1, 0, 0, 0, 60, 0, 4, 127, 0, 0, 1]);
    head.writeUInt16BE(flags === 0 && isA ? 1 : 0, 6);
    const reply = Buffer.concat([head.subarray(0, end), ...(flags === 0 && isA ? [answer] : [])]);
    setTimeout(() => resolver.send(reply, from.port, from.address), flags === 3 ? 900 : 0);
  });
  await new Promise<void>((done) => resolver.bind(0, '127.0.0.1', done));
  // breaks the first connection of each address off and answers the second
  const seen = new Set<string>();
  flaky = createServer((socket) => {
    socket.on('error', () => undefined);
    socket.once('data', (chunk) => {
      const path = String(chunk).split(' ')[1];
      if (!seen.has(path)) {
        seen.add(path);
        socket.destroy();
      } else if (path === '/late-404') socket.end('HTTP/1.1 404 Not Found\r\nContent-Length: 0\r\n\r\n');
      else socket.end('HTTP/1.1 200 OK\r\nContent-Length: 2\r\n\r\nok');
    });
  });
  await new Promise<void>((done) => flaky.listen(0, '127.0.0.1', done));
  flakyPort = (flaky.address() as { port: number }).port;
  const links = [
    ...LIVING.map((name) => `http://${name}:${port}/`),
    ...GONE.map((name) => `http://${name}:${port}/guide.html`),
    ...MUTE.map((name) => `http://${name}:${port}/`),
    `http://living0.org:${port}/no-such-page`,
    `http://living1.org:${port}/taken-down`,
    `http://living2.org:${port}/broken`,
    `http://living3.org:${port}/moved`,
    `http://living4.org:${port}/members`,
    `http://flaky.org:${flakyPort}/first-breaks`,
    `http://flaky.org:${flakyPort}/late-404`,
    `http://shut.org:${shutPort}/`,
  ];
  const page = `<title>Links of the club</title>${links.map((url) => `<p><a href="${url}">${url}</a>`).join('')}`;
  store = await freshStore();
  const file = join(store.folder, 'links.html');
  writeFileSync(file, page);
  chmodSync(store.folder, 0o755);
  started.push(
    await startNginx(
      `default_type text/html;
location = /links.html { alias ${file}; }
location = /no-such-page { return 404; }
location = /taken-down { return 410; }
location = /broken { return 503; }
location = /moved { return 301 /elsewhere; }
location = /members { return 403; }
location / { return 200 'fine'; }`,
      port,
    ),
  );
  store.config.dns = { connector: nsd.address };
  Object.assign(store.config.whois, { root: null });
  writeFileSync(join(store.folder, 'bootstrap.json'), JSON.stringify({ services: [] }));
  changeSettings(store, {
    resolvers: [`127.0.0.1:${resolver.address().port}`],
    rdapBootstrap: join(store.folder, 'bootstrap.json'),
    allowedPrivate: ['127.0.0.1'],
  });
  closing.push(startLookups(store));
}, 180_000);
afterAll(async () => {
  for (const close of closing.reverse()) await close();
  for (const child of started) child.kill('SIGTERM');
  flaky.close();
  resolver.close();
  await store.close();
});

describe('a page whose links lead to living, dead, slow and silent servers', () => {
  let links: LinkVerdict[];
  /** How many links were known, by ms since the start. */
  const told: { ms: number; asked: number; message: string }[] = [];
  beforeAll(async () => {
    const { context } = trial(store, 'page', {});
    const began = performance.now();
    links = await checkPage(
      { ...context, settings: readSettings(store) },
      `http://clubs.org:${port}/links.html`,
      {
        head: () => undefined,
        link: () => undefined,
        progress: (asked, _, message) => told.push({ ms: performance.now() - began, asked, message }),
      },
      { pauseMs: 1000 },
    );
  }, 180_000);
  const of = (names: readonly string[]) => links.filter(({ domain }) => names.includes(domain ?? ''));
  const at = (path: string) => links.find(({ url }) => url.endsWith(path));

  it('calls no living one dead, however many lookups are slow beside it', () => {
    const plain = of(LIVING).filter(({ url }) => url.endsWith('.org/') || url.endsWith(`:${port}/`));
    expect(plain.length).toBe(LIVING.length);
    expect(plain.filter(({ state }) => state !== 'working')).toEqual([]);
  });
  it('calls a domain gone where the servers of its ending deny it, and puts it into the pool', () => {
    expect(of(GONE).length).toBe(GONE.length);
    expect(of(GONE).filter(({ state, gone }) => state !== 'dead' || gone !== 'domain')).toEqual([]);
    expect(findDomain(store, GONE[3])?.in_pool).toBe(1);
  });
  it('is unsure of what nobody answers for, after two askings', () => {
    expect(of(MUTE).map(({ state, asked }) => `${state} ${asked}`)).toEqual(MUTE.map(() => 'unsure 2'));
    expect(of(MUTE)[0].detail).toContain('the name is in DNS');
    expect(at(`:${shutPort}/`)).toMatchObject({ state: 'unsure', asked: 2 });
    expect(findDomain(store, MUTE[0])?.in_pool).toBe(0);
  });
  it('calls a page dead by a 404 or 410 twice, and by nothing else', () => {
    expect(at('/no-such-page')).toMatchObject({ state: 'dead', gone: 'page', status: 404, asked: 2 });
    expect(at('/taken-down')).toMatchObject({ state: 'dead', gone: 'page', status: 410, asked: 2 });
    expect(at('/broken')).toMatchObject({ state: 'unsure', status: 503, asked: 2 });
    expect(at('/moved')).toMatchObject({ state: 'redirected' });
    expect(at('/members')).toMatchObject({ state: 'refused' });
    expect(at('/first-breaks')).toMatchObject({ state: 'working', asked: 2 });
    expect(at('/late-404')).toMatchObject({ state: 'unsure', detail: expect.stringContaining('only once') });
    expect(
      deadTargets(store)
        .map(({ url }) => new URL(url).pathname)
        .sort(),
    ).toEqual(['/no-such-page', '/taken-down']);
  });
  it('counts while it goes, and asks the second time apart', () => {
    const counts = told.map(({ asked }) => asked);
    expect(counts).toEqual(counts.toSorted((a, b) => a - b));
    expect(new Set(counts).size).toBe(links.length + 1);
    const second = told.findIndex(({ message }) => message.includes('a second time'));
    expect(told[second].asked).toBe(links.length);
  });
});

describe('looking hosts up', () => {
  it('has a hundred slow names under way without holding up a quick one', async () => {
    const names = new NameLookup([`127.0.0.1:${resolver.address().port}`]);
    const slow = Array.from({ length: 120 }, (_, n) => names.find(`gone-too${n}.org`).catch((error) => error.code));
    let ended = 0;
    for (const one of slow) void one.then(() => ended++);
    expect(await names.find('living7.org')).toEqual([{ address: '127.0.0.1', family: 4 }]);
    expect(ended).toBe(0);
    expect(new Set(await Promise.all(slow))).toEqual(new Set(['name-not-found']));
    names.close();
  });
  it('tells a name that is not there from one that could not be looked up', async () => {
    const http = new HttpClient({ resolvers: [`127.0.0.1:${resolver.address().port}`], allowedPrivate: ['127.0.0.1'] });
    await expect(http.get('http://gone1.org/')).rejects.toMatchObject({ code: 'name-not-found' });
    await expect(http.get('http://mute1.org/')).rejects.toMatchObject({ code: 'name-unsure' });
    await http.close();
  }, 20_000);
  it('reads the hosts file first, and follows aliases', async () => {
    const nsd = await startNsd(
      `$ORIGIN org.\n$TTL 60\n@ IN SOA a.r.org. p.r.org. ( 1 1800 900 604800 86400 )\n@ IN NS a.r.org.\na.r IN A 127.0.0.1\nwww.bees IN CNAME web.bees\nweb.bees IN A 127.0.0.9\nweb.bees IN AAAA ::9\n`,
      'org',
    );
    started.push(nsd.server);
    const hosts = join(store.folder, 'hosts');
    writeFileSync(hosts, '127.0.0.5 fixed.org other.org # mine\n::5 fixed.org\n');
    const names = new NameLookup([nsd.address], hosts);
    expect(await names.find('fixed.org')).toEqual([
      { address: '127.0.0.5', family: 4 },
      { address: '::5', family: 6 },
    ]);
    expect(await names.find('WWW.Bees.org.')).toEqual([
      { address: '127.0.0.9', family: 4 },
      { address: '::9', family: 6 },
    ]);
    names.close();
  });
});
