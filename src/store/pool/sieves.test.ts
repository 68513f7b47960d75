import { beforeEach, describe, expect, it } from 'vitest';
import { nextDaily } from '../../core/time/daily';
import { type Store, write } from '../base/database';
import { freshStore } from '../base/testing';
import { domainOfTest } from '../testing';
import {
  changeSieve,
  deleteSieve,
  dueSieves,
  endRun,
  freshIn,
  freshSieves,
  listSieves,
  markSeen,
  newHits,
  noteHits,
  readSieve,
  recallHits,
  saveSieve,
} from './sieves';

const DAY = 86_400_000;
let store: Store;
let ids: number[];
let sieve: number;

beforeEach(async () => {
  store = await freshStore();
  ids = ['tarnhives', 'wexcombe', 'ossenmere'].map((name) => domainOfTest(store, `${name}.org`).id);
  sieve = saveSieve(store, 'Old and clean', 'c=age:10..');
});

describe('a kept sieve', () => {
  it('is replaced by one of its name, whose schedule stays', () => {
    changeSieve(store, sieve, { runs: 'daily', runMinute: 90, inDigest: true, depth: 'links' });
    expect(saveSieve(store, 'Old and clean', 'c=age:20..')).toBe(sieve);
    expect(readSieve(store, sieve)).toMatchObject({ view: 'c=age:20..', runs: 'daily', runMinute: 90, inDigest: true });
    expect(changeSieve(store, 4711, { name: 'x' })).toBeNull();
  });

  it('runs by itself each day at its minute, and not before', () => {
    const changed = changeSieve(store, sieve, { runs: 'daily', runMinute: 90 });
    const at = changed?.nextAt ?? 0;
    expect(at % DAY).toBe(90 * 60_000);
    expect(dueSieves(store, at - 1)).toEqual([]);
    expect(dueSieves(store, at)).toEqual([sieve]);
    endRun(store, sieve, at, 40, 3);
    expect(readSieve(store, sieve)).toMatchObject({ lastAt: at, lastTotal: 40, lastNew: 3, nextAt: at + DAY });
    changeSieve(store, sieve, { runs: 'imports' });
    expect(readSieve(store, sieve)?.nextAt).toBeNull();
  });

  it('has its next time after now, whatever the hour', () => {
    const midnight = 20_000 * DAY;
    expect(nextDaily(60, midnight)).toBe(midnight + 3_600_000);
    expect(nextDaily(60, midnight + 3_600_000)).toBe(midnight + DAY + 3_600_000);
    expect(nextDaily(0, midnight)).toBe(midnight + DAY);
  });

  it('is new with what its later runs let through for the first time, until that was seen', () => {
    const at = store.now();
    expect(noteHits(store, sieve, [ids[0]], at, true)).toEqual([]);
    expect(noteHits(store, sieve, ids, at + 1, false)).toEqual(ids.slice(1));
    expect(noteHits(store, sieve, ids, at + 2, false)).toEqual([]);
    expect(freshIn(store, sieve)).toEqual(ids.slice(1));
    expect(newHits(store, sieve, at, 10).map(({ domainId }) => domainId)).toEqual(ids.slice(1));
    expect(newHits(store, sieve, at + 1, 10)).toEqual([]);
    expect(listSieves(store)[0].fresh).toBe(2);
    markSeen(store, sieve, [ids[1]]);
    expect(freshIn(store, sieve)).toEqual([ids[2]]);
    markSeen(store, sieve, null);
    expect(freshIn(store, sieve)).toEqual([]);
    // what was seen came new all the same
    expect(newHits(store, sieve, at, 10)).toHaveLength(2);
  });

  it('tells of each domain in which sieves it is new', () => {
    const other = saveSieve(store, 'Cheap', 'c=price:..10');
    noteHits(store, sieve, [ids[0], ids[1]], 1, false);
    noteHits(store, other, [ids[1]], 1, false);
    expect([...freshSieves(store, ids)].map(([id, of]) => [id, [...of].sort()]).sort()).toEqual([
      [ids[0], [sieve]],
      [ids[1], [sieve, other].sort()],
    ]);
  });

  it('forgets what it let through when its view changes, and knows it again when that comes back', () => {
    noteHits(store, sieve, ids, 1, false);
    endRun(store, sieve, 5, 3, 3);
    changeSieve(store, sieve, { view: 'c=age:20..' });
    expect(freshIn(store, sieve)).toEqual([]);
    expect(readSieve(store, sieve)).toMatchObject({ lastAt: null, lastTotal: null });
    noteHits(store, sieve, [ids[0]], 9, false);
    write(store, () => recallHits(store, sieve, 'c=age:10..'));
    expect(freshIn(store, sieve)).toEqual(ids);
    expect(newHits(store, sieve, 0, 10).every(({ at }) => at === 1)).toBe(true);
  });

  it('is deleted with what it let through; another under its name begins anew', () => {
    noteHits(store, sieve, ids, 1, false);
    expect(deleteSieve(store, sieve)).toMatchObject({ name: 'Old and clean' });
    expect(deleteSieve(store, sieve)).toBeNull();
    const again = saveSieve(store, 'Old and clean', 'c=age:10..');
    write(store, () => recallHits(store, again, 'c=age:10..'));
    expect(freshIn(store, again)).toEqual([]);
  });
});
