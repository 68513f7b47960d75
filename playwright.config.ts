import { readdirSync } from 'node:fs';
import { defineConfig } from '@playwright/test';
import { FILES, portOf } from './e2e/files';

// every answer of the product is held against its contract
process.env.JAM_LADLE_CHECKS_ANSWERS = '1';

/** `reversed` begins with what otherwise comes last. */
const order = Object.entries(FILES);
if (process.env.E2E_ORDER === 'reversed') order.reverse();
const missing = readdirSync('e2e').filter((name) => name.endsWith('.spec.ts') && !(name.slice(0, -8) in FILES));
if (missing.length > 0) throw new Error(`e2e/files.ts does not say with what these begin: ${missing.join(', ')}`);

export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results/browser',
  // the long ones belong to `npm run soak`
  grepInvert: process.env.E2E_LONG ? undefined : /@long/,
  // so many at a time, each file with a product of its own; on two cores the third uses what the others wait
  workers: Number(process.env.E2E_WORKERS ?? 3),
  projects: order.map(([name, state]) => ({ name, testMatch: `${name}.spec.ts`, metadata: { state } })),
  // begun again on a fresh copy; what passes only then is named at the end
  retries: Number(process.env.E2E_RETRIES ?? 1),
  // bounds for when a core is kept busy beside
  timeout: 300_000,
  expect: { timeout: 40_000 },
  reporter: [['list'], ['json', { outputFile: process.env.E2E_REPORT ?? 'test-results/e2e.json' }]],
  globalSetup: './e2e/start.ts',
  use: {
    baseURL: `http://127.0.0.1:${portOf()}`,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    actionTimeout: 30_000,
    launchOptions: {
      // Debian's, without the parts that only a window needs
      executablePath: process.env.E2E_BROWSER ?? '/usr/bin/chromium-headless-shell',
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
