import { rmSync } from 'node:fs';
import { runCrawl } from '../src/engine/jobs/crawl';
import { trial } from '../src/engine/jobs/testing';
import { freshStore } from '../src/store/base/testing';
import { countPages } from '../src/store/crawl/crawl-report';
import { startCrawlServer } from './crawl';
import { type Bench, round, sized } from './figure';

const HOSTS = sized('BENCH_HOSTS', 200, 20);
const LATENCY_MS = 50;
const DELAY_MS = 1000;
/** Seconds of warming up, with robots.txt and the probe of each site, and of measuring. */
const WARM_UP_S = sized('BENCH_HOSTS_WARM_UP', 6, 3);
const MEASURED_S = sized('BENCH_HOSTS_SECONDS', 20, 3);

/** 200 hosts of 50 ms latency with a pause of 1 s each: how many of the requests that politeness allows are made. */
export const crawlHosts: Bench = async (log) => {
  const { child, port } = await startCrawlServer({ LATENCY_MS: String(LATENCY_MS) });
  const store = await freshStore({ connector: `127.0.0.1:${port}` });
  try {
    const seeds = Array.from({ length: HOSTS }, (_, i) => `seed${i}-vale.org`);
    const run = trial(store, 'crawl', { seeds, depth: 4, pageBudget: 1_000_000, delayMs: DELAY_MS, checkAfter: false });
    run.context.progress = () => undefined;
    const running = runCrawl(run.context).catch(() => undefined);
    const wait = (seconds: number) => new Promise((done) => setTimeout(done, seconds * 1000));
    log(`warming up for ${WARM_UP_S} s`);
    await wait(WARM_UP_S);
    const [before, began] = [countPages(store, run.sourceId).done, performance.now()];
    await wait(MEASURED_S);
    const [after, ended] = [countPages(store, run.sourceId).done, performance.now()];
    run.stop.abort();
    await running;
    const possible = (HOSTS * (ended - began)) / (DELAY_MS + LATENCY_MS);
    const share = (after - before) / possible;
    return [
      { name: 'crawl-hosts', value: round(share * 100), unit: '% of the possible requests', baseline: 100, ratio: round(share, 3), goal: 'at least 95%', met: share >= 0.95 },
    ]; // biome-ignore format: a figure a line
  } finally {
    child.kill();
    await store.close();
    rmSync(store.folder, { recursive: true });
  }
};
