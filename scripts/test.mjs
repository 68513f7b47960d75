// `npm test`: lint, import rules, types, unit tests, then the browser tests on the production build.
// What takes longer belongs to `npm run soak`.
// What does not need the other runs beside it: the tests hold on a machine that has other work.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { runBrowserTests } from './browser-tests.mjs';
import { ensureTools, install, ROOT } from './prepare.mjs';

const results = join(ROOT, 'test-results');
let hasFailed = false;

/** Runs a step beside others; what it says is shown when it has ended. */
async function step(name, command, args) {
  const started = Date.now();
  const child = spawn(command, args, {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  });
  const said = [];
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => said.push(chunk));
  const code = await new Promise((done) => child.once('close', done));
  process.stdout.write(`\n== ${name}\n${Buffer.concat(said)}`);
  tell(name, code === 0, started);
  return code === 0;
}

async function inTurn(...steps) {
  for (const begin of steps) await begin();
}

function tell(name, isFine, started) {
  console.log(`== ${name}: ${isFine ? 'ok' : 'failed'}, ${Math.round((Date.now() - started) / 1000)} s`);
  if (!isFine) hasFailed = true;
}

function unitCounts() {
  const path = join(results, 'unit.json');
  return existsSync(path)
    ? JSON.parse(readFileSync(path, 'utf8'))
    : { numPassedTests: 0, numFailedTests: 0, testResults: [] };
}

/** Each failed test by name, with its first line: what stands last is what is read first. */
function unitFailures({ testResults }) {
  return testResults.flatMap((file) =>
    file.assertionResults
      .filter(({ status }) => status === 'failed')
      .map(({ fullName, failureMessages }) => `${fullName}: ${failureMessages[0]?.split('\n')[0] ?? ''}`),
  );
}

/** Tests that failed first: what was wrong then stays with them. */
function unitSecondTime({ testResults }) {
  return testResults.flatMap((file) =>
    file.assertionResults
      .filter(({ status, failureMessages }) => status === 'passed' && failureMessages.length > 0)
      .map(({ fullName }) => fullName),
  );
}

try {
  install();
  ensureTools();
  rmSync(results, { recursive: true, force: true });
  mkdirSync(results, { recursive: true });
  const bin = (name) => join(ROOT, 'node_modules/.bin', name);
  const node = (name, ...args) => step(name, process.execPath, args);
  const [isBuilt] = await Promise.all([
    node('build', '-e', "import('./scripts/prepare.mjs').then(({ build }) => build())"),
    step('lint', bin('biome'), ['check', '.']),
    step('import rules', bin('depcruise'), ['src', 'standins', 'bench', 'e2e']),
    step('unused code', bin('knip'), ['--no-progress']),
  ]);
  if (!isBuilt) throw new Error('It could not be built.');
  // two by two: more at once would have tests wait for processors rather than for what they look at
  await Promise.all([
    inTurn(
      () => step('types', bin('tsc'), ['--noEmit']),
      () => node('data folders', 'scripts/states.mjs'),
    ),
    step('unit tests', bin('vitest'), [
      'run',
      // as the browser tests: what passes only then is named at the end
      '--retry=1',
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${join(results, 'unit.json')}`,
    ]),
  ]);
  const unit = unitCounts();
  console.log('\n== browser tests');
  const started = Date.now();
  const browser = runBrowserTests(join(results, 'e2e.json'));
  tell('browser tests', browser.failed === 0, started);
  // it is a fault of the test or of what it looks at, and is to be mended: `npm run soak -- tests` shows it
  for (const title of [...unitFailures(unit), ...browser.failedTitles]) console.log(`failed: ${title}`);
  for (const title of [...unitSecondTime(unit), ...browser.secondTime]) console.log(`only the second time: ${title}`);
  const failed = unit.numFailedTests + browser.failed;
  console.log(`\n${unit.numPassedTests + browser.passed} passed, ${failed} failed`);
} catch (error) {
  console.error(error.message);
  hasFailed = true;
}
process.exit(hasFailed ? 1 : 0);
