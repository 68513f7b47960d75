import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const TESTS = '{src,standins,bench,e2e}/**/*.test.ts';
/** They put others in the place of modules, which therefore have to be read anew. */
const MOCKING = ['src/engine/runner/runner.test.ts', 'src/app/api/*-routes.test.ts'];

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    globalSetup: ['scripts/unit-folder.mjs', 'scripts/unit-threads.mjs'],
    setupFiles: 'src/store/base/tables.ts',
    // bounds for when a core is kept busy beside; what is expected to be quick says so itself
    testTimeout: 120_000,
    hookTimeout: 180_000,
    // what stands in the place of something stands there for its own test: files share what a worker has
    unstubGlobals: true,
    pool: 'forks',
    // two cores; much of what is tested waits for its servers
    maxWorkers: 4,
    projects: [
      // modules are read once a worker: what a file leaves behind in them would be a fault of its own
      { extends: true, test: { name: 'units', include: [TESTS], exclude: MOCKING, isolate: false } },
      { extends: true, test: { name: 'mocking', include: MOCKING, isolate: true } },
      {
        extends: true,
        test: {
          name: 'components',
          include: ['src/ui/**/*.test.tsx'],
          environment: 'happy-dom',
          setupFiles: 'src/ui/testing.tsx',
          isolate: false,
        },
      },
    ],
  },
});
