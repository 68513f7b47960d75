import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openStore, type Store } from '../../store/base/database';
import { readJob, setJobParams } from '../../store/base/jobs';
import { freshStore } from '../../store/base/testing';
import { countPages, siteYields } from '../../store/crawl/crawl-report';
import { setSiteState } from '../../store/crawl/sites';
import { runCrawl } from './crawl';
import { type Trial, trial } from './testing';

const PAGES = 120;
const PARAMS = {
  seeds: ['a-seed.org', 'b-seed.org', 'c-seed.org'],
  depth: 4,
  pageBudget: 2000,
  checkAfter: false,
  delayMs: 0,
  retryMs: 40,
};
let server: Server;
let port = 0;
let store: Store;
/** Text on every page, to fill a disk with. */
let weight = '';
let slowMs = 0;
let sitePages = PAGES;
/** What a-seed.org does to its page n: answers it, breaks off, or asks to come later. */
let manner: (n: number) => 'answer' | 'break' | 'later' = () => 'answer';

function start(): Promise<void> {
  server = createServer((request, response) => {
    const n = Number(request.url?.slice(2)) || 0;
    const inside = Array.from({ length: 4 }, (_, i) => `<a href="/p${(n * 4 + i + 1) % sitePages}">x</a>`).join('');
    const outside = Array.from(
      { length: 12 },
      (_, i) => `<a href="http://out${n}x${i}-${request.headers.host}/">${weight}</a>`,
    ).join('');
    if (request.url === '/robots.txt') return response.writeHead(404).end();
    const how = request.headers.host?.startsWith('a-') ? manner(n) : 'answer';
    if (how === 'break') return request.socket.destroy();
    if (how === 'later') return response.writeHead(503).end();
    setTimeout(
      () =>
        response
          .writeHead(200, { 'content-type': 'text/html' })
          .end(
            `<p>page ${'abcdefghij'[n % 10].repeat(n % 7)} ${n.toString(2).replace(/0/g, 'o').replace(/1/g, 'i')}</p>${inside}${outside}`,
          ),
      slowMs,
    );
  });
  return new Promise((done) =>
    server.listen(port, '127.0.0.1', () => {
      port = (server.address() as AddressInfo).port;
      done();
    }),
  );
}
const stop = () =>
  new Promise<void>((done) => {
    server.close(() => done());
    server.closeAllConnections();
  });

beforeEach(async () => {
  port = 0;
  weight = 'x';
  slowMs = 0;
  sitePages = PAGES;
  manner = () => 'answer';
  await start();
  store = await freshStore({ connector: `127.0.0.1:${port}` });
});
afterEach(() => stop());

const read = (run: Trial, from = store) => countPages(from, run.sourceId).done;
async function until(what: () => boolean): Promise<void> {
  for (let i = 0; i < 400 && !what(); i++) await sleep(20);
  expect(what()).toBe(true);
}

