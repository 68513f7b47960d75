import { spawn } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import packet from 'dns-packet';
import { startLookups } from '../src/engine/jobs/testing';
import { DnsClient } from '../src/net/dns';
import { write } from '../src/store/base/database';
import { changeSettings } from '../src/store/base/settings';
import { freshStore } from '../src/store/base/testing';
import { putDomain } from '../src/store/domains/domains';
import { openQuestions } from '../src/store/lifecycle/question-news';
import { countQueues } from '../src/store/lifecycle/question-queues';
import { addQuestions } from '../src/store/lifecycle/questions';
import { type Bench, round, sized } from './figure';

const NAMES = sized('BENCH_DNS_NAMES', 100_000, 3000);
const JOB = 1;
const AT_ONCE = 256;

/** A batch of names through DNS to their verdicts on disk, with a restart in the midst, against asking alone. */
export const dnsBatch: Bench = async (log) => {
  const child = spawn(process.execPath, ['--import', 'tsx', 'bench/dns-server.ts'], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const port = await new Promise<number>((done) => child.stdout?.once('data', (chunk) => done(Number(chunk))));
  const server = `127.0.0.1:${port}`;
  try {
    const store = await freshStore({ dns: { connector: server } });
    Object.assign(store.config.whois, { root: null });
    // nobody to ask after DNS: what is not delegated is settled as unknown
    const rdapBootstrap = join(store.folder, 'bootstrap.json');
    writeFileSync(rdapBootstrap, JSON.stringify({ services: [] }));
    changeSettings(store, { resolvers: [server], rdapBootstrap });
    const ids = write(store, () =>
      Array.from({ length: NAMES }, (_, i) => putDomain(store, { name: `name${i}.org`, ending: 'org' }, true, 1).id),
    );
    log('asking');
    const started = performance.now();
    for (let at = 0; at < ids.length; at += 5000)
      write(store, () => addQuestions(store, JOB, ids.slice(at, at + 5000), 'record'));
    let stop = startLookups(store);
    let rest = 0;
    while (openQuestions(store, JOB) > NAMES * 0.6) await new Promise((done) => setTimeout(done, 20));
    const paused = performance.now();
    await stop();
    stop = startLookups(store);
    rest = performance.now() - paused;
    while (countQueues(store).length > 0) await new Promise((done) => setTimeout(done, 20));
    const seconds = (performance.now() - started) / 1000;
    await stop();
    const [asked, again] = await counted(port);
    const settled = store.raw
      .prepare('SELECT count(*) FROM domains WHERE phase_at IS NOT NULL')
      .pluck()
      .get() as number;
    await store.close();
    rmSync(store.folder, { recursive: true });

    log('the same names, asked alone, nothing stored');
    const dns = new DnsClient({ resolvers: [], timeoutMs: 2000, tries: 2, connector: server });
    const bareStarted = performance.now();
    let next = 0;
    const work = async () => {
      for (let i = next++; i < NAMES; i = next++) await dns.delegation(`bare${i}.org`, 'org');
    };
    await Promise.all(Array.from({ length: AT_ONCE }, work));
    const bare = NAMES / ((performance.now() - bareStarted) / 1000);
    dns.close();
    const rate = NAMES / seconds;
    const lost = NAMES - settled;
    return [
      { name: 'dns-batch', value: Math.round(rate), unit: 'names/s to a verdict on disk, a restart within', baseline: Math.round(bare), ratio: round(rate / bare, 2), goal: 'at least 2,000 names/s; baseline: asked alone, nothing stored', met: rate >= 2000 },
      { name: 'dns-batch-restart', value: again + lost + (NAMES - asked), unit: 'names lost or asked twice', baseline: null, ratio: null, goal: '0', met: again === 0 && lost === 0 && asked === NAMES },
      { name: 'dns-batch-pause', value: Math.round(rest), unit: 'ms from stopping to asking again', baseline: null, ratio: null, goal: 'none', met: true },
    ]; // biome-ignore format: a figure a line
  } finally {
    child.kill();
  }
};

/** How many names the server was asked for, and how often more than once. */
function counted(port: number): Promise<[number, number]> {
  return new Promise((done) => {
    const socket = createSocket('udp4').on('message', (message) => {
      const [answer] = packet.decode(message).answers ?? [];
      const [names, more] = String(answer && 'data' in answer ? answer.data : '').split(' ');
      socket.close();
      done([Number(names), Number(more)]);
    });
    socket.send(
      packet.encode({ type: 'query', id: 1, questions: [{ type: 'TXT', name: 'count' }] }),
      port,
      '127.0.0.1',
    );
  });
}
