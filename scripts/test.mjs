// `npm test`: lint, types, unit tests, then the browser tests on the production build.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, ensureTools, install, ROOT } from './prepare.mjs';

const results = join(ROOT, 'test-results');
/** Files of the browser tests that build on each other stay together. */
const PARTS = {
  gather: { port: 4399, files: ['e2e/[1-8]-'] },
  decide: { port: 4398, files: ['e2e/9'] },
};
/** Browser tests that may pass only when they are tried once more; more of them are a fault of the tests or of what they look at. */
const MOST_FLAKY = 2;
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

/** Both halves of the browser tests at once, each with a product of its own; the second is told when it is over. */
async function browserTests() {
  const started = Date.now();
  console.log('\n== browser tests, in two parts');
  const statuses = await Promise.all(
    Object.entries(PARTS).map(([part, { port, files }], n) => {
      const child = spawn(process.execPath, [join(ROOT, 'node_modules/@playwright/test/cli.js'), 'test', ...files], {
        cwd: ROOT,
        stdio: ['ignore', n === 0 ? 'inherit' : 'pipe', n === 0 ? 'inherit' : 'pipe'],
        env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', E2E_PART: part, E2E_PORT: String(port) },
      });
      const said = [];
      for (const stream of [child.stdout, child.stderr]) stream?.on('data', (chunk) => said.push(chunk));
      return new Promise((done) => child.once('exit', (status) => done({ status, said: Buffer.concat(said) })));
    }),
  );
  for (const { said } of statuses) process.stdout.write(said);
  const isFine = statuses.every(({ status }) => status === 0);
  console.log(`== browser tests: ${isFine ? 'ok' : 'failed'}, ${Math.round((Date.now() - started) / 1000)} s`);
  if (!isFine) hasFailed = true;
}

function reportOf(file) {
  const path = join(results, file);
  return existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : null;
}

/** Titles of the browser tests that passed only the second time. */
function flakyIn({ suites = [], specs = [] }) {
  const own = specs.filter(({ tests }) => tests.some(({ status }) => status === 'flaky'));
  return [...own.map(({ file, title }) => `${file}: ${title}`), ...suites.flatMap(flakyIn)];
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
  const unit = reportOf('unit.json') ?? { numPassedTests: 0, numFailedTests: 0 };
  await browserTests();
  const browser = Object.keys(PARTS).map((part) => reportOf(`e2e-${part}.json`));
  const flaky = browser.flatMap((report) => (report ? flakyIn(report) : []));
  for (const title of flaky) console.log(`only the second time: ${title}`);
  if (flaky.length > MOST_FLAKY) {
    console.log(`more than ${MOST_FLAKY} tests passed only the second time`);
    hasFailed = true;
  }
  const counts = [
    [unit.numPassedTests, unit.numFailedTests],
    ...browser.map((report) =>
      report ? [report.stats.expected + report.stats.flaky, report.stats.unexpected] : [0, 0],
    ),
  ];
  const sum = (n) => counts.reduce((total, pair) => total + pair[n], 0);
  console.log(`\n${sum(0)} passed, ${sum(1)} failed`);
} catch (error) {
  console.error(error.message);
  hasFailed = true;
}
process.exit(hasFailed ? 1 : 0);
