// `npm run bench`: figures, each with a baseline of the same run. Bundled as the product is, so that the code measured is the code
// that runs: a loader for sources wraps every function it meets.
import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { install, ROOT } from './prepare.mjs';

install();
const { build } = await import('esbuild');
const outdir = join(ROOT, 'dist/bench');
rmSync(outdir, { recursive: true, force: true });
await build({
  entryPoints: {
    main: join(ROOT, 'bench/main.ts'),
    worker: join(ROOT, 'src/engine/worker.ts'),
    'log-thread': join(ROOT, 'src/engine/log-thread.ts'),
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
// crawls have the nursery that their workers have in the engine (192 MB, three halves); for that, run them by name
const named = process.argv.slice(2).filter((arg) => !arg.startsWith('--'));
const isCrawl = named.length > 0 && named.every((name) => name.startsWith('crawl'));
const nursery = isCrawl ? ['--max-semi-space-size=64'] : [];
const { status } = spawnSync(process.execPath, [...nursery, join(outdir, 'main.mjs'), ...process.argv.slice(2)], {
  cwd: ROOT,
  stdio: 'inherit',
});
process.exit(status ?? 1);
