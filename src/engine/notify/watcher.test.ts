import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { PoolQuery } from '../../core/pool/query';
import { openStore, type Store } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { findDomain } from '../../store/domains/domains';
import { nearMissIds, setWatched } from '../../store/lifecycle/watching';
import { briefOfTest, domainOfTest } from '../../store/testing';
import { Watcher } from './watcher';

const DAY = 86_400_000;
let store: Store;
let changed: number[][];
let failures: unknown[];

beforeEach(async () => {
  store = await freshStore();
  changed = [];
  failures = [];
});

const lapsing = (name: string, trust: number, days = 3) =>
  domainOfTest(store, name, {
    phase: 'pending-delete',
    phase_at: store.now(),
    drop_from: store.now() + days * DAY,
    drop_to: store.now() + days * DAY,
    strength: 40,
    trust,
  }).id;

/** A pool that finds the ids given: those of a name's words, and all. */
function watcherOf(all: number[], byWord: Record<string, number[]> = {}): Watcher {
  const query = async ({ parts }: PoolQuery) => {
    const words = parts.flatMap((part) => (part.type === 'text' ? part.values : []));
    return { ids: words.length === 0 ? all : words.flatMap((word) => byWord[word] ?? []) };
  };
  const pool = { query, size: 3 } as never;
  return new Watcher(store, pool, (ids) => changed.push(ids), { error: (of: unknown) => failures.push(of) } as never);
}
const reasonOf = (id: number) => store.raw.prepare('SELECT watch_reason FROM domains WHERE id = ?').pluck().get(id);

describe('near misses', () => {
  it('are watched: those with the words of a brief, and the best of all', async () => {
    briefOfTest(store, { subjectWords: ['hive'] });
    const ofBrief = lapsing('tarnhives.org', 5);
    const best = lapsing('wexcombe.org', 80);
    const watcher = watcherOf([best], { hive: [ofBrief] });
    expect(await watcher.watchNearMisses()).toBe(2);
    expect(nearMissIds(store).sort()).toEqual([ofBrief, best].sort());
    expect(changed.flat().sort()).toEqual([ofBrief, best].sort());
    // nothing is new the second time
    await watcher.watchNearMisses();
    expect(changed).toHaveLength(1);
  });

  it('are let go once others are nearer, and what a person watches stays the person’s', async () => {
    const [old, next, byHand] = ['tarnhives.org', 'wexcombe.org', 'ossenmere.org'].map((name) => lapsing(name, 50));
    setWatched(store, byHand, 'by hand', store.now());
    await watcherOf([old]).watchNearMisses();
    await watcherOf([next, byHand]).watchNearMisses();
    expect([old, next, byHand].map(reasonOf)).toEqual([null, 'near miss', 'by hand']);
    expect(findDomain(store, 'tarnhives.org')?.watched_at).toBeNull();
  });

  it('wait while somebody else writes, and are watched afterwards', async () => {
    const id = lapsing('tarnhives.org', 50);
    const watcher = watcherOf([id]);
    const other = await openStore(store.folder, { migrate: false });
    other.raw.exec('BEGIN IMMEDIATE');
    expect(await watcher.watchNearMisses()).toBeNull();
    expect(nearMissIds(store)).toEqual([]);
    other.raw.exec('COMMIT');
    expect(await watcher.watchNearMisses()).toBe(1);
    await other.close();
  });

  it('that cannot be looked for are told of, and nothing ends', async () => {
    const pool = { query: () => Promise.reject(new Error('the pool is being read')), size: 3 };
    const watcher = new Watcher(store, pool, () => undefined, { error: (of: unknown) => failures.push(of) } as never);
    watcher.turn();
    await vi.waitFor(() => expect(failures).toHaveLength(1));
    expect(String((failures[0] as { err: Error }).err)).toContain('the pool is being read');
  });
});
