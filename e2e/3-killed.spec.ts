import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { type APIRequestContext, expect } from '@playwright/test';
import Database from 'better-sqlite3';
import { SEEDS } from './stories';
import { LONG, test } from './test';

test.describe.configure({ mode: 'serial' });

/** `npm run soak` kills twenty times. */
const KILLS = Number(process.env.E2E_KILLS ?? 6);
const folder = () => process.env.E2E_FOLDER ?? '';
const enginePid = () => JSON.parse(readFileSync(join(folder(), 'engine.json'), 'utf8')).pid as number;

async function startCrawl(request: APIRequestContext, name: string): Promise<{ sourceId: number; jobId: number }> {
  const answer = await request.post('/api/v1/sources/crawls', {
    data: { name, seeds: SEEDS, depth: 3, pageBudget: 5000, checkAfter: false },
  });
  const { source, job } = await answer.json();
  return { sourceId: source.id, jobId: job.id };
}

const jobOf = async (request: APIRequestContext, id: number) => (await request.get(`/api/v1/jobs/${id}`)).json();

function outcome(sourceId: number) {
  const db = new Database(join(folder(), 'jam-ladle.sqlite'), { readonly: true });
  const all = (sql: string) => db.prepare(sql).raw().all(sourceId);
  const result = {
    pages: all(
      'SELECT url, depth, hops, state, status, title, note, links_out FROM pages WHERE source_id = ? ORDER BY url',
    ),
    links: all(
      `SELECT f.name, t.name, l.from_url, l.to_url, l.anchor, l.nofollow, l.indexable FROM links l JOIN domains f ON f.id = l.from_id
       JOIN domains t ON t.id = l.to_id WHERE l.source_id = ? ORDER BY 3, 4`,
    ),
    domains: all(
      'SELECT d.name FROM sightings s JOIN domains d ON d.id = s.domain_id WHERE s.source_id = ? ORDER BY 1',
    ),
    counts: all('SELECT rows_read, rows_taken, rows_excluded FROM sources WHERE id = ?'),
  };
  db.close();
  return result;
}

test(
  'a crawl whose engine is killed again and again at random moments ends like an undisturbed one',
  LONG,
  async ({ request }) => {
    test.setTimeout(600_000);
    const slowly = (crawlDelayMs: number) => request.patch('/api/v1/settings', { data: { crawlDelayMs } });
    const calm = await startCrawl(request, 'undisturbed');
    await expect.poll(async () => (await jobOf(request, calm.jobId)).state, { timeout: 60_000 }).toBe('done');

    await slowly(80);
    const hurt = await startCrawl(request, 'killed');
    const done = () => outcome(hurt.sourceId).pages.filter((page) => (page as string[])[3] === 'done').length;
    let before = 0;
    let inMidCrawl = 0;
    for (let kill = 0; kill < KILLS; kill++) {
      // it has read on since the last time, or has just begun
      if (kill % 2 === 1) await expect.poll(done, { timeout: 30_000, intervals: [50] }).toBeGreaterThan(before);
      await new Promise((rest) => setTimeout(rest, Math.random() * 400));
      const pid = enginePid();
      process.kill(pid, 'SIGKILL');
      // the interface stays alive, says so, and the engine comes back by itself
      expect((await request.get('/api/v1/sources')).status()).toBe(200);
      await expect.poll(() => enginePid(), { timeout: 30_000, intervals: [50] }).not.toBe(pid);
      await expect.poll(async () => (await request.get('/api/v1/health')).status(), { timeout: 30_000 }).toBe(200);
      const now = done();
      if (now > before) inMidCrawl++;
      before = now;
    }
    expect(inMidCrawl).toBeGreaterThanOrEqual(KILLS / 2);
    await slowly(25);
    await expect.poll(async () => (await jobOf(request, hurt.jobId)).state, { timeout: 90_000 }).toBe('done');

    const [expected, result] = [outcome(calm.sourceId), outcome(hurt.sourceId)];
    expect(expected.pages.length).toBeGreaterThan(800);
    expect(result.domains).toEqual(expected.domains);
    expect(result.pages).toEqual(expected.pages);
    expect(result.links).toEqual(expected.links);
    expect(result.counts).toEqual(expected.counts);
  },
);

test('a crawl can be paused, resumed and cancelled', async ({ request }) => {
  const slowly = (crawlDelayMs: number) => request.patch('/api/v1/settings', { data: { crawlDelayMs } });
  const poll = { intervals: [50], timeout: 20_000 };
  await slowly(200);
  const { jobId } = await startCrawl(request, 'steered');
  const done = async () => (await jobOf(request, jobId)).progress?.done ?? 0;
  const state = async () => (await jobOf(request, jobId)).state;
  await expect.poll(done, poll).toBeGreaterThan(5);
  await request.post(`/api/v1/jobs/${jobId}/pause`);
  await expect.poll(state, poll).toBe('paused');
  const before = await done();
  await new Promise((rest) => setTimeout(rest, 600));
  expect(await done()).toBe(before);
  await request.post(`/api/v1/jobs/${jobId}/resume`);
  await expect.poll(done, poll).toBeGreaterThan(before);
  await request.post(`/api/v1/jobs/${jobId}/cancel`);
  await expect.poll(state, poll).toBe('cancelled');
  await slowly(25);
});
