import { statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { logPages, moveLog, write } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { addSource } from '../../store/sources/sources';
import { Checkpointer } from '../database/checkpointer';
import { letOthersGo } from './context';

it('long work pauses between two transactions only when somebody wants to write, and not for ever', async () => {
  const store = await freshStore();
  const paused = async () => {
    const started = performance.now();
    await letOthersGo(store);
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
  const checkpointer = new Checkpointer(store, 2000);
  fill(500);
  checkpointer.look();
  expect(logPages(store)).toBeGreaterThan(500);
  fill(2000);
  const before = logPages(store);
  expect(before).toBeGreaterThan(2000);
  checkpointer.look();
  fill(10);
  await checkpointer.end();
  expect(logPages(store)).toBeLessThan(before / 10);
  // and once more after its end
  fill(2500);
  checkpointer.look();
  await checkpointer.end();
  expect(logPages(store)).toBe(0);
  await store.close();
}, 30_000);

it('an import goes on when the thread that moves its log cannot run', async () => {
  const store = await freshStore();
  addSource(store, 'list', 'one', {});
  // a folder that is none: the thread ends with an error
  const checkpointer = new Checkpointer({ ...store, folder: '/dev/null/none' }, 0);
  checkpointer.look();
  await checkpointer.end();
  checkpointer.look();
  await checkpointer.end();
  await store.close();
}, 20_000);

it('a log that has grown gives its room back once it is moved', async () => {
  const store = await freshStore();
  store.raw.pragma('wal_autocheckpoint = 0');
  const size = () => statSync(join(store.folder, 'jam-ladle.sqlite-wal')).size;
  write(store, () => {
    for (let i = 0; i < 20_000; i++) addSource(store, 'list', 'x'.repeat(4000), {});
  });
  expect(size()).toBeGreaterThan(70 * 2 ** 20);
  moveLog(store);
  addSource(store, 'list', 'the next', {});
  expect(size()).toBeLessThanOrEqual(64 * 2 ** 20);
  await store.close();
}, 30_000);
