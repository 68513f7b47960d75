import { execFile } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { promisify } from 'node:util';
import packet from 'dns-packet';
import { checkPage } from '../src/engine/crawl/page-check';
import { startLookups, trial } from '../src/engine/jobs/testing';
import { changeSettings, readSettings } from '../src/store/base/settings';
import { freshStore } from '../src/store/base/testing';
import { type Bench, IS_SMALL, round, sized } from './figure';

const LINKS = sized('BENCH_PAGE_LINKS', 200, 20);
const DEAD_SHARE = 0.3;
/** A resolver searches so long for the servers of a name that is dead before it says that it failed. */
const SLOW_MS = 8000;
/** What a link is given by whoever fetches it plainly, as by the product's first asking. */
const FETCH_MS = 6000;
/** One after another is measured on a part of the links, for all it would take minutes. */
const PART = 10;
/** The machine's own lookup asks port 53; root may listen there, on an address of loopback that nobody else has. */
const RESOLVER = '127.77.0.53';

const run = promisify(execFile);
const isDead = (n: number) => n % 10 < 10 * DEAD_SHARE;
const nameOf = (n: number) => `${isDead(n) ? 'dead' : 'living'}${n}-vale.org`;

/** A resolver that knows living names at once and thinks long about dead ones; to who asks it as the ending's server it denies those at once. */
function startResolver(): ReturnType<typeof createSocket> {
  let isClosed = false;
  const socket = createSocket('udp4').on('message', (message, from) => {
    const query = packet.decode(message);
    const [question] = query.questions ?? [];
    const reply = { type: 'response' as const, id: query.id, questions: query.questions };
    const send = (part: object) =>
      isClosed || socket.send(packet.encode({ ...reply, ...part }), from.port, from.address);
    const isRecursive = (query.flags ?? 0) & packet.RECURSION_DESIRED;
    if (/^dead/.test(question.name)) {
      if (isRecursive) setTimeout(() => send({ flags: packet.RECURSION_AVAILABLE | 2 }), SLOW_MS);
      else send({ flags: packet.AUTHORITATIVE_ANSWER | 3 });
    } else if (!isRecursive)
      send({ authorities: [{ type: 'NS', name: question.name, ttl: 60, data: 'ns1.coombehosting.net' }] });
    else
      send({
        flags: packet.RECURSION_AVAILABLE,
        answers: question.type === 'A' ? [{ type: 'A', name: question.name, ttl: 1, data: '127.0.0.1' }] : [],
      });
  });
  return socket.on('close', () => {
    isClosed = true;
  });
}

/** Fetches addresses with the machine's own lookup, in a mount namespace whose resolver is ours. @returns ms and the living that failed. */
async function plainly(folder: string, urls: readonly string[], atOnce: number): Promise<{ ms: number; lost: number }> {
  const code = `
    const urls = ${JSON.stringify(urls)};
    const started = performance.now();
    let next = 0, lost = 0;
    const work = async () => {
      for (let i = next++; i < urls.length; i = next++)
        await fetch(urls[i], { signal: AbortSignal.timeout(${FETCH_MS}) }).then((answer) => answer.text()).catch(() => { if (urls[i].includes('living')) lost++; });
    };
    await Promise.all(Array.from({ length: ${atOnce} }, work));
    console.log(JSON.stringify({ ms: performance.now() - started, lost }));
    process.exit(0);`;
  const script = join(folder, 'plain.mjs');
  writeFileSync(script, code);
  writeFileSync(join(folder, 'resolv.conf'), `nameserver ${RESOLVER}\n`);
  const inside = `mount --bind ${join(folder, 'resolv.conf')} /etc/resolv.conf && exec ${process.execPath} ${script}`;
  const { stdout } = await run('unshare', ['-m', 'sh', '-c', inside]);
  return JSON.parse(stdout);
}

