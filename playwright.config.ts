import { defineConfig } from '@playwright/test';

const PORT = Number(process.env.E2E_PORT ?? 4399);
/** A part of the files that runs beside another, with a product of its own. */
const part = process.env.E2E_PART ?? 'all';

export default defineConfig({
  testDir: 'e2e',
  outputDir: `test-results/${part}`,
  testMatch: '*.spec.ts',
  workers: 1,
  // what passes only then is named at the end, and is allowed seldom (scripts/test.mjs)
  retries: 1,
  timeout: 240_000,
  expect: { timeout: 20_000 },
  reporter: [['list'], ['json', { outputFile: `test-results/e2e-${part}.json` }]],
  globalSetup: './e2e/start.ts',
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    actionTimeout: 15_000,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
