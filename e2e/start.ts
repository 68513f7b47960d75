import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const READY_MS = 120_000;

/** Starts the production build with a fresh demo world and an empty pool, as a newcomer finds it without the first steps. */
export default async function start(): Promise<() => Promise<void>> {
  const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-e2e-'));
  process.env.E2E_FOLDER = folder;
  const child: ChildProcess = spawn(process.execPath, ['scripts/demo.mjs'], {
    env: { ...process.env, JAM_LADLE_DATA: folder, PORT: process.env.E2E_PORT ?? '4399', JAM_LADLE_FIRST_STEPS: '0' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((ready, failed) => {
    const timer = setTimeout(() => failed(new Error('the demo was not ready in time')), READY_MS);
    child.once('exit', (code) => failed(new Error(`the demo ended with ${code}`)));
    let output = '';
    child.stdout?.on('data', (chunk) => {
      output += chunk;
      if (!output.includes('Jam Ladle is ready at')) return;
      clearTimeout(timer);
      ready();
    });
  });
  return () =>
    new Promise<void>((done) => {
      child.once('exit', () => done());
      child.kill('SIGTERM');
    });
}
