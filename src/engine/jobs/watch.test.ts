import { mkdirSync, readdirSync, utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import pino from 'pino';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { findDomain, putDomain } from '../../store/domains/domains';
import { updateBestListing } from '../../store/offers/best-listing';
import { putListing } from '../../store/offers/listings';
import { addSource, listSources } from '../../store/sources/sources';
import { addWatch, changeWatch, dropWatch, listWatches, type NewWatch, readWatch } from '../../store/sources/watches';
import { Clock } from '../runner/clock';
import type { JobRunner } from '../runner/runner';
import { OneDocument } from './fixtures';
import { runList } from './list';
import { trial } from './testing';
import { runWatch } from './watch';

let store: Store;
let folder: string;
let server: OneDocument;
beforeEach(async () => {
  store = await freshStore();
  folder = join(store.folder, 'lists');
  mkdirSync(folder);
  server = new OneDocument();
  await server.open();
});
afterEach(() => server.close());

const watch = (part: Partial<NewWatch> = {}) =>
  addWatch(
    store,
    {
      kind: 'folder',
      target: folder,
      name: 'Lists',
      options: { excludedEndings: [], checkAfter: false },
      sourceId: null,
      everyMs: 60_000,
      ...part,
    },
    store.now(),
  );
/** A file that was written a while ago. */
const put = (name: string, text: string | Buffer, agoMs = 60_000) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  const at = (Date.now() - agoMs) / 1000;
  utimesSync(path, at, at);
};
/** Looks, and carries out the imports that were ordered. */
const look = async (watchId: number) => {
  const run = trial(store, 'watch', { watchId });
  await runWatch(run.context);
  for (const order of run.orders) {
    const list = trial(store, 'list', order.params);
    Object.assign(list.context.job, { sourceId: order.sourceId });
    await runList(list.context);
  }
  return { orders: run.orders, outcome: readWatch(store, watchId)!.outcome };
};
const lists = () => listSources(store).filter(({ rows_read }) => rows_read > 0);

describe('a watched folder', () => {
  it('has each new file read, once', async () => {
    const id = watch();
    put('monday.csv', 'domain\na.org\n');
    put('tuesday.csv', 'domain\nb.org\n');
    expect((await look(id)).orders).toHaveLength(2);
    expect((await look(id)).outcome).toBe('no new file');
    put('wednesday.csv', 'domain\nc.org\n');
    expect((await look(id)).orders).toHaveLength(1);
    expect(
      lists()
        .map(({ name }) => name)
        .sort(),
    ).toEqual(['monday.csv', 'tuesday.csv', 'wednesday.csv']);
    expect(findDomain(store, 'c.org')?.in_pool).toBe(1);
  });

  it('has a changed file read again: sightings are added, not domains', async () => {
    const id = watch();
    put('list.csv', 'domain\na.org\nb.org\n');
    await look(id);
    put('list.csv', 'domain\na.org\nb.org\nc.org\n', 30_000);
    await look(id);
    expect(lists().map(({ rows_taken, domains_new }) => [rows_taken, domains_new])).toEqual([
      [3, 1],
      [2, 2],
    ]);
    expect(store.raw.prepare('SELECT count(*) FROM sightings').pluck().get()).toBe(5);
  });

  it('passes over a file that is still being written, and one whose content was taken before', async () => {
    const id = watch();
    put('half.csv', 'domain\na.o', 0);
    expect((await look(id)).outcome).toBe('no new file');
    put('half.csv', 'domain\na.org\n');
    await look(id);
    put('copy.csv', 'domain\na.org\n');
    const again = await look(id);
    expect(again.orders).toEqual([]);
    expect(again.outcome).toContain('copy.csv holds what was taken before');
  });

  it('says which file is no list, and reads the others', async () => {
    const id = watch();
    put('picture.pdf', '%PDF-1.7 …');
    put('words.txt', 'no\nnames\nhere\n');
    put('list.csv', 'domain\na.org\n');
    const { orders, outcome } = await look(id);
    expect(orders).toHaveLength(1);
    expect(outcome).toContain('picture.pdf: This is a PDF document');
    expect(outcome).toContain('words.txt: no column looks like it holds domains');
    expect((await look(id)).outcome).toBe('no new file');
  });

  it('that is gone is told so', async () => {
    const id = watch({ target: join(folder, 'nowhere') });
    await expect(look(id)).rejects.toThrow('The folder cannot be read');
    expect(readWatch(store, id)?.outcome).toContain('cannot be read');
  });
});

describe('a watched address', () => {
  it('is fetched only when it has changed', async () => {
    const id = watch({ kind: 'address', target: server.url });
    server.contentType = 'text/csv';
    server.body = 'domain\na.org\n';
    expect((await look(id)).orders).toHaveLength(1);
    expect((await look(id)).outcome).toBe('nothing has changed');
    server.isConditional = false; // it sends the same again: its content tells
    expect(await look(id)).toEqual({ orders: [], outcome: 'nothing has changed' });
    server.body = 'domain\na.org\nb.org\n';
    expect((await look(id)).orders).toHaveLength(1);
    expect(findDomain(store, 'b.org')?.in_pool).toBe(1);
    // no copy is kept of what brought nothing
    expect(readdirSync(join(store.folder, 'uploads'))).toHaveLength(2);
  });

  it('that fails says so, and is taken up again', async () => {
    const id = watch({ kind: 'address', target: server.url });
    server.status = 500;
    await expect(look(id)).rejects.toThrow('The address answered 500.');
    server.status = 200;
    server.body = 'domain\na.org\n';
    expect((await look(id)).outcome).toContain('is new and is being read');
  });
});

describe('the clock', () => {
  const ordered: unknown[] = [];
  const changed: number[] = [];
  const runner = { addOnce: (order: unknown) => ordered.push(order) } as unknown as JobRunner;
  const turn = () => {
    ordered.length = changed.length = 0;
    new Clock(store, runner, (ids) => changed.push(...ids), pino({ level: 'silent' })).turn();
  };

  it('has a watch looked at when it is due, and not again before its time', () => {
    const id = watch();
    turn();
    expect(ordered).toEqual([{ kind: 'watch', sourceId: null, params: { watchId: id } }]);
    turn();
    expect(ordered).toEqual([]);
    changeWatch(store, id, { nextAt: 0, isOn: false });
    turn();
    expect(ordered).toEqual([]);
    dropWatch(store, id);
    expect(listWatches(store)).toEqual([]);
  });

  it('has a venue read again with what its source says', () => {
    const sourceId = addSource(store, 'venue', 'v', { url: server.url, table: null });
    watch({ kind: 'venue', target: server.url, sourceId });
    turn();
    expect(ordered).toEqual([{ kind: 'venue', sourceId, params: { url: server.url, table: null, connection: null } }]);
  });

  it('lets offers close that are due, and tells the pool', () => {
    const { id } = putDomain(store, { name: 'a.org', ending: 'org' }, true, 1);
    const sourceId = addSource(store, 'venue', 'v', {});
    const offer = {
      kind: 'auction',
      venue: 'v',
      state: 'open',
      priceMinor: 1,
      currency: 'EUR',
      reserve: null,
    } as const;
    const rest = { bids: 0, closingAt: 5000, steps: [], url: null };
    write(store, () => {
      putListing(store, id, sourceId, { ...offer, ...rest }, 1000);
      updateBestListing(store, id, 1000, { home: 'EUR', worth: {} });
    });
    expect(findDomain(store, 'a.org')?.listing).toBe('auction');
    turn();
    expect(changed).toEqual([id]);
    expect(findDomain(store, 'a.org')?.listing).toBeNull();
  });
});
