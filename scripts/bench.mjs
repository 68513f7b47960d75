// `npm run bench`: figures, each with a baseline of the same run. Bundled as the product is, so that the code measured is the code
// that runs: a loader for sources wraps every function it meets. The nursery is that of the engine's workers (192 MB, three halves).
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { install, ROOT } from './prepare.mjs';

install();
const { build } = await import('esbuild');
const outdir = join(ROOT, 'dist/bench');
await build({
  entryPoints: {
    main: join(ROOT, 'bench/main.ts'),
    worker: join(ROOT, 'src/engine/worker.ts'),
    'list-thread': join(ROOT, 'src/engine/lists/thread.ts'),
  },
  outdir,
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  logLevel: 'warning',
});
const { status } = spawnSync(
  process.execPath,
  ['--max-semi-space-size=64', join(outdir, 'main.mjs'), ...process.argv.slice(2)],
  {
    cwd: ROOT,
    stdio: 'inherit',
  },
);
process.exit(status ?? 1);
