// `npm run world -- --domains 3000000 --out folder`: lists, feeds, a zone pair and a link export of a made-up world of any size.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { install, ROOT } from './prepare.mjs';

install();
const { build } = await import('esbuild');
const outfile = join(ROOT, 'dist/world.mjs');
await build({
  entryPoints: [join(ROOT, 'standins/large-main.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  logLevel: 'warning',
});
const { status } = spawnSync(process.execPath, [outfile, ...process.argv.slice(2)], { stdio: 'inherit' });
process.exit(status ?? 1);
