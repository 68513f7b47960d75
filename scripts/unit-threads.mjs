// Threads of the engine that unit tests start run from bundles made as the tests begin: reading their sources takes each a second or two.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { BUNDLE } from './bundle.mjs';
import { ROOT } from './prepare.mjs';

const THREADS = /^engine\/((?:worker|[a-z]+-thread))$/;

export default async function setup({ config }) {
  // each project of the tests asks for it; who watches the sources wants them as they are by then
  if (process.env.JAM_LADLE_THREADS || config.watch) return;
  const folder = join(ROOT, 'dist', `threads-${process.pid}`);
  const threads = Object.entries(BUNDLE.entryPoints).flatMap(([name, source]) => {
    const thread = THREADS.exec(name);
    return thread ? [[thread[1], source]] : [];
  });
  const entryPoints = Object.fromEntries(threads);
  await build({ ...BUNDLE, entryPoints, outdir: folder, chunkNames: '[name]-[hash]' });
  process.env.JAM_LADLE_THREADS = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
