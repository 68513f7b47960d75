// Bundles the engine and the stand-ins for Node. Native and server packages stay in node_modules.
import { rmSync } from 'node:fs';
import { build } from 'esbuild';

export const BUNDLE = {
  entryPoints: {
    'engine/main': 'src/engine/main.ts',
    'engine/worker': 'src/engine/runner/worker.ts',
    'engine/lookups-thread': 'src/engine/lookups/thread.ts',
    'engine/checkpointer-thread': 'src/engine/database/checkpointer-thread.ts',
    'engine/list-thread': 'src/engine/lists/thread.ts',
    'standins/main': 'standins/main.ts',
  },
  outdir: 'dist',
  // code of a job is read when it runs; beside the engine, where its threads are looked for
  splitting: true,
  chunkNames: 'engine/[name]-[hash]',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  sourcemap: true,
  logLevel: 'warning',
};

if (process.argv[1] === import.meta.filename) {
  for (const before of ['dist/engine', 'dist/standins']) rmSync(before, { recursive: true, force: true });
  await build(BUNDLE);
}
