import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { nextDaily } from '../../core/time/daily';
import { type Store, write } from '../base/database';
import {
  addJob,
  checkAndMeasure,
  jobRows,
  jobsOfSource,
  listJobs,
  putJobRow,
  queuedJobs,
  readJob,
  requeueInterrupted,
  saveCheckpoint,
  saveProgress,
  setJobParams,
  setJobState,
} from '../base/jobs';
import { freshStore } from '../base/testing';
import { putDomain } from '../domains/domains';
import { keepWords, lastVisit, noteVisit, readWords } from '../domains/marks';
import {
  changeSieve,
  deleteSieve,
  dueSieves,
  endRun,
  freshSieves,
  listSieves,
  markSeen,
  newHits,
  noteHits,
  readSieve,
  saveSieve,
} from '../pool/sieves';
import { ensureBrief, listBriefs } from '../shortlist/briefs';
import {
  addToShortlist,
  changeShortlist,
  readShortlist,
  shortlistedFor,
  shortlistIds,
  takeOffShortlist,
} from '../shortlist/shortlist';
import { addSource } from './sources';
import {
  addWatch,
  changeWatch,
  dropWatch,
  dueWatches,
  type NewWatch,
  noteLook,
  putWatchedFile,
  readWatch,
  watchedFiles,
  watchOfSource,
} from './watches';

const MINUTE = 60_000;
const DAY = 86_400_000;
let store: Store;
let ids: number[];

beforeEach(async () => {
  store = await freshStore();
  ids = write(store, () =>
    ['combs', 'skeps', 'hives', 'mead'].map(
      (label) => putDomain(store, { name: `umberley${label}.org`, ending: 'org' }, true, 1).id,
    ),
  );
});

describe('kept sieves', () => {
  it('run next at their minute of the day, after now and within a day', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1439 }), fc.integer({ min: 0, max: 4e12 }), (minute, now) => {
        const next = nextDaily(minute, now);
        expect(next).toBeGreaterThan(now);
        expect(next - now).toBeLessThanOrEqual(DAY);
        expect((next % DAY) / MINUTE).toBe(minute);
      }),
    );
  });

  it('keep their schedule when they are saved once more under their name', () => {
    const id = saveSieve(store, 'Bees', 'c=name:bee');
    changeSieve(store, id, { runs: 'daily', runMinute: 61, depth: 'everything', inDigest: true });
    expect(saveSieve(store, 'Bees', 'c=name:hive')).toBe(id);
    expect(readSieve(store, id)).toMatchObject({
      view: 'c=name:hive',
      runs: 'daily',
      runMinute: 61,
      depth: 'everything',
      inDigest: true,
    });
    expect(listSieves(store)).toHaveLength(1);
    expect(dueSieves(store, store.now())).toEqual([]);
    expect(dueSieves(store, store.now() + DAY)).toEqual([id]);
    changeSieve(store, id, { runs: 'off' });
    expect(dueSieves(store, store.now() + DAY)).toEqual([]);
  });

  it('call new only what the first run did not find, until it was seen', () => {
    const id = saveSieve(store, 'Bees', 'c=name:bee');
    expect(noteHits(store, id, ids.slice(0, 2), 10, true)).toEqual([]);
    expect(noteHits(store, id, ids, 20, false)).toEqual(ids.slice(2));
    expect(noteHits(store, id, ids, 30, false)).toEqual([]);
    endRun(store, id, 30, 4, 0);
    expect(readSieve(store, id)).toMatchObject({ fresh: 2, lastTotal: 4, lastNew: 0, lastAt: 30 });
    expect(freshSieves(store, ids)).toEqual(new Map(ids.slice(2).map((domain) => [domain, [id]])));
    expect(newHits(store, id, 15, 10).map(({ domainId }) => domainId)).toEqual(ids.slice(2));
    markSeen(store, id, [ids[2]]);
    expect(readSieve(store, id)?.fresh).toBe(1);
    markSeen(store, id, null);
    expect(readSieve(store, id)?.fresh).toBe(0);
    // what was seen is still what came then
    expect(newHits(store, id, 15, 10)).toHaveLength(2);
    expect(newHits(store, id, 20, 10)).toEqual([]);
  });

  it('forget what they let through when they ask for something else, and nothing of it when they are deleted', () => {
    const id = saveSieve(store, 'Bees', 'c=name:bee');
    noteHits(store, id, ids, 10, false);
    endRun(store, id, 10, 4, 4);
    changeSieve(store, id, { name: 'Bees and hives' });
    expect(readSieve(store, id)?.fresh).toBe(4);
    changeSieve(store, id, { view: 'c=name:hive' });
    expect(readSieve(store, id)).toMatchObject({ fresh: 0, lastAt: null, lastTotal: null });
    saveSieve(store, 'Other', 'c=name:x');
    expect(() => changeSieve(store, id, { name: 'Other' })).toThrow();
    expect(deleteSieve(store, id)?.name).toBe('Bees and hives');
    expect(readSieve(store, id)).toBeNull();
    expect(changeSieve(store, id, { name: 'x' })).toBeNull();
  });
});

