import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pino from 'pino';
import type { CrawlParams } from '../src/core/crawl/params';
import { runCheck } from '../src/engine/jobs/check';
import { runCrawl } from '../src/engine/jobs/crawl';
import { trial } from '../src/engine/jobs/testing';
import { SchedulerHost } from '../src/engine/lookups/host';
import { changeSettings, readSettings } from '../src/store/base/settings';
import { freshStore } from '../src/store/base/testing';
import { crawlFunnel } from '../src/store/crawl/crawl-report';
import { makeWorld } from '../standins/world';
import { type Bench, round, sized } from './figure';

const SEEDS = [11, 12, 13, 14, 15].slice(0, sized('BENCH_YIELD_WORLDS', 5, 1));
const PAGES = sized('BENCH_YIELD_PAGES', 1000, 100);
/** Registries are waited for so long after a crawl; the one that answers five times an hour is not. */
const PATIENCE_MS = sized('BENCH_YIELD_PATIENCE_MS', 15_000, 2000);
const ORDERS: CrawlParams['order'][] = ['expected', 'breadth-first', 'random'];

/** Starts the made-up world of a seed in a process of its own, and gives the configuration that points at it. */
async function startWorld(seed: number): Promise<{ child: ChildProcess; folder: string; config: object }> {
  const folder = mkdtempSync(join(tmpdir(), 'bench-world-'));
  const child = spawn(process.execPath, ['--import', 'tsx', 'standins/main.ts'], {
    env: { ...process.env, JAM_LADLE_DATA: folder, JAM_LADLE_SEED: String(seed) },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((ready) =>
    child.stdout?.on('data', (chunk) => String(chunk).includes('world ready') && ready()),
  );
  return { child, folder, config: JSON.parse(readFileSync(join(folder, 'config.json'), 'utf8')) };
}

/** Lapsed domains found per 1,000 pages read, of one world in one order. */
async function yieldOf(config: object, seeds: string[], order: CrawlParams['order']): Promise<number> {
  const store = await freshStore(config);
  changeSettings(store, { registryIntervalMs: 1 });
  // as the engine runs it: the lookups in a thread of their own
  writeFileSync(join(store.folder, 'config.json'), JSON.stringify(config));
  const lookups = new SchedulerHost(store.folder, pino({ level: 'silent' }), () => undefined);
  lookups.start();
  const run = trial(store, 'crawl', { seeds, depth: 4, pageBudget: PAGES, delayMs: 0, retryMs: 500, order });
  const settings = { ...run.context.settings, ...readSettings(store) };
  const context = { ...run.context, settings, progress: () => undefined };
  await runCrawl(context);
  const check = {
    ...context,
    job: { ...context.job, params: { sourceId: run.sourceId, since: context.job.createdAt } },
  };
  const patience = new AbortController();
  setTimeout(() => patience.abort(), PATIENCE_MS).unref();
  await runCheck({ ...check, signal: patience.signal }).catch(() => undefined);
  await lookups.stop();
  const { lapsed, pagesRead, askedDns } = crawlFunnel(store, run.sourceId);
  if (askedDns === 0) throw new Error('no domain that was found got an answer');
  await store.close();
  rmSync(store.folder, { recursive: true });
  return (lapsed / pagesRead) * 1000;
}

/** Finds per 1,000 pages in the crawl's own order, against breadth-first and random order over the same seeds, in five worlds. */
export const crawlYield: Bench = async (log) => {
  const sums = new Map(ORDERS.map((order) => [order, 0]));
  let worst = Number.POSITIVE_INFINITY;
  for (const seed of SEEDS) {
    const { child, folder, config } = await startWorld(seed);
    try {
      const seeds = makeWorld(seed, Date.UTC(2026, 10, 20, 8), 10).sources.map(({ name }) => name);
      const found = new Map<string, number>();
      for (const order of ORDERS) {
        log(`world ${seed}, order ${order}: reading and asking`);
        const value = await yieldOf(config, seeds, order);
        found.set(order, value);
        sums.set(order, (sums.get(order) ?? 0) + value / SEEDS.length);
      }
      worst = Math.min(worst, (found.get('expected') ?? 0) / (found.get('breadth-first') ?? 1));
      log(`world ${seed}: ${ORDERS.map((order) => `${order} ${Math.round(found.get(order) ?? 0)}`).join(', ')}`);
    } finally {
      child.kill();
      rmSync(folder, { recursive: true, force: true });
    }
  }
  const [ours, breadth, random] = ORDERS.map((order) => sums.get(order) ?? 0);
  return [
    { name: 'crawl-yield', value: Math.round(ours), unit: 'finds per 1,000 pages', baseline: Math.round(breadth), ratio: round(ours / breadth, 2), goal: 'twice breadth-first', met: ours >= 2 * breadth },
    { name: 'crawl-yield-worst', value: round(worst, 2), unit: 'times breadth-first, in the worst world', baseline: 1, ratio: round(worst, 2), goal: 'twice breadth-first', met: worst >= 2 },
    { name: 'crawl-yield-random', value: Math.round(ours), unit: 'finds per 1,000 pages', baseline: Math.round(random), ratio: round(ours / random, 2), goal: 'more than a random order', met: ours > random },
  ]; // biome-ignore format: a figure a line
};
