// `npm test`: lint, types, unit tests, then the browser tests on the production build.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, ensureTools, install, ROOT } from './prepare.mjs';

const results = join(ROOT, 'test-results');
let hasFailed = false;

function step(name, command, args) {
  const started = Date.now();
  console.log(`\n== ${name}`);
  const { status } = spawnSync(command, args, {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  });
  console.log(`== ${name}: ${status === 0 ? 'ok' : 'failed'}, ${Math.round((Date.now() - started) / 1000)} s`);
  if (status !== 0) hasFailed = true;
  return status === 0;
}

function countsOf(file, read) {
  const path = join(results, file);
  return existsSync(path) ? read(JSON.parse(readFileSync(path, 'utf8'))) : [0, 0];
}

try {
  install();
  ensureTools();
  rmSync(results, { recursive: true, force: true });
  mkdirSync(results, { recursive: true });
  const bin = (name) => join(ROOT, 'node_modules/.bin', name);
  step('lint', bin('biome'), ['check', '.']);
  step('import rules', bin('depcruise'), ['src', 'standins', 'bench', 'e2e']);
  build();
  step('types', bin('tsc'), ['--noEmit']);
  step('unit tests', bin('vitest'), [
    'run',
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${join(results, 'unit.json')}`,
  ]);
  // read now: the browser tests clear the folder
  const unit = countsOf('unit.json', ({ numPassedTests, numFailedTests }) => [numPassedTests, numFailedTests]);
  step('browser tests', bin('playwright'), ['test']);
  const browser = countsOf('e2e.json', ({ stats }) => [stats.expected + stats.flaky, stats.unexpected]);
  console.log(`\n${unit[0] + browser[0]} passed, ${unit[1] + browser[1]} failed`);
} catch (error) {
  console.error(error.message);
  hasFailed = true;
}
process.exit(hasFailed ? 1 : 0);