describe('what is looked at again', () => {
  const target: NewWatch = { kind: 'address', target: 'http://lists.example/a.csv', name: 'Lists', options: { excludedEndings: ['edu'], checkAfter: true }, sourceId: null, everyMs: 15 * MINUTE }; // biome-ignore format: a watch

  it('is due at its time, unless it is off', () => {
    const id = addWatch(store, target, 100);
    expect(dueWatches(store, 99)).toEqual([]);
    expect(dueWatches(store, 100).map((watch) => watch.id)).toEqual([id]);
    expect(readWatch(store, id)).toMatchObject({ ...target, isOn: true, lastAt: null, etag: null });
    changeWatch(store, id, { isOn: false });
    expect(dueWatches(store, 100)).toEqual([]);
    changeWatch(store, id, { isOn: true, nextAt: 500 });
    expect(readWatch(store, id)).toMatchObject({ everyMs: 15 * MINUTE, nextAt: 500 });
    expect(changeWatch(store, 999, { isOn: true })).toBe(false);
  });

  it('remembers what the server said of its copy until it says otherwise', () => {
    const id = addWatch(store, target, 100);
    noteLook(store, id, { outcome: '10 rows', etag: '"a"', modified: 'Mon', hash: 'x' });
    noteLook(store, id, { outcome: 'not changed' });
    expect(readWatch(store, id)).toMatchObject({ outcome: 'not changed', etag: '"a"', modified: 'Mon', hash: 'x' });
    noteLook(store, id, { outcome: 'other', etag: null });
    expect(readWatch(store, id)).toMatchObject({ etag: null, hash: 'x' });
    noteLook(store, 999, { outcome: 'nobody' });
  });

  it('knows files of a folder by what they were, and forgets them with itself', () => {
    const source = addSource(store, 'list', 'one', {});
    const id = addWatch(store, { ...target, kind: 'folder', sourceId: source }, 100);
    expect(watchOfSource(store, source)?.id).toBe(id);
    const file = { name: 'a.csv', bytes: 10, modifiedAt: 5, hash: 'h' };
    write(store, () => putWatchedFile(store, id, file, source));
    write(store, () => putWatchedFile(store, id, { ...file, bytes: 12 }, null));
    expect([...watchedFiles(store, id)]).toEqual([['a.csv', { ...file, bytes: 12 }]]);
    expect(dropWatch(store, id)).toBe(true);
    expect(watchedFiles(store, id).size).toBe(0);
    expect(dropWatch(store, id)).toBe(false);
  });
});

