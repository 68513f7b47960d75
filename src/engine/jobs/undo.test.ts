import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { previewList } from '../../core/formats/list-columns';
import { type Store, write } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { findDomain, putDomain, sightingsOf } from '../../store/domains/domains';
import { putVerdict } from '../../store/lifecycle/verdicts';
import { putLink } from '../../store/links/links';
import { ensureBrief, listBriefs } from '../../store/shortlist/briefs';
import { addToShortlist } from '../../store/shortlist/shortlist';
import { addSource, eachReject, readSource } from '../../store/sources/sources';
import { PoolHost } from '../pool/host';
import { Stopped } from '../runner/context';
import { runList } from './list';
import { trial } from './testing';
import { runUndo } from './undo';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
  ensureBrief(store);
});

async function load(text: string) {
  const path = join(mkdtempSync(join(tmpdir(), 'undo-')), 'list.csv');
  writeFileSync(path, text);
  const { delimiter, hasHeader, columns } = previewList(text);
  const run = trial(store, 'list', { path, delimiter, hasHeader, columns });
  await runList(run.context);
  return run.sourceId;
}
async function undo(sourceId: number) {
  const run = trial(store, 'undo', {});
  Object.assign(run.context.job, { sourceId });
  await runUndo(run.context);
  return { ...run, source: readSource(store, sourceId)! };
}
const inPool = () => store.raw.prepare('SELECT name FROM domains WHERE in_pool = 1 ORDER BY name').pluck().all();
const row = (name: string) => findDomain(store, name)!;
const HEADER = 'domain,status,drop date,registered,price,closes,venue\n';

describe('undoing an import', () => {
  it('takes out what only it had named, with its rows and its rejects', async () => {
    const first = await load(`${HEADER}a.org,pending delete,2026-11-27,2011-02-03,,,\n`);
    const second = await load(`${HEADER}a.org,,,,,,\nb.org,,,,,,\nnonsense,,,,,,\n`);
    const { removed, source } = await undo(second);
    expect(inPool()).toEqual(['a.org']);
    expect([...removed]).toEqual([row('b.org').id]);
    expect(source.undone).toEqual({ left: 1, named: 1, shortlisted: 0 });
    expect(source.undone_at).not.toBeNull();
    expect([...eachReject(store, second)]).toEqual([]);
    expect(sightingsOf(store, row('a.org').id).map(({ sourceId }) => sourceId)).toEqual([first]);
  });

  it('gives back what was said before it', async () => {
    await load(`${HEADER}a.org,pending delete,2026-11-27,2011-02-03,10 EUR,2027-01-01 10:00,Quayside Lots\n`);
    const before = row('a.org');
    const second = await load(
      `${HEADER}a.org,redemption,2026-12-24,2015-06-07,5 EUR,2027-02-02 10:00,Saltmarch Exchange\n`,
    );
    expect(row('a.org')).toMatchObject({
      phase: 'redemption',
      price_minor: 500,
      venue: 'Saltmarch Exchange',
      offers: 2,
    });
    await undo(second);
    const { offers: _, ...after } = row('a.org');
    expect({ ...after, offers: null }).toEqual({ ...before, offers: null });
  });

  it('leaves what servers answered', async () => {
    const list = await load(`${HEADER}a.org,pending delete,2026-11-27,2011-02-03,,,\nb.org,,,,,,\n`);
    const { id } = row('a.org');
    const verdict = { phase: 'free' as const, confidence: 1, reason: 'nobody has it', contradictions: [] };
    write(store, () => putVerdict(store, id, 5, [], verdict, null));
    await undo(list);
    expect(row('a.org')).toMatchObject({ phase: 'free', phase_at: 5, drop_at: null, registered_at: null, in_pool: 0 });
  });

  it('keeps what is on a shortlist', async () => {
    const list = await load('a.org\nb.org\n');
    addToShortlist(store, listBriefs(store)[0].id, [row('a.org').id]);
    const { source } = await undo(list);
    expect(inPool()).toEqual(['a.org']);
    expect(source.undone).toEqual({ left: 1, named: 0, shortlisted: 1 });
  });

  it('goes on where it was stopped, and adds up', async () => {
    const list = await load(Array.from({ length: 5000 }, (_, i) => `hive${i}.org\n`).join(''));
    const run = trial(store, 'undo', {});
    Object.assign(run.context.job, { sourceId: list });
    run.context.progress = () => run.stop.abort();
    await expect(runUndo(run.context)).rejects.toBeInstanceOf(Stopped);
    expect(run.removed.size).toBe(2000);
    expect(inPool()).toHaveLength(3000);
    const again = trial(store, 'undo', {}, run);
    Object.assign(again.context.job, { sourceId: list });
    await runUndo(again.context);
    expect(inPool()).toEqual([]);
    expect(readSource(store, list)?.undone).toEqual({ left: 5000, named: 0, shortlisted: 0 });
  });

  it('takes back links and has the rest measured anew', async () => {
    const [from, to] = ['from.org', 'to.org'].map((name) => putDomain(store, { name, ending: 'org' }, false, 1).id);
    const source = addSource(store, 'links', 'index', {});
    const link = { fromUrl: 'http://from.org/', toUrl: 'http://to.org/', anchor: '', nofollow: false, indexable: true };
    for (let seq = 0; seq < 3; seq++)
      putLink(store, { ...link, toId: to, fromId: from, sourceId: source, seq, firstSeenAt: null, lastSeenAt: null });
    const { orders } = await undo(source);
    expect(store.raw.prepare('SELECT count(*) FROM links').pluck().get()).toBe(0);
    expect(orders.map(({ kind }) => kind)).toEqual(['measure']);
  });

  it('leaves the index as a rebuilt one would be', async () => {
    await load(`${HEADER}a.org,,,2011-02-03,,,\nc.org,,,,,,\n`);
    const second = await load(`${HEADER}a.org,,,2016-02-03,,,\nb.org,pending delete,,,7 EUR,,\n`);
    const pool = new PoolHost(store);
    pool.rebuild();
    const { changed, removed } = await undo(second);
    pool.refresh(changed, null);
    pool.remove(Uint32Array.from(removed), second, true);
    const fresh = new PoolHost(store);
    fresh.rebuild();
    const query = { sorts: [{ fact: 'name' as const, descending: false }], offset: 0, limit: 9, histograms: [] };
    const member = { type: 'member' as const, fact: 'source' as const, values: [second], not: false };
    for (const parts of [[], [member], [{ ...member, values: [second - 1] }]]) {
      const ask = (host: PoolHost) => host.query({ ...query, parts });
      expect({ ...(await ask(pool)), version: 0 }).toEqual({ ...(await ask(fresh)), version: 0 });
    }
    expect(pool.size).toBe(2);
  });
});
