// Bundles the engine and the stand-ins for Node. Native and server packages stay in node_modules.
import { build } from 'esbuild';

await build({
  entryPoints: {
    'engine/main': 'src/engine/main.ts',
    'engine/worker': 'src/engine/worker.ts',
    'engine/asker-thread': 'src/engine/asker-thread.ts',
    'engine/list-thread': 'src/engine/lists/thread.ts',
    'standins/main': 'standins/main.ts',
  },
  outdir: 'dist',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  sourcemap: true,
  logLevel: 'warning',
});