describe('jobs', () => {
  it('go back into the queue when the process ended under them, with their checkpoint', () => {
    const [first, second] = [1, 2].map((n) => addJob(store, { kind: 'list', sourceId: null, params: { n } }));
    setJobState(store, first, 'running');
    write(store, () => saveCheckpoint(store, first, { items: 400 }));
    saveProgress(store, first, { done: 400, total: 900, unit: 'rows', rate: 10, message: 'reading' });
    expect(queuedJobs(store).map(({ id }) => id)).toEqual([second]);
    expect(requeueInterrupted(store)).toBe(1);
    expect(queuedJobs(store).map(({ id }) => id)).toEqual([first, second]);
    expect(readJob(store, first)).toMatchObject({
      checkpoint: { items: 400 },
      progress: { done: 400 },
      params: { n: 1 },
    });
    setJobState(store, second, 'cancelled');
    expect(requeueInterrupted(store)).toBe(0);
  });

  it('keep when they began and ended, why they failed, and what they found', () => {
    const source = addSource(store, 'list', 'one', {});
    const id = addJob(store, { ...checkAndMeasure({ sourceId: source }), params: { sourceId: source } });
    expect(readJob(store, id)).toMatchObject({
      state: 'queued',
      startedAt: null,
      next: [{ kind: 'measure', params: { sourceId: source } }],
    });
    setJobState(store, id, 'running');
    setJobState(store, id, 'failed', 'The file is gone.');
    const job = readJob(store, id);
    expect(job?.error).toBe('The file is gone.');
    expect(job?.finishedAt).toBeGreaterThanOrEqual(job?.startedAt ?? Infinity);
    setJobState(store, id, 'queued');
    expect(readJob(store, id)?.error).toBeNull();
    write(store, () => {
      putJobRow(store, id, 2, { seed: 'b' });
      putJobRow(store, id, 1, { seed: 'a' });
      putJobRow(store, id, 2, { seed: 'c' });
    });
    expect(jobRows(store, id, z.unknown())).toEqual([{ seed: 'a' }, { seed: 'c' }]);
    setJobParams(store, id, { budget: 3 });
    expect(jobsOfSource(store, source)).toMatchObject([{ id, params: { budget: 3 } }]);
    expect(listJobs(store, 1)).toHaveLength(1);
    expect(readJob(store, 999)).toBeNull();
  });

  it('of checks go on to measures, and by somebody’s wish to what costs', () => {
    const order = checkAndMeasure({ ids: [1] }, { depth: 'registrar' }, { wantedBy: 'you', isByHand: true });
    expect(order.next?.[0]).toMatchObject({
      kind: 'measure',
      next: [{ kind: 'inspect', params: { ids: [1], wantedBy: 'you' } }],
    });
    expect(checkAndMeasure({ sourceId: 4 }).next?.[0].next).toEqual([]);
  });
});

describe('a shortlist', () => {
  it('has a domain once, and gives back what it was', () => {
    ensureBrief(store);
    const [{ id: brief }] = listBriefs(store);
    expect(addToShortlist(store, brief, [ids[0], ids[1]])).toEqual([ids[0], ids[1]]);
    expect(addToShortlist(store, brief, [ids[1], ids[2]])).toEqual([ids[2]]);
    const before = changeShortlist(store, brief, ids[0], { stage: 'wanted', maximumBidMinor: 900, note: 'mine' });
    expect(before).toMatchObject({ stage: 'to inspect', maximumBidMinor: null });
    changeShortlist(store, brief, ids[0], { worthLowMinor: 500 });
    expect(shortlistedFor(store, ids[0])).toMatchObject([
      { stage: 'wanted', maximumBidMinor: 900, worthLowMinor: 500, note: 'mine' },
    ]);
    const gone = takeOffShortlist(store, brief, ids[0]);
    expect(gone).toMatchObject({ stage: 'wanted', note: 'mine' });
    expect(shortlistIds(store, brief)).toEqual(new Set([ids[1], ids[2]]));
    expect(takeOffShortlist(store, brief, ids[0])).toBeNull();
    expect(changeShortlist(store, brief, ids[0], { note: 'x' })).toBeNull();
    expect(readShortlist(store, brief).map(({ domain }) => domain.name)).toEqual([
      'umberleyskeps.org',
      'umberleyhives.org',
    ]);
  });
});

describe('what a person did', () => {
  it('a visit ends with a pause of half an hour', () => {
    const start = 1e9;
    expect(noteVisit(store, start)).toBe(0);
    for (let minute = 1; minute <= 20; minute++) expect(noteVisit(store, start + minute * MINUTE)).toBe(0);
    const again = start + 51 * MINUTE;
    expect(noteVisit(store, again)).toBe(start + 20 * MINUTE);
    expect(noteVisit(store, again + 5000)).toBe(start + 20 * MINUTE);
    expect(lastVisit(store)).toBe(start + 20 * MINUTE);
  });

  it('the same long list of words is kept once', () => {
    const words = Array.from({ length: 5000 }, (_, n) => `word${n}`);
    const id = keepWords(store, words, 'hash of them');
    expect(keepWords(store, words, 'hash of them')).toBe(id);
    expect(keepWords(store, ['x'], 'another')).not.toBe(id);
    expect(readWords(store, id)).toEqual(words);
    expect(readWords(store, 999)).toBeNull();
  });
});
