// `npm run soak -- tests`: the browser tests ten times, in two orders, with a core kept busy beside them. What was run of this build
// is remembered, so that a run that was stopped is taken up again.
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { runBrowserTests } from './browser-tests.mjs';
import { build, ensureTools, install, ROOT } from './prepare.mjs';

const RUNS = 10;
const record = join(ROOT, 'dist/soak/tests.json');

/** Runs what is left of the ten. @returns whether none failed, at its first try. */
export function soakTests() {
  install();
  ensureTools();
  build();
  const built = readFileSync(join(ROOT, 'dist/.jam-ladle-built'), 'utf8');
  const runs = runsOf(built);
  mkdirSync(dirname(record), { recursive: true });
  while (runs.length < RUNS) {
    const n = runs.length + 1;
    const order = n % 2 === 0 ? 'reversed' : 'usual';
    console.log(`\n== run ${n} of ${RUNS}, in the ${order} order, with a busy core`);
    const started = Date.now();
    const busy = new Worker('for (;;) Math.random();', { eval: true });
    const report = join(ROOT, `test-results/soak-${n}.json`);
    rmSync(report, { force: true });
    const { passed, failed, failedTitles } = runBrowserTests(report, {
      E2E_ORDER: order,
      E2E_RETRIES: '0',
      E2E_LONG: '1',
    });
    void busy.terminate();
    const seconds = Math.round((Date.now() - started) / 1000);
    runs.push({ n, order, passed, failed, failedTitles, seconds });
    writeFileSync(record, JSON.stringify({ built, runs }, null, 2));
    console.log(`== run ${n}: ${passed} passed, ${failed} failed, ${seconds} s`);
  }
  for (const { n, order, passed, failed, failedTitles, seconds } of runs)
    console.log(
      `run ${n}, ${order}: ${passed} passed, ${failed} failed, ${seconds} s${failedTitles.map((title) => `\n  ${title}`).join('')}`,
    );
  const failed = runs.filter((run) => run.failed > 0).length;
  console.log(`${RUNS - failed} of ${RUNS} runs without a failure`);
  if (failed > 0)
    console.log('Those that failed are run again after the next change; rm dist/soak/tests.json begins anew.');
  return failed === 0;
}

/** Runs of this very build; those of another say nothing. */
function runsOf(built) {
  try {
    const kept = JSON.parse(readFileSync(record, 'utf8'));
    return kept.built === built ? kept.runs : [];
  } catch {
    return [];
  }
}
