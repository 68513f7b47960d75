// Runs the browser tests, and reads what came of them.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './prepare.mjs';

/**
 * Runs files of the browser tests, each with a product of its own.
 *
 * @param report where its report is written.
 * @param env further variables, of playwright.config.ts.
 * @returns how many passed and failed, and the titles of those that passed only when their file was begun again.
 */
export function runBrowserTests(report, env = {}) {
  spawnSync(process.execPath, [join(ROOT, 'node_modules/@playwright/test/cli.js'), 'test'], {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', E2E_REPORT: report, ...env },
  });
  if (!existsSync(report)) return { passed: 0, failed: 1, secondTime: [], failedTitles: ['the run itself'] };
  const { stats, suites, errors = [] } = JSON.parse(readFileSync(report, 'utf8'));
  const specs = suites.flatMap(specsIn);
  const titlesOf = (status) =>
    specs
      .filter(({ tests }) => tests.some((test) => test.status === status))
      .map(({ file, title }) => `${file}: ${title}`);
  // what was not begun, since a test before it in the same file failed, has failed with it
  return {
    passed: stats.expected + stats.flaky,
    failed: stats.unexpected + errors.length,
    secondTime: titlesOf('flaky'),
    failedTitles: titlesOf('unexpected'),
  };
}

function specsIn({ suites = [], specs = [] }) {
  return [...specs, ...suites.flatMap(specsIn)];
}
