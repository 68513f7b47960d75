// `npm run soak -- day`: 24 hours of use in one (DAY_MINUTES), by the demo's clock, which is moved along, and a driver that does what people
// do: sift, look, mark, shortlist, paste names, import lists and take them back, export. After the first quarter no process may grow by more
// than a tenth, and nothing that was asked may fail.
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { familyOf } from './kills/family';
import { Product } from './product';
import { copyState, prepareStates } from './states';
import { CASINO, CLUB, SHOP } from './stories';

const MINUTES = Number(process.env.DAY_MINUTES ?? 60);
const PORT = 4396;
const DAY_MS = 24 * 3_600_000;
const LOOK_MS = 10_000;
const PAUSE_MS = 150;
const MOST_GROWTH = 0.1;
/** What a garbage collector may leave lying, whatever the size of its process. */
const SLACK_MB = 24;
const LIST_ROWS = 300;

const PAGES = ['/', '/pool', '/shortlist', '/orders', '/deadlines', '/check', '/measures', '/sources', '/holdings', '/learning', '/briefs', '/settings', '/setup', `/domains/${CLUB}`, `/domains/${CASINO}`, `/compare?name=${CLUB}&name=${SHOP}`]; // biome-ignore format: a list
const FACTS = ['strength', 'referringDomains', 'length', 'spamRisk', 'age'];

/** Memory of a process that is its own, MB; null: it has ended. */
function memoryOf(pid: number): number | null {
  try {
    const found = /^RssAnon:\s+(\d+) kB/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
    return found ? Number(found[1]) / 1024 : null;
  } catch {
    return null;
  }
}

function wordsOf(pid: number): string {
  const line = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0').filter(Boolean);
  return line.slice(1).find((part) => /\.(mjs|js|cjs)$|next/.test(part)) ?? line.join(' ');
}

let done = 0;
const failures: string[] = [];

/** Does something, and notes what it said when it failed. */
async function tried(what: string, act: () => Promise<unknown>): Promise<void> {
  try {
    await act();
    done++;
  } catch (error) {
    failures.push(`${what}: ${(error as Error).message.slice(0, 200)}`);
  }
}

const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-day-'));
await prepareStates(console.log);
copyState('told', folder);
const product = await Product.start(folder, PORT);
const page = async (path: string) => {
  const answer = await fetch(`${product.url}${path}`);
  const text = await answer.text();
  if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
  return text;
};
const any = <T>(of: readonly T[]): T => of[Math.floor(Math.random() * of.length)];
const queryOf = () => {
  const fact = any(FACTS);
  return {
    parts: [{ type: 'range', fact, min: Math.floor(Math.random() * 10), max: null, keepUnknown: false }],
    sorts: [{ fact: any(FACTS), descending: Math.random() < 0.5 }],
    offset: Math.floor(Math.random() * 200),
    limit: 100,
  };
};
const rowsOf = async () =>
  ((await product.post('/pool/query', queryOf())) as { rows: { id: number; name: string }[] }).rows;

let lists = 0;
const ACTS: Record<string, () => Promise<unknown>> = {
  'a page': () => page(any(PAGES)),
  'a query': rowsOf,
  'a dossier': async () => {
    const row = any(await rowsOf());
    if (row) await page(`/domains/${row.name}`);
  },
  'a dossier of the interface': async () => {
    const row = any(await rowsOf());
    if (row) await product.call(`/domains/${row.name}`);
  },
  'a mark': async () => {
    const row = any(await rowsOf());
    if (!row) return;
    const act = { kind: 'judge', judged: 'pass', reason: 'off subject' };
    const { action } = (await product.post('/actions', { act, which: { ids: [row.id] } })) as { action: number | null };
    if (action !== null) await product.post(`/actions/${action}/undo`, {});
  },
  'a shortlist': async () => {
    const { briefs } = (await product.call('/briefs')) as { briefs: { id: number }[] };
    const rows = (await rowsOf()).slice(0, 3).map(({ name }) => name);
    if (rows.length === 0) return;
    await product.post('/shortlist', { briefId: briefs[0].id, names: rows });
    for (const name of rows) await product.call(`/shortlist/${name}?brief=${briefs[0].id}`, { method: 'DELETE' });
  },
  'a paste': async () => {
    const rows = (await rowsOf()).slice(0, 4).map(({ name }) => name);
    if (rows.length > 0) await product.post('/batches', { text: rows.join(' '), freshMinutes: 0 });
  },
  'a list': async () => {
    const n = lists++;
    const text = Array.from({ length: LIST_ROWS }, (_, row) => `umberlist${n}x${row}.org`).join('\n');
    const { source } = await product.send(`/sources/lists?name=List+${n}`, text);
    for (let tries = 0; tries < 200; tries++) {
      const { jobs } = (await product.call('/jobs')) as { jobs: { sourceId: number | null; state: string }[] };
      if (jobs.every(({ sourceId, state }) => sourceId !== source.id || state === 'done')) break;
      await sleep(100);
    }
    await product.post(`/sources/${source.id}/undo`, {});
  },
  'a file': () => page(`/api/v1/export?${new URLSearchParams({ what: 'pool', format: 'csv', c: 'strength:8..' })}`),
};
const OFTEN = ['a page', 'a query', 'a query', 'a dossier', 'a dossier of the interface', 'a page', 'a mark', 'a shortlist', 'a query', 'a page', 'a dossier', 'a query', 'a paste', 'a query', 'a page', 'a list', 'a file']; // biome-ignore format: a list

const samples = new Map<number, { at: number; mb: number }[]>();
const started = performance.now();
const end = started + MINUTES * 60_000;
let looked = 0;
let moved = 0;
for (let n = 0; performance.now() < end; n++) {
  const now = performance.now();
  if (now - looked > LOOK_MS) {
    looked = now;
    for (const pid of familyOf(product.pid)) {
      const mb = memoryOf(pid);
      if (mb !== null) samples.set(pid, [...(samples.get(pid) ?? []), { at: now - started, mb }]);
    }
    // the world goes on as far as the day has
    const due = Math.round(((now - started) / (end - started)) * DAY_MS - moved);
    moved += due;
    if (due > 0) await tried('the clock', () => product.post('/clock', { forwardMs: due }));
  }
  const what = OFTEN[n % OFTEN.length];
  await tried(what, ACTS[what]);
  await sleep(PAUSE_MS);
}

const whole = performance.now() - started;
const mean = (of: { mb: number }[]) => of.reduce((sum, { mb }) => sum + mb, 0) / of.length;
let hasGrown = false;
console.log(`${done} things done in ${Math.round(whole / 60_000)} minutes, ${failures.length} failed`);
for (const [pid, seen] of samples) {
  const second = seen.filter(({ at }) => at > whole * 0.25 && at < whole * 0.4);
  const last = seen.filter(({ at }) => at > whole * 0.85);
  // what came later or has ended says nothing
  if (second.length === 0 || last.length === 0) continue;
  const [before, after] = [mean(second), mean(last)];
  const isTooMuch = after > before * (1 + MOST_GROWTH) && after - before > SLACK_MB;
  hasGrown ||= isTooMuch;
  console.log(
    `  ${wordsOf(pid)}: ${before.toFixed(0)} MB after the first quarter, ${after.toFixed(0)} MB at the end${isTooMuch ? ': TOO MUCH' : ''}`,
  );
}
for (const failure of [...new Set(failures)].slice(0, 20)) console.error(failure);
await product.stop();
rmSync(folder, { recursive: true, force: true });
process.exit(hasGrown || failures.length > 0 ? 1 : 0);
