import { type ChildProcess, spawn } from 'node:child_process';
import { rmSync } from 'node:fs';
import { decodeHtml } from '../src/core/crawl/decode';
import { readPage } from '../src/core/crawl/links';
import { runCrawl } from '../src/engine/jobs/crawl';
import { trial } from '../src/engine/jobs/testing';
import { HttpClient } from '../src/net/http';
import { freshStore } from '../src/store/base/testing';
import { countPages } from '../src/store/crawl/crawl-report';
import { type Bench, round, sized } from './figure';

const BUDGET = sized('BENCH_CRAWL_PAGES', 12_000, 600);
/** From so many pages on, memory should be flat: caches and the heap have found their size. */
const LONG_CRAWL = 50_000;
/** A host has 400 pages. */
const HOSTS = Math.max(24, Math.ceil(BUDGET / 350));

/** Starts the server of pages in a process of its own, so that it costs the crawler nothing. */
export async function startCrawlServer(
  environment: Record<string, string>,
): Promise<{ child: ChildProcess; port: number }> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'bench/crawl-server.ts'], {
    env: { ...process.env, ...environment },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const port = await new Promise<number>((done) => child.stdout?.once('data', (chunk) => done(Number(chunk))));
  return { child, port };
}

/** Crawling 24 sites on loopback, delays off, everything stored, against fetching and parsing alone. */
export const crawl: Bench = async (log) => {
  const { child, port } = await startCrawlServer({});
  const connector = `127.0.0.1:${port}`;
  const hosts = Array.from({ length: HOSTS }, (_, i) => `seed${i}-vale.org`);
  try {
    const store = await freshStore({ connector });
    const run = trial(store, 'crawl', { seeds: hosts, depth: 4, pageBudget: BUDGET, delayMs: 0, checkAfter: false });
    run.context.progress = () => undefined;
    let memory = 0;
    let early = 0;
    const watch = setInterval(() => {
      const { rss } = process.memoryUsage();
      memory = Math.max(memory, rss);
      if (early === 0 && countPages(store, run.sourceId).done > BUDGET / 4) early = rss;
    }, 250);
    const cpuBefore = process.cpuUsage();
    const started = performance.now();
    await runCrawl(run.context);
    const seconds = (performance.now() - started) / 1000;
    const cpu = process.cpuUsage(cpuBefore);
    clearInterval(watch);
    const { done } = countPages(store, run.sourceId);
    await store.close();
    rmSync(store.folder, { recursive: true });
    if (done < BUDGET) throw new Error(`only ${done} pages were read`);

    log('the same pages, fetched and parsed, nothing stored');
    const http = new HttpClient({ connector });
    const urls = hosts.flatMap((host) =>
      Array.from({ length: Math.ceil(BUDGET / HOSTS) }, (_, i) => `http://${host}/page/${i}.html`),
    );
    let next = 0;
    const baseStarted = performance.now();
    await Promise.all(
      hosts.map(async () => {
        while (next < urls.length) {
          const url = urls[next++];
          const { body } = await http.get(url);
          readPage(decodeHtml(body, 'utf-8').text, url);
        }
      }),
    );
    const base = urls.length / ((performance.now() - baseStarted) / 1000);
    await http.close();
    const rate = done / seconds;
    return [
      { name: 'crawl', value: Math.round(rate), unit: 'pages/s', baseline: Math.round(base), ratio: round(rate / base, 2), goal: 'at least 600 pages/s', met: rate >= 600 },
      { name: 'crawl-per-core', value: Math.round(done / ((cpu.user + cpu.system) / 1e6)), unit: 'pages per second of processor time', baseline: null, ratio: null, goal: 'none yet', met: true },
      { name: 'crawl-memory', value: Math.round(memory / 2 ** 20), unit: 'MB', baseline: Math.round(early / 2 ** 20), ratio: round(memory / early, 2), goal: done < LONG_CRAWL ? 'none so short; BENCH_CRAWL_PAGES=200000 for a long one' : 'at most 1.3 times what it was after a quarter of the pages', met: done < LONG_CRAWL || memory <= 1.3 * early },
    ]; // biome-ignore format: a figure a line
  } finally {
    child.kill();
  }
};
