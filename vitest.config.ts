import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': fileURLToPath(new URL('./src', import.meta.url)) } },
  test: {
    include: ['{src,standins,bench,e2e}/**/*.test.ts'],
    testTimeout: 20_000,
    pool: 'forks',
    maxWorkers: 2,
  },
});
