// `npm run train`: the data that subjects are told by, then the points of the spam rules, which are fitted with it.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { install, ROOT } from './prepare.mjs';

install();
const { build } = await import('esbuild');
const outfile = join(ROOT, 'dist/train.mjs');
const all = process.argv.slice(2);
for (const what of all.length > 0 ? all : ['subjects', 'spam']) {
  await build({
    entryPoints: [join(ROOT, 'bench/train.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    logLevel: 'warning',
  });
  const { status } = spawnSync(process.execPath, [outfile, what], { cwd: ROOT, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
