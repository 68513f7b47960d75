import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { beforeEach, expect, it, vi } from 'vitest';
import type { Store } from '../../store/base/database';
import type { JobOrder } from '../../store/base/jobs';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { DailyCopies } from './daily-copies';

const DAY = 86_400_000;
let store: Store;
let ordered: JobOrder[];
beforeEach(async () => {
  store = await freshStore();
  ordered = [];
});
const copies = (isBusy = false) =>
  new DailyCopies(store, { addOnce: (order) => void ordered.push(order), isBusyWith: () => isBusy });
const made = (at: number) =>
  mkdirSync(join(store.folder, 'backups', `${new Date(at).toISOString().slice(0, 19).replace(/[:T]/g, '-')}-daily`), {
    recursive: true,
  });

it('a copy is ordered a day after the folder was made, and a day after the last', () => {
  const now = Date.now();
  copies().turn(now);
  expect(ordered).toEqual([]);
  copies().turn(now + DAY + 1000);
  expect(ordered).toMatchObject([{ kind: 'backup', params: { isDaily: true } }]);
  made(now + DAY);
  made(now - 30 * DAY);
  copies().turn(now + DAY + 60_000);
  expect(ordered).toHaveLength(1);
  copies().turn(now + 2 * DAY + 1000);
  expect(ordered).toHaveLength(2);
  // a clock that went back by days does not put it off until it has come up again
  copies().turn(now - 3 * DAY);
  expect(ordered).toHaveLength(3);
});

it('one that looks all the time sees a clock that went back', () => {
  const one = copies();
  const later = Date.now() + 2 * DAY;
  vi.spyOn(performance, 'now').mockReturnValueOnce(100_000).mockReturnValueOnce(100_000);
  one.turn(later);
  expect(ordered).toHaveLength(1);
  made(later);
  vi.spyOn(performance, 'now').mockReturnValue(100_000 + 61_000);
  one.turn(later - 5 * DAY);
  expect(ordered).toHaveLength(2);
  vi.restoreAllMocks();
});

it('none is where one is under way, where none is wanted, and more than once a minute', () => {
  const later = Date.now() + 2 * DAY;
  copies(true).turn(later);
  expect(ordered).toEqual([]);
  const one = copies();
  one.turn(later);
  one.turn(later + 1000);
  expect(ordered).toHaveLength(1);
  changeSettings(store, { copiesKept: 0 });
  copies().turn(later);
  expect(ordered).toHaveLength(1);
});
