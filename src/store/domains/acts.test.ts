import { beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../base/database';
import { addJob, readJob, saveCheckpoint, setJobParams } from '../base/jobs';
import { changeSettings, readSettings } from '../base/settings';
import { freshStore } from '../base/testing';
import { putSite, saveProbe, setSiteState, sitesOf } from '../crawl/sites';
import { changeSieve, deleteSieve, endRun, freshIn, listSieves, noteHits, readSieve, saveSieve } from '../pool/sieves';
import { addHoldings, changeHolding, holdingOf } from '../portfolio/holdings';
import { listBriefs, saveBrief } from '../shortlist/briefs';
import {
  addToShortlist,
  changeShortlist,
  readShortlist,
  shortlistedFor,
  takeOffShortlist,
} from '../shortlist/shortlist';
import { addSource } from '../sources/sources';
import {
  addWatch,
  changeWatch,
  dropWatch,
  listWatches,
  noteLook,
  putWatchedFile,
  watchedFiles,
} from '../sources/watches';
import { ActChanged, listActs, recordAct, recordNew, recordSettings, type Touched, undoAct } from './acts';
import { putDomain } from './domains';
import { addMarkReview, markReviewsOf } from './word-marks';

let store: Store;
let brief: number;

const BRIEF = {
  name: 'Hives',
  purpose: 'resell' as const,
  subjectWords: ['hive'],
  trustedSites: [],
  excludedEndings: [],
  budgetMinor: 40_000,
  currency: 'EUR',
};

beforeEach(async () => {
  store = await freshStore();
  brief = saveBrief(store, BRIEF);
});

const domain = (name = 'pellgatehive.org') => putDomain(store, { name, ending: 'org' }, true, 1).id;
const watch = () =>
  addWatch(
    store,
    {
      kind: 'folder',
      target: '/lists',
      name: 'Lists',
      options: { excludedEndings: [], checkAfter: false },
      sourceId: null,
      everyMs: 60_000,
    },
    0,
  );
const ofWatch = (id: number): Touched[] => [
  { table: 'watches', where: { id } },
  { table: 'watched_files', where: { watch_id: id } },
];

describe('an act', () => {
  it('that forgets a watch brings it back with the files it has taken', () => {
    const id = watch();
    write(store, () => putWatchedFile(store, id, { name: 'a.csv', bytes: 9, modifiedAt: 1, hash: 'x' }, null));
    const before = listWatches(store);
    const { act } = recordAct(store, { kind: 'watch', words: 'Lists: forgotten' }, ofWatch(id), () =>
      dropWatch(store, id),
    );
    expect(listWatches(store)).toEqual([]);
    undoAct(store, Number(act));
    expect(listWatches(store)).toEqual(before);
    expect([...watchedFiles(store, id).keys()]).toEqual(['a.csv']);
  });

  it('gives back what was said, and not what the product went on writing', () => {
    const id = watch();
    const { act } = recordAct(store, { kind: 'watch', words: 'Lists: at rest' }, ofWatch(id), () =>
      changeWatch(store, id, { isOn: false }),
    );
    noteLook(store, id, { outcome: 'nothing new' });
    undoAct(store, Number(act));
    expect(listWatches(store)[0]).toMatchObject({ isOn: true, outcome: 'nothing new' });
  });

  it('is undone once, is told as undone, and undoing it again changes nothing', () => {
    const id = saveSieve(store, 'Hives', 'c=name:hive');
    const { act } = recordAct(
      store,
      { kind: 'sieve', words: 'kept sieve "Hives": deleted' },
      [{ table: 'sieves', where: { id } }],
      () => deleteSieve(store, id),
    );
    expect(undoAct(store, Number(act))?.undoneAt).not.toBeNull();
    changeSieve(store, id, { name: 'Hives again' });
    undoAct(store, Number(act));
    expect(listSieves(store).map(({ name }) => name)).toEqual(['Hives again']);
    expect(listActs(store, 10)).toMatchObject([{ words: 'kept sieve "Hives": deleted', undoneAt: expect.any(Number) }]);
    expect(undoAct(store, 99)).toBeNull();
  });

  it('is refused where another has changed the same since, and nothing is changed then', () => {
    const id = saveSieve(store, 'Hives', 'c=name:hive');
    const change = (view: string) =>
      recordAct(store, { kind: 'sieve', words: `to ${view}` }, [{ table: 'sieves', where: { id } }], () =>
        changeSieve(store, id, { view }),
      ).act;
    const first = change('c=name:bee');
    const second = change('c=name:wax');
    expect(() => undoAct(store, Number(first))).toThrow(ActChanged);
    expect(readSieve(store, id)?.view).toBe('c=name:wax');
    undoAct(store, Number(second));
    undoAct(store, Number(first));
    expect(readSieve(store, id)?.view).toBe('c=name:hive');
  });

  it('on a kept sieve brings back which names were new in it, also where another view ran meanwhile', () => {
    const id = saveSieve(store, 'Hives', 'c=name:hive');
    const [old, fresh, other] = ['pellgatehive.org', 'tarnhive.org', 'tarnwax.org'].map(domain);
    noteHits(store, id, [old], 1, true);
    noteHits(store, id, [fresh], 2, false);
    endRun(store, id, 2, 2, 1);
    const before = readSieve(store, id);
    const touched: Touched[] = [{ table: 'sieves', where: { id } }];
    const { act } = recordAct(store, { kind: 'sieve', words: 'changed' }, touched, () =>
      changeSieve(store, id, { view: 'c=name:wax' }),
    );
    expect(freshIn(store, id)).toEqual([]);
    noteHits(store, id, [other], 3, true);
    endRun(store, id, 3, 1, 0);
    undoAct(store, Number(act));
    expect(readSieve(store, id)).toEqual(before);
    expect(freshIn(store, id)).toEqual([fresh]);
    // what was there before is still not new
    expect(noteHits(store, id, [old, other], 4, false)).toEqual([other]);

    const { act: gone } = recordAct(store, { kind: 'sieve', words: 'deleted' }, touched, () => deleteSieve(store, id));
    undoAct(store, Number(gone));
    expect(freshIn(store, id)).toEqual([fresh, other].sort((a, b) => a - b));
    expect(readSieve(store, id)).toMatchObject({ lastAt: 2, lastTotal: 2, fresh: 2 });
  });

  it('on a crawl takes its budgets and its sites back while it goes on', () => {
    const source = addSource(store, 'crawl', 'Tarn', {});
    const job = addJob(store, { kind: 'crawl', sourceId: source, params: { pageBudget: 100 } });
    write(store, () => putSite(store, source, 'tarnmead.org', 'http://tarnmead.org/', null));
    const drop = recordAct(
      store,
      { kind: 'crawl', words: 'dropped' },
      [{ table: 'crawl_sites', where: { source_id: source, site: 'tarnmead.org' } }],
      () => setSiteState(store, source, 'tarnmead.org', 'dropped', 'dropped by you'),
    );
    const budget = recordAct(store, { kind: 'crawl', words: 'budgets' }, [{ table: 'jobs', where: { id: job } }], () =>
      setJobParams(store, job, { pageBudget: 7 }),
    );
    saveCheckpoint(store, job, { minutes: 3 });
    write(store, () => saveProbe(store, source, 'tarnmead.org', 5));
    undoAct(store, Number(budget.act));
    undoAct(store, Number(drop.act));
    expect(readJob(store, job)).toMatchObject({ params: { pageBudget: 100 }, checkpoint: { minutes: 3 } });
    expect(sitesOf(store, source)).toMatchObject([{ state: 'reading', probed: 1 }]);
  });

  it('that changes nothing is none', () => {
    const id = watch();
    expect(recordAct(store, { kind: 'watch', words: 'x' }, ofWatch(id), () => true).act).toBeNull();
    expect(listActs(store, 10)).toEqual([]);
  });

  it('gives back the fields of a brief, of a holding, and a verdict on trademarks', () => {
    const id = domain();
    addHoldings(store, [
      { name: 'pellgatehive.org', boughtAt: 1, costMinor: 900, currency: 'EUR', renewsAt: null, renewalMinor: null, seller: 'a registrar', note: '' } as never,
    ]); // biome-ignore format: one holding
    const acts = [
      recordAct(store, { kind: 'brief', words: 'brief' }, [{ table: 'briefs', where: { id: brief } }], () =>
        saveBrief(store, { ...BRIEF, budgetMinor: 1 }, brief),
      ).act,
      recordAct(store, { kind: 'holding', words: 'holding' }, [{ table: 'holdings', where: { domain_id: id } }], () =>
        changeHolding(store, id, { note: 'for the club' }),
      ).act,
      recordAct(store, { kind: 'marks', words: 'marks' }, [{ table: 'mark_reviews', where: { domain_id: id } }], () =>
        addMarkReview(store, id, 'clear', 'looked'),
      ).act,
    ];
    expect(holdingOf(store, id)?.note).toBe('for the club');
    for (const act of acts) undoAct(store, Number(act));
    expect(listBriefs(store).find((one) => one.id === brief)?.budgetMinor).toBe(40_000);
    expect(holdingOf(store, id)?.note).not.toBe('for the club');
    expect(markReviewsOf(store, id)).toEqual([]);
  });

  it('that added something takes it away again', () => {
    const { act, result } = recordNew(
      store,
      { kind: 'sieve', words: 'kept' },
      () => saveSieve(store, 'New', 'c=name:x'),
      (id) => [{ table: 'sieves', where: { id } }],
    );
    expect(readSieve(store, result)).not.toBeNull();
    undoAct(store, Number(act));
    expect(readSieve(store, result)).toBeNull();
  });

  it('on settings brings an account back without its key, and keeps no key anywhere', () => {
    const desk = { venue: 'Quillmere', address: 'http://127.0.0.1:9', key: 'seeded-secret', currency: 'EUR' };
    changeSettings(store, { accounts: [desk] });
    const { act } = recordSettings(store, 'settings: accounts', { accounts: [] });
    undoAct(store, Number(act));
    expect(readSettings(store).accounts).toEqual([{ ...desk, key: '' }]);
    const kept = store.raw.prepare('SELECT group_concat(changes) FROM acts').pluck().get() as string;
    expect(kept).toContain('Quillmere');
    expect(kept).not.toContain('seeded-secret');
  });

  it('on one setting leaves those alone that were changed since', () => {
    const { act } = recordSettings(store, 'settings: currency', { currency: 'CHF' });
    changeSettings(store, { crawlDelayMs: 7 });
    undoAct(store, Number(act));
    expect(readSettings(store)).toMatchObject({ currency: 'EUR', crawlDelayMs: 7 });
  });
});

describe('what is taken off a shortlist', () => {
  it('keeps stage, maximum, worth and note for when it is put on again', () => {
    const id = domain();
    addToShortlist(store, brief, [id]);
    const said = {
      stage: 'wanted' as const,
      maximumBidMinor: 4200,
      worthLowMinor: 9000,
      feesMinor: 300,
      note: 'for the club',
    };
    changeShortlist(store, brief, id, said);
    const [before] = shortlistedFor(store, id);
    takeOffShortlist(store, brief, id);
    expect(readShortlist(store, brief)).toEqual([]);
    expect(addToShortlist(store, brief, [id])).toEqual([id]);
    expect(shortlistedFor(store, id)).toEqual([{ ...before, changedAt: expect.any(Number) }]);
    // and once more, for another brief it is new
    const other = saveBrief(store, { ...BRIEF, name: 'Another' });
    addToShortlist(store, other, [id]);
    expect(shortlistedFor(store, id).find(({ briefId }) => briefId === other)).toMatchObject({
      note: '',
      stage: 'to inspect',
    });
  });
});