describe('a crawl', () => {
  it('whose network is cut goes on when it is back, and writes nobody off', async () => {
    slowMs = 10;
    const run = trial(store, 'crawl', PARAMS);
    const running = runCrawl(run.context);
    await until(() => read(run) > 30);
    await stop();
    await until(() => run.progress.some(({ message }) => message.includes('network seems to be cut')));
    const before = read(run);
    await sleep(300);
    expect(read(run)).toBe(before);
    await start();
    await running;
    expect(read(run)).toBe(3 * PAGES + 3);
    expect(countPages(store, run.sourceId)).toMatchObject({ failed: 0, queued: 0 });
    expect(siteYields(store, run.sourceId).every(({ state }) => state === 'reading')).toBe(true);
  });

  it('leaves a site alone that is down while others answer, and says so', async () => {
    const seeds = [...PARAMS.seeds, 'http://127.0.0.1:9/'];
    const other = await freshStore();
    const run = trial(other, 'crawl', { ...PARAMS, seeds: seeds.slice(3), retryMs: 5 });
    await runCrawl(run.context);
    expect(siteYields(other, run.sourceId)[0]).toMatchObject({ state: 'unreachable', pages: 0, failed: 1 });
    await other.close();
  });

  it('reads all that a site answers that breaks off certain pages only, however they lie in a row', async () => {
    manner = (n) => (n % 3 === 1 || (n > 40 && n < 60) ? 'break' : 'answer');
    const run = trial(store, 'crawl', { ...PARAMS, retryMs: 2 });
    await runCrawl(run.context);
    const [site] = siteYields(store, run.sourceId).filter(({ site }) => site === 'a-seed.org');
    // the seed is page 0 by another address
    let level = [0];
    const found = new Set<number>();
    for (let depth = 1; depth <= PARAMS.depth; depth++) {
      const next = level.flatMap((n) => [1, 2, 3, 4].map((i) => (n * 4 + i) % PAGES)).filter((n) => !found.has(n));
      for (const n of next) found.add(n);
      level = next.filter((n) => manner(n) === 'answer');
    }
    const broken = [...found].filter((n) => manner(n) === 'break').length;
    expect(broken).toBeGreaterThan(20);
    expect(site).toMatchObject({ state: 'reading', failed: broken, pages: found.size - broken + 1, queued: 0 });
  });

  it.each(['break', 'later'] as const)('gives a site up that goes away in the middle: %s', async (how) => {
    slowMs = 5;
    const run = trial(store, 'crawl', { ...PARAMS, retryMs: 2 });
    const running = runCrawl(run.context);
    await until(() => read(run) > 60);
    manner = () => how;
    await running;
    const [site, ...others] = siteYields(store, run.sourceId).sort((a, b) => a.site.localeCompare(b.site));
    expect(site).toMatchObject({ site: 'a-seed.org', state: 'unreachable', failed: 3 });
    expect(site.queued).toBeGreaterThan(0);
    expect(others.map(({ state, pages }) => [state, pages])).toEqual(others.map(() => ['reading', PAGES + 1]));
  });

  it('takes over budgets and dropped sites while it runs', async () => {
    slowMs = 15;
    const run = trial(store, 'crawl', PARAMS);
    const running = runCrawl(run.context);
    await until(() => read(run) > 15);
    setSiteState(store, run.sourceId, 'b-seed.org', 'dropped', 'dropped by you');
    setSiteState(store, run.sourceId, 'c-seed.org', 'dropped', 'dropped by you');
    const pagesOf = (site: string) => siteYields(store, run.sourceId).find((row) => row.site === site)?.pages ?? 0;
    // it stands still once the crawl has heard of it
    let looks = { pages: -1, same: 0 };
    await until(() => {
      const pages = pagesOf('c-seed.org');
      looks = { pages, same: pages === looks.pages ? looks.same + 1 : 0 };
      return looks.same >= 15;
    });
    expect(looks.pages).toBeLessThan(95);
    setSiteState(store, run.sourceId, 'c-seed.org', 'reading', null);
    setJobParams(store, run.context.job.id, { ...PARAMS, sitePageBudget: 100 });
    await running;
    const yields = new Map(siteYields(store, run.sourceId).map((row) => [row.site, row]));
    expect(yields.get('b-seed.org')?.pages).toBeLessThan(95);
    expect(yields.get('a-seed.org')?.pages).toBe(100);
    // what was taken back is read on
    expect(yields.get('c-seed.org')?.pages).toBe(100);
    expect(run.progress.at(-1)?.message).toContain('left unread');
  });

  it('ends by its time budget and by a yield that is too low, and says which', async () => {
    slowMs = 20;
    const timed = trial(store, 'crawl', { ...PARAMS, minutesBudget: 0.02 });
    await runCrawl(timed.context);
    expect(timed.progress.at(-1)?.message).toContain('the time budget of 0.02 min is used up');
    expect(read(timed)).toBeLessThan(3 * PAGES);
    expect(readJob(store, timed.context.job.id)?.checkpoint?.minutes).toBeGreaterThan(0.01);
    slowMs = 12;
    sitePages = 600;
    const dry = trial(store, 'crawl', { ...PARAMS, leastFinds: 5 });
    await runCrawl(dry.context);
    expect(dry.progress.at(-1)?.message).toContain('the last 500 pages gave fewer than 5 finds per 1,000');
    expect(countPages(store, dry.sourceId).queued).toBeGreaterThan(10);
  });

  it('ends before memory or disk do, says which, and reads on later', async () => {
    slowMs = 15;
    const run = trial(store, 'crawl', PARAMS);
    const { settings } = run.context;
    run.context.settings = { ...settings, crawlMemoryMb: 64 };
    await runCrawl(run.context);
    expect(run.progress.at(-1)?.message).toContain('memory is short, so it ended here');
    const first = read(run);
    expect(first).toBeLessThan(3 * PAGES);
    const again = trial(store, 'crawl', {}, run);
    again.context.settings = { ...settings, diskFloorMb: 10_000_000 };
    await runCrawl(again.context);
    expect(again.progress.at(-1)?.message).toMatch(/the disk has only \d+ MB left/);
    slowMs = 0;
    await runCrawl(trial(store, 'crawl', {}, run).context);
    expect(read(run)).toBe(3 * PAGES + 3);
  });

  it('rests while the disk is full, loses nothing, and goes on after space is made', async (test) => {
    const folder = mkdtempSync(join(tmpdir(), 'small-disk-'));
    try {
      execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=24m', 'tmpfs', folder], { stdio: 'ignore' });
    } catch {
      return test.skip('a small file system cannot be mounted here');
    }
    try {
      mkdirSync(join(folder, 'data'));
      const small = await openStore(join(folder, 'data'), { migrate: true });
      Object.assign(small.config, { connector: `127.0.0.1:${port}` });
      weight = 'much to say '.repeat(16);
      const filler = join(folder, 'filler');
      writeFileSync(filler, Buffer.alloc(20 * 2 ** 20));
      const run = trial(small, 'crawl', PARAMS);
      run.context.settings = { ...run.context.settings, diskFloorMb: 0 };
      const running = runCrawl(run.context);
      await until(() => run.progress.some(({ message }) => message.includes('the disk is full')));
      const before = read(run, small);
      expect(before).toBeLessThan(3 * PAGES);
      rmSync(filler);
      await running;
      expect(read(run, small)).toBe(3 * PAGES + 3);
      expect(small.raw.pragma('integrity_check', { simple: true })).toBe('ok');
      expect(small.raw.prepare('SELECT count(*) FROM sightings').pluck().get()).toBe(3 * (PAGES - 1) * 12 + 3 * 12);
      await small.close();
    } finally {
      execFileSync('umount', ['-l', folder]);
      rmSync(folder, { recursive: true, force: true });
    }
  });
});
