import { execFileSync, spawn } from 'node:child_process';
import { createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import pino from 'pino';
import { PoolHost } from '../src/engine/pool/host';
import { JobRunner } from '../src/engine/runner/runner';
import type { JobRow } from '../src/store/base/jobs';
import { freshStore } from '../src/store/base/testing';
import { addSource, readSource } from '../src/store/sources/sources';
import { type Bench, numbers, round, sized } from './figure';

const ROWS = sized('BENCH_LIST_ROWS', 3_000_000, 40_000);
const COLUMNS = [
  'domain',
  'phase',
  'drop-date',
  'registered',
  'backlinks',
  'referring-domains',
  'price',
  'currency',
  'bids',
  'kind',
  'venue',
  'ignore',
];

/** A list of so many rows and twelve columns, in parts. */
export function* listText(): Generator<string> {
  const random = numbers(9);
  yield 'Domain,Status,Drop date,Registered,Backlinks,Ref domains,Price,Currency,Bids,Type,Venue,Remark\n';
  let text = '';
  for (let i = 0; i < ROWS; i++) {
    const day = 10 + Math.floor(random() * 18);
    const links = Math.floor(1 / (1 - random()));
    text += `vale${Math.floor(random() * 1e4)}hive${i.toString(36)}.org,pending delete,2026-11-${day},20${10 + (i % 10)}-05-${day},${links * 2},${links},${12 + (i % 90)},EUR,${i % 7},auction,Saltmarch Exchange,"no, remark"\n`;
    if (text.length > 1 << 18) {
      yield text;
      text = '';
    }
  }
  yield text;
}

/** A list of 3,000,000 rows and 12 columns into database and index, against `sqlite3 .import` of the same file. */
export const listImport: Bench = async (log) => {
  log(`writing a list of ${ROWS.toLocaleString('en')} rows`);
  const folder = mkdtempSync(join(tmpdir(), 'bench-list-'));
  const path = join(folder, 'list.csv');
  await pipeline(Readable.from(listText()), createWriteStream(path));

  const store = await freshStore();
  const pool = new PoolHost(store);
  // as the engine runs it: the import in a worker thread, the index here
  const runner = new JobRunner(store, pino({ level: 'silent' }));
  runner.on('added', ({ batch, ids, isNew, source }) => pool.add(batch, ids, isNew, source));
  const sourceId = addSource(store, 'list', 'bench', {});
  let memory = 0;
  const watch = setInterval(() => {
    memory = Math.max(memory, process.memoryUsage().rss);
  }, 50);
  const web = watchDelay(store.folder);
  await web.ready;
  const started = performance.now();
  const ended = new Promise<JobRow>((resolve) => {
    runner.on('job', (job) => ['done', 'failed'].includes(job.state) && resolve(job));
  });
  runner.add({ kind: 'list', sourceId, params: { path, delimiter: ',', hasHeader: true, columns: COLUMNS } });
  const job = await ended;
  const seconds = (performance.now() - started) / 1000;
  clearInterval(watch);
  const delay = await web.end();
  const source = readSource(store, sourceId);
  if (source?.rows_taken !== ROWS || pool.size !== ROWS)
    throw new Error(
      `only ${source?.rows_taken} rows were taken, ${pool.size} are in the index (${job.error ?? job.state})`,
    );
  await store.close();

  log('the same by sqlite3 .import');
  const baseStarted = performance.now();
  execFileSync('sqlite3', [join(folder, 'base.sqlite'), '.mode csv', `.import ${path} list`]);
  const base = (performance.now() - baseStarted) / 1000;
  rmSync(folder, { recursive: true });
  rmSync(store.folder, { recursive: true });
  const rate = ROWS / seconds;
  return [
    { name: 'list-import', value: Math.round(rate), unit: 'rows/s', baseline: Math.round(ROWS / base), ratio: round(base / seconds, 2), goal: 'at least 120,000 rows/s, at most 2.5 times the time of .import', met: rate >= 120_000 && seconds <= 2.5 * base },
    { name: 'list-import-delay', value: round(delay, 1), unit: 'ms p99, event loop of a process that reads ten times and writes twice a second meanwhile', baseline: null, ratio: null, goal: 'under 50 ms', met: delay < 50 },
    { name: 'list-import-memory', value: Math.round(memory / 2 ** 20), unit: 'MB', baseline: null, ratio: null, goal: 'under 1,024 MB', met: memory < 2 ** 30 },
  ]; // biome-ignore format: a figure a line
};

/** A process that does what the interface does meanwhile: looks at the sources and a page of domains ten times a second, and writes twice, as a person who marks. */
function watchDelay(folder: string): { ready: Promise<void>; end(): Promise<number> } {
  const child = spawn(process.execPath, ['--import', 'tsx', 'bench/reader.ts', folder], {
    stdio: ['pipe', 'pipe', 'inherit'],
  });
  const lines: string[] = [];
  const ready = new Promise<void>((resolve) => child.stdout.once('data', () => resolve()));
  child.stdout.on('data', (chunk) => lines.push(String(chunk)));
  return {
    ready,
    async end() {
      child.stdin.end();
      await new Promise((resolve) => child.once('exit', resolve));
      return Number(lines.join('').trim().split('\n').at(-1));
    },
  };
}
