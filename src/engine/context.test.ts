import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { logPages, write } from '../store/database';
import { addSource } from '../store/sources';
import { letOthersWrite } from './context';
import { freshStore } from './jobs/testing';
import { LogMover } from './log-mover';

it('long work pauses between two transactions only when somebody wants to write, and not for ever', async () => {
  const store = await freshStore();
  const paused = async () => {
    const started = performance.now();
    await letOthersWrite(store);
    return performance.now() - started;
  };
  const least = Math.min(await paused(), await paused(), await paused());
  expect(least).toBeLessThan(3);
  writeFileSync(join(store.folder, 'write-wanted'), '');
  const wanted = await paused();
  expect(wanted).toBeGreaterThan(15);
  expect(wanted).toBeLessThan(900);
  await store.close();
});

it('the log of an import is moved into the database while the import writes', async () => {
  const store = await freshStore();
  store.raw.pragma('wal_autocheckpoint = 0');
  const fill = (times: number) =>
    write(store, () => {
      for (let i = 0; i < times; i++) addSource(store, 'list', 'x'.repeat(4000), {});
    });
  const mover = new LogMover(store, 2000);
  fill(500);
  mover.look();
  expect(logPages(store)).toBeGreaterThan(500);
  fill(2000);
  const before = logPages(store);
  expect(before).toBeGreaterThan(2000);
  mover.look();
  fill(10);
  await mover.end();
  expect(logPages(store)).toBeLessThan(before / 10);
  // and once more after its end
  fill(2500);
  mover.look();
  await mover.end();
  expect(logPages(store)).toBe(0);
  await store.close();
}, 30_000);
