import { rmSync } from 'node:fs';
import { Frontier } from '../src/engine/crawl/frontier';
import { runCrawl } from '../src/engine/jobs/crawl';
import { trial } from '../src/engine/jobs/testing';
import { write } from '../src/store/base/database';
import { freshStore } from '../src/store/base/testing';
import { countPages } from '../src/store/crawl/crawl-report';
import { putSite } from '../src/store/crawl/sites';
import { startCrawlServer } from './crawl';
import { type Bench, round, sized } from './figure';

const ADDRESSES = sized('BENCH_FRONTIER', 1_000_000, 20_000);
const SITES = 100;
const BATCH = 5000;

/** A frontier of 1,000,000 addresses: how much memory it takes, and how long until a crawl with it reads its next page. */
export const crawlFrontier: Bench = async (log) => {
  const { child, port } = await startCrawlServer({});
  const store = await freshStore({ connector: `127.0.0.1:${port}` });
  const watch = { peak: 0 };
  const timer = setInterval(() => {
    watch.peak = Math.max(watch.peak, process.memoryUsage().rss);
  }, 50);
  try {
    const seeds = Array.from({ length: SITES }, (_, i) => `seed${i}-vale.org`);
    const params = { seeds, depth: 4, pageBudget: 1_000_000, delayMs: 0, checkAfter: false };
    const run = trial(store, 'crawl', params);
    log(`putting ${ADDRESSES.toLocaleString('en')} addresses into the frontier`);
    const frontier = new Frontier(store, run.sourceId, 'expected');
    const began = performance.now();
    for (let start = 0; start < ADDRESSES; start += BATCH) {
      const change = frontier.beginChange();
      write(store, () => {
        for (let i = start; i < start + BATCH; i++) {
          const site = seeds[i % SITES];
          if (i < SITES) putSite(store, run.sourceId, site, `http://${site}/`, null);
          const url = `http://${site}/${['page', 'notes', 'links', 'archive'][i % 4]}/${i}.html`;
          frontier.push(
            { url, host: site, site },
            '',
            { depth: 1 + (i % 3), hops: 0, viaClass: 0, isBeyond: false },
            change,
          );
        }
      });
      frontier.apply(change);
    }
    const perSecond = ADDRESSES / ((performance.now() - began) / 1000);
    if (frontier.size !== ADDRESSES) throw new Error(`only ${frontier.size} addresses are in the frontier`);

    log('starting a crawl with it');
    run.context.progress = () => undefined;
    const resumed = performance.now();
    let first = 0;
    const running = runCrawl(run.context).catch(() => undefined);
    while (first === 0) {
      await new Promise((done) => setTimeout(done, 20));
      if (countPages(store, run.sourceId).done > 0) first = performance.now() - resumed;
    }
    await new Promise((done) => setTimeout(done, 3000));
    run.stop.abort();
    await running;
    return [
      { name: 'crawl-frontier', value: Math.round(perSecond), unit: 'addresses/s', baseline: null, ratio: null, goal: 'none yet', met: true },
      { name: 'crawl-frontier-memory', value: Math.round(watch.peak / 2 ** 20), unit: 'MB', baseline: null, ratio: null, goal: 'under 1,024 MB', met: watch.peak < 2 ** 30 },
      { name: 'crawl-resume', value: round(first / 1000, 2), unit: 's to the next page', baseline: null, ratio: null, goal: 'within 5 s', met: first < 5000 },
    ]; // biome-ignore format: a figure a line
  } finally {
    clearInterval(timer);
    child.kill();
    await store.close();
    rmSync(store.folder, { recursive: true });
  }
};
