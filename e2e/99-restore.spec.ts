import { type ChildProcess, spawn } from 'node:child_process';
import { cpSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type APIRequestContext, expect } from '@playwright/test';
import { portOf } from './files';
import { allDone } from './stories';
import { LONG, test } from './test';

test.describe.configure({ mode: 'serial' });

const PORT = portOf(1);
const started: ChildProcess[] = [];
test.afterAll(() => {
  for (const child of started) child.kill('SIGTERM');
});

const briefsOf = async (request: APIRequestContext, at = '/api/v1'): Promise<string[]> =>
  (await (await request.get(`${at}/briefs`)).json()).briefs.map(({ name }: { name: string }) => name);
const sizeOf = async (request: APIRequestContext, at = '/api/v1'): Promise<number> =>
  (await (await request.post(`${at}/pool/query`, { data: { limit: 0 } })).json()).size;

test(
  'a copy is restored while the product runs, taken back, and started with elsewhere',
  LONG,
  async ({ page, request }) => {
    const add = (name: string) =>
      request.post('/api/v1/briefs', { data: { name, purpose: 'resell', subjectWords: ['hive'], budgetMinor: null } });
    await add('Before the copy');
    const size = await sizeOf(request);
    await request.post('/api/v1/backups');
    await allDone(request);
    await add('After the copy');
    expect(await briefsOf(request)).toContain('After the copy');

    await page.goto('/settings');
    const copies = page.getByRole('region', { name: 'Copies of the data folder' });
    const name = /[\d-]{19}$/.exec((await (await request.get('/api/v1/backups')).json()).backups[0].path)?.[0];
    await copies.getByRole('button', { name: `Restore ${name}` }).click();
    await expect(copies.getByText('-before')).toBeVisible({ timeout: 90_000 });
    expect(await briefsOf(request)).toContain('Before the copy');
    expect(await briefsOf(request)).not.toContain('After the copy');
    expect(await sizeOf(request)).toBe(size);
    // it works on: what is changed now is kept
    await add('In the copy');
    expect(await briefsOf(request)).toContain('In the copy');

    // back again
    const { backups } = await (await request.get('/api/v1/backups')).json();
    const before = backups
      .map(({ path }: { path: string }) => path.split('/').at(-1))
      .find((one: string) => one.endsWith('-before'));
    expect((await request.post(`/api/v1/backups/${before}/restore`, { timeout: 90_000 })).ok()).toBe(true);
    expect(await briefsOf(request)).toContain('After the copy');
    expect(await briefsOf(request)).not.toContain('In the copy');
    const refused = await request.post('/api/v1/backups/none/restore');
    expect((await refused.json()).detail).toContain('no such copy');

    // moved: another place starts with it
    const folder = join(mkdtempSync(join(tmpdir(), 'jam-ladle-moved-')), 'data');
    cpSync(backups.find(({ path }: { path: string }) => path.endsWith(name ?? '')).path, folder, { recursive: true });
    const child = spawn(process.execPath, ['scripts/start.mjs'], {
      env: { ...process.env, JAM_LADLE_DATA: folder, PORT: String(PORT) },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    started.push(child);
    let output = '';
    child.stdout?.on('data', (chunk) => {
      output += chunk;
    });
    await expect.poll(() => output, { timeout: 120_000 }).toContain('Jam Ladle is ready at');
    const there = `http://127.0.0.1:${PORT}/api/v1`;
    expect(await briefsOf(request, there)).toContain('Before the copy');
    expect(await sizeOf(request, there)).toBe(size);
  },
);
