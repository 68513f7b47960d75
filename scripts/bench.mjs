// `npm run bench`: figures, each with a baseline of the same run. Bundled as the product is, so that the code measured is the code
// that runs: a loader for sources wraps every function it meets. With `--small` the same code on sizes of seconds, as `npm run soak` runs it.
import { spawn } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureTools, install, ROOT } from './prepare.mjs';

/** A benchmark that takes longer waits for something that does not come. */
const LIMIT_S = 1500;
const SMALL_LIMIT_S = 120;

async function bundle() {
  const { build } = await import('esbuild');
  const outdir = join(ROOT, 'dist/bench');
  rmSync(outdir, { recursive: true, force: true });
  await build({
    entryPoints: {
      main: join(ROOT, 'bench/main.ts'),
      worker: join(ROOT, 'src/engine/runner/worker.ts'),
      'checkpointer-thread': join(ROOT, 'src/engine/database/checkpointer-thread.ts'),
      'damage-thread': join(ROOT, 'src/engine/database/damage-thread.ts'),
      'lookups-thread': join(ROOT, 'src/engine/lookups/thread.ts'),
      'list-thread': join(ROOT, 'src/engine/lists/thread.ts'),
    },
    outdir,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    splitting: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    logLevel: 'warning',
  });
  return join(outdir, 'main.mjs');
}

/** Runs them in a process group of their own, which ends as a whole when one of them is over its time. @returns its exit code. */
function run(main, args, isSmall) {
  // crawls have the nursery that their workers have in the engine (192 MB, three halves); for that, run them by name
  const named = args.filter((arg) => !arg.startsWith('--'));
  const isCrawl = named.length > 0 && named.every((name) => name.startsWith('crawl'));
  const limitS = Number(process.env.BENCH_LIMIT_S ?? (isSmall ? SMALL_LIMIT_S : LIMIT_S));
  const child = spawn(process.execPath, [...(isCrawl ? ['--max-semi-space-size=64'] : []), main, ...args], {
    cwd: ROOT,
    detached: true,
    env: { ...process.env, ...(isSmall ? { JAM_LADLE_BENCH: 'small' } : {}) },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  });
  let at = { name: '', step: '' };
  let timer;
  const endAll = (signal) => {
    try {
      process.kill(-child.pid, signal);
    } catch {
      // it is gone already
    }
  };
  const overTime = () => {
    console.error(`${at.name} did not end within ${limitS} s; it was waiting for: ${at.step || 'its first step'}`);
    endAll('SIGKILL');
  };
  child.on('message', (step) => {
    if (step.name !== at.name) {
      clearTimeout(timer);
      timer = setTimeout(overTime, limitS * 1000);
    }
    at = step;
  });
  for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => endAll(signal));
  return new Promise((done) =>
    child.once('exit', (code) => {
      clearTimeout(timer);
      endAll('SIGTERM'); // what it left behind
      done(code ?? 1);
    }),
  );
}

install();
const args = process.argv.slice(2);
const isSmall = args.includes('--small');
if (!isSmall && (args.length === 0 || args.includes('pool-screen'))) ensureTools(['chromium']);
process.exitCode = await run(
  await bundle(),
  args.filter((arg) => arg !== '--small'),
  isSmall,
);
