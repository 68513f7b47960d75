// Bundles the engine and the stand-ins for Node, with what they use of others: a thread begins in half the time then. What is native,
// or reads files of its own, stays in node_modules.
import { rmSync } from 'node:fs';
import { build } from 'esbuild';

/** Drivers that the query builder could load, and none of which is here. */
const OTHER_DRIVERS = [
  'mariadb',
  'mariadb/callback',
  'mysql',
  'mysql2',
  'oracledb',
  'pg',
  'pg-native',
  'pg-query-stream',
  'sqlite3',
  'tedious',
];

/** What packages written for `require` expect of a module. */
const REQUIRE = `import { createRequire as requireOf } from 'node:module';
import { dirname as folderOf } from 'node:path';
import { fileURLToPath as pathOfUrl } from 'node:url';
const require = requireOf(import.meta.url);
const __filename = pathOfUrl(import.meta.url);
const __dirname = folderOf(__filename);`;

export const BUNDLE = {
  entryPoints: {
    'engine/main': 'src/engine/main.ts',
    'engine/worker': 'src/engine/runner/worker.ts',
    'engine/lookups-thread': 'src/engine/lookups/thread.ts',
    'engine/checkpointer-thread': 'src/engine/database/checkpointer-thread.ts',
    'engine/damage-thread': 'src/engine/database/damage-thread.ts',
    'engine/restore': 'src/engine/database/restore.ts',
    'engine/page-sums': 'src/store/base/page-sums.ts',
    'engine/list-thread': 'src/engine/lists/thread.ts',
    'engine/folder-lock': 'src/store/base/folder-lock.ts',
    'engine/key-file': 'src/store/base/key-file.ts',
    'engine/access-key': 'src/store/base/access-key.ts',
    'engine/people': 'src/store/base/people.ts',
    'engine/reach': 'src/store/base/reach.ts',
    'engine/sessions': 'src/store/base/sessions.ts',
    'engine/private-folder': 'src/store/base/private-folder.ts',
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
  external: ['better-sqlite3', 'pino', 'eld', 'eld/*', ...OTHER_DRIVERS],
  banner: { js: REQUIRE },
  sourcemap: true,
  logLevel: 'warning',
};

if (process.argv[1] === import.meta.filename) {
  for (const before of ['dist/engine', 'dist/standins']) rmSync(before, { recursive: true, force: true });
  await build(BUNDLE);
}
