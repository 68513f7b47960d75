import { execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, symlinkSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { TrialReport } from '../src/core/crawl/trial-report';
import { runCrawl } from '../src/engine/jobs/crawl';
import { trial } from '../src/engine/jobs/testing';
import { runTrial } from '../src/engine/jobs/trial';
import { jobRows } from '../src/store/base/jobs';
import { changeSettings, readSettings } from '../src/store/base/settings';
import { freshStore } from '../src/store/base/testing';
import { countPages, pageTroubles } from '../src/store/crawl/crawl-report';

/**
 * Crawls a folder of HTML that nobody here wrote, served by Python's own web server, and compares the set of outside domains
 * with what `outside_domains.py` finds in the same files. Ends with 1 when they differ.
 *
 * Arguments: the folder, the page to start from, and paths that robots.txt forbids, with `*` and `$` as RFC 9309 has them. Before the crawl a
 * trial forecasts its outside domains.
 */
const [folder, start, ...forbidden] = process.argv.slice(2);
/** The same files, with a robots.txt of ours beside them. */
const served = mkdtempSync(join(tmpdir(), 'manual-'));
for (const name of readdirSync(folder)) symlinkSync(join(folder, name), join(served, name));
if (forbidden.length > 0)
  writeFileSync(
    join(served, 'robots.txt'),
    ['User-agent: *', ...forbidden.map((path) => `Disallow: ${path}`), ''].join('\n'),
  );

async function freePort(): Promise<number> {
  const probe = createServer();
  await new Promise<void>((done) => probe.listen(0, '127.0.0.1', done));
  const { port } = probe.address() as { port: number };
  await new Promise((done) => probe.close(done));
  return port;
}

const port = await freePort();
const server = spawn('python3', ['-m', 'http.server', String(port), '--bind', '127.0.0.1', '--directory', served], {
  stdio: 'ignore',
});
try {
  await sleep(1000);
  // real mode: no connector, and the one private address is allowed in the settings
  const store = await freshStore();
  changeSettings(store, { allowedPrivate: ['127.0.0.1/32'], crawlDelayMs: 0 });
  const seed = `http://127.0.0.1:${port}/${start}`;
  const tried = trial(store, 'trial', { seeds: [seed], delayMs: 0 });
  Object.assign(tried.context.settings, readSettings(store));
  await runTrial(tried.context);
  const [report] = jobRows(store, tried.context.job.id, TrialReport);
  const forecast = report?.forecasts[4];
  const run = trial(store, 'crawl', {
    seeds: [seed],
    depth: 20,
    pageBudget: 100_000,
    checkAfter: false,
    // manuals name hosts of their own that are not there
    retryMs: 20,
  });
  Object.assign(run.context.settings, readSettings(store));
  const began = performance.now();
  await runCrawl(run.context);
  const seconds = (performance.now() - began) / 1000;
  const ours = store.raw
    .prepare('SELECT d.name FROM sightings s JOIN domains d ON d.id = s.domain_id WHERE s.source_id = ? ORDER BY 1')
    .pluck()
    .all(run.sourceId) as string[];
  const files = (readdirSync(folder, { recursive: true }) as string[]).filter((name) => /\.html?$/.test(name));
  const theirs = execFileSync('python3', ['e2e/outside_domains.py'], {
    input: files.join('\n'),
    env: { ...process.env, FOLDER: folder, START: start, FORBIDDEN: forbidden.join('\n') },
    encoding: 'utf8',
    maxBuffer: 1 << 26,
  })
    .trim()
    .split('\n')
    .filter(Boolean);

  const missed = theirs.filter((name) => !ours.includes(name));
  const extra = ours.filter((name) => !theirs.includes(name));
  const counts = countPages(store, run.sourceId);
  console.log(
    `${folder}: ${counts.done} pages of ${files.length} files in ${seconds.toFixed(1)} s, ${counts.failed} failed, ${counts.skipped} skipped, ${counts.queued} left`,
  );
  for (const { note, pages, example } of pageTroubles(store, run.sourceId))
    console.log(`  ${pages} × ${note}: ${example}`);
  console.log(
    `  forecast for depth 4: ${forecast?.pages.low} to ${forecast?.pages.high} pages, ${forecast?.domains.low} to ${forecast?.domains.high} outside domains: ${forecast && ours.length >= forecast.domains.low && ours.length <= forecast.domains.high ? 'holds' : 'does not hold'}`,
  );
  console.log(
    `  ${ours.length} outside domains by the crawl, ${theirs.length} by Python; missed ${missed.join(' ') || 'none'}; extra ${extra.join(' ') || 'none'}`,
  );
  if (missed.length > 0 || extra.length > 0 || ours.length === 0 || counts.queued > 0) process.exitCode = 1;
  await store.close();
} finally {
  server.kill();
}
