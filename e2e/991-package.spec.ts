import { type ChildProcess, execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { expect } from '@playwright/test';
import { portOf } from './files';
import { startReal } from './real-mode';
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

  // what it is told outdoes what stands around it
  const port = portOf(1);
  const given = ['--data', join(folder, 'data'), '--port', String(port)];
  const product = await startReal('/nowhere', portOf(2), {}, [command, ...given]);
  started.push(product.child);
  expect(product.address).toContain(`http://127.0.0.1:${port}/`);
  expect(product.output()).not.toMatch(/Installing|Building/);
  await page.goto(product.address);
  await page.goto(`http://127.0.0.1:${port}/setup`);
  await expect(page.getByRole('heading', { name: 'What works, and what it takes' })).toBeVisible();
  await product.stop();
});
