import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { expect } from '@playwright/test';
import { portOf } from './files';
import { LONG, test } from './test';

const started: ChildProcess[] = [];
test.afterAll(() => {
  for (const child of started) child.kill('SIGKILL');
});

test('what npm packs runs by its command alone, elsewhere', LONG, async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-package-'));
  execFileSync('npm', ['pack', '--ignore-scripts', '--pack-destination', folder], { stdio: 'ignore' });
  const { version } = JSON.parse(readFileSync('package.json', 'utf8'));
  execFileSync('tar', ['xzf', `jam-ladle-${version}.tgz`], { cwd: folder });
  // as if it were installed: its packages stand in a folder above it
  symlinkSync(resolve('node_modules'), join(folder, 'node_modules'));
  const command = join(folder, 'package/scripts/jam-ladle.mjs');
  expect(execFileSync(command, ['--version'], { encoding: 'utf8' }).trim()).toBe(version);
  expect(execFileSync(command, ['--help'], { encoding: 'utf8' })).toContain('--data DIR');

  const { JAM_LADLE_DATA: _, PORT: __, ...env } = process.env;
  const port = portOf(1);
  const child = spawn(command, ['--data', join(folder, 'data'), '--port', String(port)], {
    cwd: folder,
    env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  started.push(child);
  let output = '';
  child.stdout?.on('data', (chunk) => {
    output += chunk;
  });
  await expect.poll(() => output, { timeout: 120_000 }).toContain(`Jam Ladle is ready at http://127.0.0.1:${port}`);
  expect(output).not.toMatch(/Installing|Building/);
  await page.goto(/ready at (\S+)/.exec(output)?.[1] ?? '');
  await page.goto(`http://127.0.0.1:${port}/setup`);
  await expect(page.getByRole('heading', { name: 'What works, and what it takes' })).toBeVisible();
  await Promise.all([new Promise((ended) => child.once('exit', ended)), child.kill('SIGTERM')]);
});
