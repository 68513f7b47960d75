import { execFileSync, spawn } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { runCrawl } from '../src/engine/jobs/crawl';
import { freshStore, trial } from '../src/engine/jobs/testing';
import { countPages, pageTroubles } from '../src/store/crawl';
import { changeSettings, readSettings } from '../src/store/database';

/**
 * Crawls a folder of HTML that nobody here wrote, served by Python's own web server, and compares the set of outside domains
 * with what `outside_domains.py` finds in the same files. Ends with 1 when they differ.
 *
 * Arguments: the folder, and the page to start from.
 */
const [folder, start] = process.argv.slice(2);

async function freePort(): Promise<number> {
  const probe = createServer();
  await new Promise<void>((done) => probe.listen(0, '127.0.0.1', done));
  const { port } = probe.address() as { port: number };
  await new Promise((done) => probe.close(done));
  return port;
}

const port = await freePort();
const server = spawn('python3', ['-m', 'http.server', String(port), '--bind', '127.0.0.1', '--directory', folder], {
  stdio: 'ignore',
});
try {
  await sleep(1000);
  // real mode: no connector, and the one private address is allowed in the settings
  const store = await freshStore();
  changeSettings(store, { allowedPrivate: ['127.0.0.1/32'], crawlDelayMs: 0 });
  const run = trial(store, 'crawl', {
    seeds: [`http://127.0.0.1:${port}/${start}`],
    depth: 4,
    pageBudget: 100_000,
    checkAfter: false,
  });
  Object.assign(run.context.settings, readSettings(store));
  const began = performance.now();
  await runCrawl(run.context);
  const seconds = (performance.now() - began) / 1000;
  const ours = store.raw
    .prepare('SELECT d.name FROM sightings s JOIN domains d ON d.id = s.domain_id WHERE s.source_id = ? ORDER BY 1')
    .pluck()
    .all(run.sourceId) as string[];
  const files = (readdirSync(folder, { recursive: true }) as string[])
    .filter((name) => name.endsWith('.html'))
    .map((name) => join(folder, name));
  const theirs = execFileSync('python3', ['e2e/outside_domains.py'], {
    input: files.join('\n'),
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
    `  ${ours.length} outside domains by the crawl, ${theirs.length} by Python; missed ${missed.join(' ') || 'none'}; extra ${extra.join(' ') || 'none'}`,
  );
  if (missed.length > 0 || extra.length > 0 || ours.length === 0 || counts.queued > 0) process.exitCode = 1;
  await store.close();
} finally {
  server.kill();
}