/** A page of 200 links, 60 of them to dead names whose lookups are slow: how soon all have a first result, against plain fetching. */
export const pageCheck: Bench = async (log) => {
  const isRoot = process.getuid?.() === 0;
  const resolver = startResolver();
  await new Promise<void>((done) => resolver.bind(isRoot ? 53 : 0, isRoot ? RESOLVER : '127.0.0.1', done));
  const { address, port: dnsPort } = resolver.address();
  let urls: string[] = [];
  const web = createServer((request, response) => {
    const links = urls.map((url) => `<p><a href="${url}">one more</a></p>`).join('');
    response.writeHead(200, { 'content-type': 'text/html' });
    response.end(request.url === '/links.html' ? `<title>Links</title>${links}` : 'fine');
  });
  await new Promise<void>((done) => web.listen(0, '127.0.0.1', done));
  const { port } = web.address() as AddressInfo;
  urls = Array.from({ length: LINKS }, (_, n) => `http://${nameOf(n)}:${port}/`);
  const store = await freshStore({ dns: { connector: `${address}:${dnsPort}` } });
  Object.assign(store.config.whois, { root: null });
  writeFileSync(join(store.folder, 'bootstrap.json'), JSON.stringify({ services: [] }));
  changeSettings(store, {
    resolvers: [`${address}:${dnsPort}`],
    rdapBootstrap: join(store.folder, 'bootstrap.json'),
    allowedPrivate: ['127.0.0.1'],
  });
  const stop = startLookups(store);
  try {
    log('asking every link');
    const { context } = trial(store, 'page', {});
    let firstMs = 0;
    const started = performance.now();
    const links = await checkPage(
      { ...context, settings: readSettings(store) },
      `http://clubs-vale.org:${port}/links.html`,
      {
        head: () => undefined,
        link: () => undefined,
        progress: (asked, total) => {
          if (firstMs === 0 && total > 0 && asked === total) firstMs = performance.now() - started;
        },
      },
    );
    const wholeMs = performance.now() - started;
    const wrong = links.filter(({ url, state }) => url.includes('living') && state !== 'working').length;
    const found = links.filter(({ gone }) => gone === 'domain').length;
    const dead = urls.filter((url) => url.includes('dead')).length;
    if (found < dead) log(`only ${found} of ${dead} dead names were told`);
    let parallel: { ms: number; lost: number } | null = null;
    let single: { ms: number; lost: number } | null = null;
    if (isRoot && !IS_SMALL) {
      log('the same by fetch, all at once');
      parallel = await plainly(store.folder, urls, LINKS);
      log('a part of them by fetch, one after another');
      single = await plainly(store.folder, urls.slice(0, Math.ceil(LINKS / PART)), 1);
    }
    const s = (ms: number) => round(ms / 1000, 1);
    const ratio = (ms: number | undefined) => (ms === undefined ? null : round(ms / firstMs, 1));
    return [
      { name: 'page-check', value: s(firstMs), unit: `s until ${LINKS} links have a first result, ${dead} of them to dead names with slow lookups`, baseline: parallel && s(parallel.ms), ratio: ratio(parallel?.ms), goal: 'within 10 s; baseline: fetch, all at once', met: firstMs <= 10_000 },
      { name: 'page-check-single', value: s(firstMs), unit: 's for the same', baseline: single && s(single.ms * PART), ratio: ratio(single ? single.ms * PART : undefined), goal: `none; baseline: fetch, one after another, by a ${PART}th of them`, met: true },
      { name: 'page-check-wrong', value: wrong, unit: 'living links not called working', baseline: parallel?.lost ?? null, ratio: null, goal: '0; baseline: living ones that failed by fetch, all at once', met: wrong === 0 },
      { name: 'page-check-dead', value: found, unit: `of ${dead} dead names told`, baseline: null, ratio: null, goal: 'all', met: found === dead },
      { name: 'page-check-whole', value: s(wholeMs), unit: 's with the second asking', baseline: null, ratio: null, goal: 'none', met: true },
    ]; // biome-ignore format: a figure a line
  } finally {
    await stop();
    resolver.close();
    web.close();
    web.closeAllConnections();
    await store.close();
    rmSync(store.folder, { recursive: true });
  }
};
