import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../base/database';
import { freshStore } from '../base/testing';
import { queuePage } from './crawl';
import { assignDepths, packIds, putEdges, unpackIds } from './crawl-depths.sql';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});

describe('packed ids', () => {
  it('come back sorted and once', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 2 ** 40 })), (ids) => {
        expect(unpackIds(packIds(ids))).toEqual([...new Set(ids)].sort((a, b) => a - b));
      }),
    );
  });
});

describe('settleDepths', () => {
  /** Pages by number, each with a depth it was first found at. */
  const addPages = (depths: number[], limit: number) =>
    depths.map(
      (depth, n) =>
        queuePage(store, 1, {
          address: { url: `http://a.org/${n}`, host: 'a.org', site: 'a.org' },
          depth,
          hops: 0,
          classId: 1,
          viaClass: 0,
          state: depth > limit ? 'beyond' : 'queued',
        }).id,
    );
  const rows = () => store.raw.prepare('SELECT depth, state FROM pages ORDER BY id').all();

  it('gives the fewest links from a seed, and brings pages in that were set aside as too deep', () => {
    const ids = addPages([0, 1, 2, 3, 3], 2);
    putEdges(store, 1, ids[0], [ids[1], ids[2]], false);
    putEdges(store, 1, ids[1], [ids[2]], false);
    putEdges(store, 1, ids[2], [ids[3]], false);
    putEdges(store, 1, ids[3], [ids[4]], false);
    expect(assignDepths(store, 1, 2, new Map())).toBe(1);
    expect(rows()).toEqual([
      { depth: 0, state: 'queued' },
      { depth: 1, state: 'queued' },
      { depth: 1, state: 'queued' },
      { depth: 2, state: 'queued' },
      { depth: 3, state: 'beyond' },
    ]);
    expect(assignDepths(store, 1, 2, new Map())).toBe(0);
  });

  it('counts a redirect for no step, and keeps to the depth of a site', () => {
    const ids = addPages([0, 2, 3], 1);
    putEdges(store, 1, ids[0], [ids[1]], true);
    putEdges(store, 1, ids[1], [ids[2]], false);
    expect(assignDepths(store, 1, 4, new Map([['a.org', 0]]))).toBe(1);
    expect(rows()).toEqual([
      { depth: 0, state: 'queued' },
      { depth: 0, state: 'queued' },
      { depth: 1, state: 'beyond' },
    ]);
  });
});
