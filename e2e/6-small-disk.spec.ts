import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from '@playwright/test';
import { portOf } from './files';
import { LONG, test } from './test';

test.describe.configure({ mode: 'serial' });

/** The whole product on a disk that fills up under a crawl. */
const PORT = portOf(1);
const PAGES = 400;
let folder: string;
let isMounted = false;
let product: ChildProcess | null = null;
let site: Server;

test.beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'jam-ladle-small-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=60m', 'tmpfs', folder], { stdio: 'ignore' });
    isMounted = true;
  } catch {
    // only root may; the test says so
  }
  site = createServer((request, response) => {
    const n = Number(request.url?.slice(2)) || 0;
    const inside = Array.from({ length: 5 }, (_, i) => `<a href="/p${(n * 5 + i + 1) % PAGES}">page</a>`).join('');
    const outside = Array.from(
      { length: 20 },
      (_, i) => `<a href="http://out${n}x${i}-vale.org/">words of a link</a>`,
    ).join('');
    if (request.url === '/robots.txt') response.writeHead(404).end();
    else
      response
        .writeHead(200, { 'content-type': 'text/html' })
        .end(`<p>${n.toString(2)} ${'ab'.repeat(n % 50)}</p>${inside}${outside}`);
  });
  await new Promise<void>((done) => site.listen(0, '127.0.0.1', done));
});
test.afterAll(async () => {
  if (product && product.exitCode === null) {
    const ended = new Promise((done) => product?.once('exit', done));
    product.kill('SIGTERM');
    await ended;
  }
  site.close();
  if (isMounted) execFileSync('umount', ['-l', folder]);
  rmSync(folder, { recursive: true, force: true });
});

test(
  'a crawl rests while the disk is full, the product stays alive, and it goes on after space is made',
  LONG,
  async ({ request }) => {
    test.skip(!isMounted, 'a small file system cannot be mounted here');
    product = spawn(process.execPath, ['scripts/start.mjs'], {
      env: { ...process.env, JAM_LADLE_DATA: join(folder, 'data'), PORT: String(PORT) },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    let output = '';
    product.stdout?.on('data', (chunk) => {
      output += chunk;
    });
    await expect.poll(() => output, { timeout: 60_000 }).toContain('Jam Ladle is ready at');
    const url = `http://127.0.0.1:${PORT}/api/v1`;
    const headers = { authorization: `Bearer ${readFileSync(join(folder, 'data/token'), 'utf8').trim()}` };
    await request.patch(`${url}/settings`, {
      data: { allowedPrivate: ['127.0.0.1'], crawlDelayMs: 2, diskFloorMb: 0 },
      headers,
    });
    // what it says comes with the events; the row in the database cannot be written then
    let said = '';
    const listening = new AbortController();
    void fetch(`${url}/events`, { signal: listening.signal, headers })
      .then(async ({ body }) => {
        for await (const chunk of body ?? []) said += Buffer.from(chunk).toString();
      })
      .catch(() => undefined);
    const filler = join(folder, 'filler');
    const { bavail, bsize } = statfsSync(folder);
    writeFileSync(filler, Buffer.alloc(bavail * bsize - 3 * 2 ** 20));
    const seed = `http://127.0.0.1:${(site.address() as AddressInfo).port}/p0`;
    const started = await request.post(`${url}/sources/crawls`, {
      data: { seeds: [seed], depth: 4, pageBudget: 5000, checkAfter: false },
      headers,
    });
    const { job, source } = await started.json();
    const now = async () => (await request.get(`${url}/jobs/${job.id}`, { headers })).json();
    const counts = async () =>
      (await (await request.get(`${url}/sources/${source.id}/crawl`, { headers })).json()).counts;
    await expect.poll(() => statfsSync(folder).bavail, { timeout: 60_000 }).toBeLessThan(64);
    const before = (await counts()).done;
    expect(before).toBeLessThan(PAGES);
    await expect.poll(() => said, { timeout: 60_000 }).toContain('the disk is full; waiting for space');
    expect((await now()).state).toBe('running');
    // it says so, and refuses what is large at once
    expect(await (await request.get(`${url}/health`)).json()).toMatchObject({
      healthy: false,
      disk: { state: 'full' },
    });
    const refused = await request.post(`${url}/sources/lists`, { data: Buffer.alloc(2 ** 20, 'a.org\n'), headers });
    expect(refused.status()).toBe(507);
    rmSync(filler);
    await expect.poll(async () => (await now()).state, { timeout: 60_000 }).toBe('done');
    listening.abort();
    expect(await counts()).toMatchObject({ done: PAGES, queued: 0, failed: 0 });
  },
);
