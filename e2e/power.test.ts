import { execFileSync, spawn } from 'node:child_process';
import { cpSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeAll, expect, it } from 'vitest';
import { openStore } from '../src/store/base/database';
import { readSettings } from '../src/store/base/settings';
import { freshStore } from '../src/store/base/testing';

const ACTS = 60;
let library: string;
beforeAll(() => {
  library = join(mkdtempSync(join(tmpdir(), 'power-')), 'synced.so');
  execFileSync('cc', ['-shared', '-fPIC', '-O1', '-o', library, join(import.meta.dirname, 'power/synced.c'), '-ldl']);
});

/** Acts until so many are said to be done, cuts the power, and starts with what was synced. @returns what was said to be done, and what is there. */
async function cutAfter(acts: number, how: 'durable' | 'not') {
  const store = await freshStore();
  await store.close();
  const disk = mkdtempSync(join(tmpdir(), 'disk-'));
  cpSync(store.folder, disk, { recursive: true });
  const child = spawn(
    process.execPath,
    ['--import', 'tsx', join(import.meta.dirname, 'power/acts.ts'), store.folder, how],
    {
      env: { ...process.env, LD_PRELOAD: library, POWER_FROM: store.folder, POWER_TO: disk },
      stdio: ['ignore', 'pipe', 'inherit'],
    },
  );
  let said = '';
  await new Promise<void>((done) => {
    child.once('exit', () => done());
    child.stdout.on('data', (chunk) => {
      said += chunk;
      if (said.split('\n').length > acts) child.kill('SIGKILL');
    });
  });
  const after = await openStore(disk, { migrate: true });
  const states = new Map(after.raw.prepare('SELECT key, state FROM orders').raw().all() as [string, string][]);
  const posted = after.raw.prepare('SELECT count(DISTINCT order_id) FROM ledger').pluck().get() as number;
  const kept = new Set(after.raw.prepare("SELECT id FROM domains WHERE judged = 'keep'").pluck().all() as number[]);
  const key = Number(readSettings(after).accounts[0]?.key.slice(4) ?? -1);
  await after.close();
  const lines = said
    .split('\n')
    .slice(0, -1)
    .map((line) => line.split(' '));
  const missing = lines.filter(([kind, what]) => {
    if (kind === 'order') return !states.has(what);
    if (kind === 'won') return states.get(what) !== 'won';
    return kind === 'mark' ? !kept.has(Number(what)) : key < Number(what);
  });
  return { said: lines.length, missing, posted };
}

it('nothing that was said to be done is missing after a cut of the power', async () => {
  for (const acts of [7, ACTS]) {
    const { said, missing, posted } = await cutAfter(acts, 'durable');
    expect(said).toBeGreaterThanOrEqual(acts);
    expect(missing).toEqual([]);
    expect(posted).toBeGreaterThanOrEqual(Math.floor((acts + 2) / 4));
  }
});

it('a writer that need not be durable loses what it said: the cut is one', async () => {
  expect((await cutAfter(ACTS, 'not')).missing.length).toBeGreaterThan(ACTS / 2);
});
