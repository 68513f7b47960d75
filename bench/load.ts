import { createReadStream, createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { RowField } from '../src/core/pool/row-columns';
import { openStore } from '../src/store/base/database';
import { measureSome } from './dossier';
import { type Bench, IS_SMALL, numbers, percentile, round, sized } from './figure';
import { forget, largePool, type Product, startProduct, untilQuiet } from './large-pool';
import { listText } from './list-import';

const READERS = sized('BENCH_READERS', 50, 4);
const SECONDS = sized('BENCH_LOAD_SECONDS', 60, 2);
/** Names that are asked for, all different. */
const NAMES = sized('BENCH_LOAD_NAMES', 5000, 50);
/** A reader who reads asks so often. */
const EVERY_MS = sized('BENCH_LOAD_EVERY_MS', 2000, 200);
const ONE_AFTER_ANOTHER = IS_SMALL ? 3 : 60;

type Kind = 'query' | 'dossier' | 'page';
/** Of ten questions: what a person asks who sifts, looks at names and opens some. */
const MIX: Kind[] = ['query', 'dossier', 'query', 'page', 'query', 'dossier', 'query', 'dossier', 'query', 'page'];

/** Answers in ms by what was asked; `lost` were refused or broken off. */
interface Answers {
  took: Record<Kind, number[]>;
  lost: string[];
  seconds: number;
}

/** Many readers at once, of a pool of millions: how long they wait, alone and beside an import of millions of rows. */
export const load: Bench = async (log) => {
  log('filling the database');
  const folder = await largePool();
  const lists = mkdtempSync(join(tmpdir(), 'bench-load-'));
  try {
    const store = await openStore(folder, { migrate: true });
    measureSome(store);
    const names = store.raw
      .prepare('SELECT name FROM domains WHERE id % max(1, (SELECT max(id) FROM domains) / ?) = 0 LIMIT ?')
      .pluck()
      .all(NAMES, NAMES) as string[];
    await store.close();
    log('writing a list');
    const list = join(lists, 'list.csv');
    await pipeline(Readable.from(listText()), createWriteStream(list));
    log('starting the product');
    const product = await startProduct(folder);
    try {
      await untilQuiet(folder);
      log('one after another');
      const rows = await alone(() => columns(product, 0));
      const pool = await alone(() => read(product, '/pool'));
      const empty: Record<string, number> = {};
      for (const page of ['/deadlines', '/learning', '/measures'])
        empty[page] = (await alone(() => read(product, page))).ms;
      const emptiest = Math.max(...Object.values(empty));
      const worst = Object.keys(empty).find((page) => empty[page] === emptiest);
      log(`${READERS} readers who never pause`);
      const busy = await readers(product, names, 0);
      log(`${READERS} readers, each every ${EVERY_MS / 1000} s`);
      const calm = await readers(product, names, EVERY_MS);
      log('the same beside an import');
      const imported = importOf(product, list);
      const beside = await readers(product, names, EVERY_MS);
      const isStillImporting = await imported.stop();
      const p99 = (answers: Answers, kind: Kind) => percentile(answers.took[kind], 0.99);
      const rate = Object.values(busy.took).flat().length / busy.seconds;
      const waited = (kind: Kind, goal: number) => ({
        name: `load-${kind}`,
        value: round(p99(beside, kind)),
        unit: `ms p99 of ${beside.took[kind].length}, beside an import${isStillImporting ? '' : ' that ended before'}`,
        baseline: round(p99(calm, kind)),
        ratio: round(p99(calm, kind) / p99(beside, kind), 2),
        goal: `at most ${goal} ms; baseline: without the import`,
        met: p99(beside, kind) <= goal,
      });
      const lost = [...busy.lost, ...calm.lost, ...beside.lost];
      for (const words of new Set(lost)) log(`lost: ${words}`);
      return [
        { name: 'load-rows', value: round(rows.ms), unit: 'ms, 200 rows of the pool', baseline: null, ratio: null, goal: 'at most 20 ms', met: rows.ms <= 20 },
        { name: 'load-rows-kb', value: round(rows.kb), unit: 'KB, the same', baseline: null, ratio: null, goal: 'at most 60 KB', met: rows.kb <= 60 },
        { name: 'load-pool', value: round(pool.ms), unit: 'ms, the page of the pool', baseline: null, ratio: null, goal: 'at most 60 ms', met: pool.ms <= 60 },
        { name: 'load-pool-kb', value: round(pool.kb), unit: 'KB, the same', baseline: null, ratio: null, goal: 'at most 150 KB', met: pool.kb <= 150 },
        { name: 'load-empty', value: round(emptiest), unit: `ms, the slowest page with nearly nothing on it (${worst})`, baseline: null, ratio: null, goal: 'at most 40 ms', met: emptiest <= 40 },
        { name: 'load-rate', value: round(rate), unit: `answers/s to ${READERS} readers who never pause`, baseline: null, ratio: null, goal: 'at least 200', met: rate >= 200 },
        waited('query', 300),
        waited('dossier', 400),
        waited('page', 800),
        { name: 'load-lost', value: lost.length, unit: 'answers lost', baseline: null, ratio: null, goal: 'none lost', met: lost.length === 0 },
      ]; // biome-ignore format: a figure a line
    } finally {
      await product.stop();
    }
  } finally {
    forget(folder);
    rmSync(lists, { recursive: true, force: true });
  }
};

/** What the grid draws as it opens. */
const FIELDS: RowField[] = [
  'display', 'phase', 'phaseAt', 'phaseReason', 'phaseSource', 'isUnasked', 'linksAt', 'pastAt', 'pastSource', 'judged', 'shortlisted',
  'watched', 'matches', 'freshIn', 'isOwn', 'dropAt', 'window', 'expiresAt', 'firstSeenAt', 'captures', 'capturesByYear', 'registeredAt',
  'referringDomains', 'backlinks', 'strength', 'trust', 'spamRisk', 'listing', 'venue', 'priceMinor', 'currency', 'homeMinor',
  'homeCurrency', 'offers', 'bids', 'listingAt', 'closingAt',
]; // biome-ignore format: a list of names
const SORTS = ['strength', 'trust', 'referringDomains', 'backlinks', 'length'] as const;

/** 200 rows, as the grid asks for them; each number another sieve or place. */
function columns(product: Product, n: number): Promise<number> {
  const body = {
    parts: [{ type: 'range', fact: 'length', min: null, max: 12 + (n % 20) }],
    sorts: [{ fact: SORTS[n % SORTS.length], descending: true }],
    offset: 200 * (n % 7),
    limit: 200,
    fields: FIELDS,
  };
  const headers = { 'content-type': 'application/json' };
  return read(product, '/api/v1/pool/columns', { method: 'POST', headers, body: JSON.stringify(body) });
}

/** @returns bytes of the answer. @throws Error when there is none. */
async function read({ url, headers }: Product, path: string, request: RequestInit = {}): Promise<number> {
  const answer = await fetch(url + path, { ...request, headers: { ...headers, ...request.headers } });
  const bytes = (await answer.arrayBuffer()).byteLength;
  if (!answer.ok) throw new Error(`${path.split('/').slice(0, 4).join('/')} answered ${answer.status}`);
  return bytes;
}

/** Half of the answers are quicker, with their size. */
async function alone(ask: () => Promise<number>): Promise<{ ms: number; kb: number }> {
  const took: number[] = [];
  let bytes = 0;
  for (let n = -10; n < ONE_AFTER_ANOTHER; n++) {
    const started = performance.now();
    bytes = await ask();
    if (n >= 0) took.push(performance.now() - started);
  }
  return { ms: percentile(took, 0.5), kb: bytes / 1024 };
}

async function readers(product: Product, names: string[], everyMs: number): Promise<Answers> {
  const took: Answers['took'] = { query: [], dossier: [], page: [] };
  const lost: string[] = [];
  const random = numbers(5);
  const started = performance.now();
  const until = started + SECONDS * 1000;
  let asked = 0;
  const ask = async () => {
    const n = asked++;
    const kind = MIX[n % MIX.length];
    const name = names[(n * 7) % names.length];
    const since = performance.now();
    try {
      if (kind === 'query') await columns(product, n);
      else await read(product, kind === 'dossier' ? `/api/v1/domains/${name}` : `/domains/${name}`);
      took[kind].push(performance.now() - since);
    } catch (error) {
      lost.push((error as Error).message);
    }
  };
  const reader = async () => {
    await pause(random() * everyMs);
    while (performance.now() < until) {
      const since = performance.now();
      await ask();
      if (everyMs > 0) await pause(everyMs - (performance.now() - since));
    }
  };
  await Promise.all(Array.from({ length: READERS }, reader));
  return { took, lost, seconds: (performance.now() - started) / 1000 };
}

const pause = (ms: number) => new Promise((done) => setTimeout(done, Math.max(0, ms)));

/** Sends a list and lets it be imported. @returns how to end it, which says whether it was still under way. */
function importOf({ url, headers }: Product, path: string): { stop(): Promise<boolean> } {
  const sent = fetch(`${url}/api/v1/sources/lists?name=A+very+long+list`, {
    method: 'POST',
    headers: { ...headers, 'content-type': 'text/csv', 'content-length': String(statSync(path).size) },
    body: Readable.toWeb(createReadStream(path)) as ReadableStream,
    duplex: 'half',
  } as RequestInit);
  return {
    stop: async () => {
      const answer = await sent;
      if (!answer.ok) throw new Error(`the list was not taken: ${(await answer.text()).slice(0, 200)}`);
      const { job } = (await answer.json()) as { job: { id: number } };
      const { state } = (await (await fetch(`${url}/api/v1/jobs/${job.id}`, { headers })).json()) as { state: string };
      return state === 'running' || state === 'waiting';
    },
  };
}
