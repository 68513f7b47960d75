import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['{src,standins,bench,e2e}/**/*.test.ts'],
    globalSetup: 'scripts/unit-folder.mjs',
    // bounds for when a core is kept busy beside; what is expected to be quick says so itself
    testTimeout: 60_000,
    pool: 'forks',
    // modules are read once a worker: what a file leaves behind in them would be a fault of its own
    isolate: false,
    // two cores; some of what is tested waits for its servers
    maxWorkers: 3,
  },
});
