import { beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../../store/base/database';
import { addJob } from '../../store/base/jobs';
import { freshStore } from '../../store/base/testing';
import { putSighting } from '../../store/domains/domains';
import { addTick } from '../../store/domains/notes';
import { putVerdict } from '../../store/lifecycle/verdicts';
import { happen, placeOrder } from '../../store/orders/orders';
import { noteHits } from '../../store/pool/sieves';
import type { Brief } from '../../store/shortlist/briefs';
import { addSource } from '../../store/sources/sources';
import { captureOfTest, domainOfTest, linkOfTest, listingOfTest } from '../../store/testing';
import { ask, engineAnswers, engineAsked, serving } from './testing';

const NAME = 'tarnhives.org';
const params = { name: NAME };
let store: Store;
let brief: Brief;
let id: number;

beforeEach(async () => {
  ({ store, brief } = await serving({
    setMembers: () => ({}),
    briefsChanged: () => ({}),
    settingsChanged: () => ({}),
  }));
  id = domainOfTest(store, NAME).id;
});
const called = (call: string) => engineAsked.filter((one) => one.call === call).map(({ values }) => values);
const job = (part: object = {}) => ({
  id: 3, kind: 'measure', sourceId: null, state: 'queued', progress: null, error: null, createdAt: 1, startedAt: null, finishedAt: null, params: {},
  checkpoint: null, next: [], ...part,
}); // biome-ignore format: one job

describe('briefs', () => {
  const BODY = {
    name: 'Apiaries',
    purpose: 'rebuild',
    subjectWords: ['bees'],
    trustedSites: [],
    excludedEndings: [],
    budgetMinor: null,
    currency: 'EUR',
  } as const;

  it('are made, changed and deleted, and the engine hears of their words', async () => {
    const made = await ask('POST /briefs', { body: BODY });
    expect(called('briefsChanged')).toHaveLength(1);
    const of = { params: { id: made.value.id } };
    await ask('PATCH /briefs/{id}', { ...of, body: { name: 'Bees of the north' } });
    expect(called('briefsChanged')).toHaveLength(1);
    await ask('PATCH /briefs/{id}', { ...of, body: { subjectWords: ['hives'] } });
    expect(called('briefsChanged')).toHaveLength(2);
    engineAnswers({ addJob: () => job() });
    await ask('PATCH /briefs/{id}', { ...of, body: { trustedSites: ['https://quillmere.org/'] } });
    expect(called('addJob')).toMatchObject([[{ kind: 'measure' }]]);
    expect((await ask('GET /briefs')).value.briefs.map(({ name }: Brief) => name)).toEqual([
      'Hives',
      'Bees of the north',
    ]);
    expect((await ask('DELETE /briefs/{id}', of)).status).toBe(200);
    expect((await ask('DELETE /briefs/{id}', of)).status).toBe(409);
    expect((await ask('PATCH /briefs/{id}', { ...of, body: {} })).status).toBe(404);
  });

  it('of one name are one; what makes no sense is told by its field', async () => {
    expect(await ask('POST /briefs', { body: { ...BODY, name: 'Hives' } })).toMatchObject({ status: 409 });
    const { value } = await ask('POST /briefs', { body: { ...BODY, purpose: 'hoard', budgetMinor: -1 } });
    expect(value.issues.map(({ at }: { at: string }) => at).sort()).toEqual(['budgetMinor', 'purpose']);
  });

  it('keep their currency once something was ordered', async () => {
    placeOrder(store, {
      briefId: brief.id, domainId: id, venue: 'v', url: null, kind: 'buy', amountMinor: 1, currency: 'EUR', ratePpm: 1_000_000, feesMinor: 0,
      closesAt: null, sendAt: null, way: 'by hand',
    }); // biome-ignore format: one order
    expect((await ask('PATCH /briefs/{id}', { params: { id: brief.id }, body: { currency: 'GBP' } })).value.title).toBe(
      'The currency stays',
    );
  });

  it('go to another machine as a file and come in there', async () => {
    await ask('POST /shortlist', { body: { briefId: brief.id, names: [NAME] } });
    const { value, headers } = await ask('GET /briefs/{id}/file', { params: { id: brief.id } });
    expect(headers.get('content-disposition')).toContain('Hives.brief.json');
    const taken = await ask('POST /briefs/file', { body: value });
    expect(taken.value).toMatchObject({ shortlisted: 1, problems: [] });
    expect(called('setMembers').at(-1)).toEqual(['shortlist', taken.value.id, [id], true]);
    expect((await ask('GET /briefs/{id}/file', { params: { id: 4711 } })).status).toBe(404);
  });
});

describe('the shortlist', () => {
  const put = (names = [NAME]) => ask('POST /shortlist', { body: { briefId: brief.id, names } });

  it('takes names of the pool, is changed with what was before, and is shown with its domains', async () => {
    expect((await put()).value).toEqual({ added: [NAME] });
    expect((await put()).value).toEqual({ added: [] });
    expect((await put(['nowhere.org'])).status).toBe(404);
    const changed = await ask('PATCH /shortlist/{name}', {
      params,
      body: { briefId: brief.id, worthLowMinor: 100, worthHighMinor: 200 },
    });
    expect(changed.value.before).toMatchObject({ worthLowMinor: null });
    const { entries } = (await ask('GET /shortlist', { query: `brief=${brief.id}` })).value;
    expect(entries).toMatchObject([{ worthLowMinor: 100, domain: { name: NAME, shortlisted: true } }]);
    expect((await ask('GET /shortlist', { query: 'brief=x' })).value.issues).toMatchObject([{ at: 'brief' }]);
  });

  it('lets a name go with what was said, by an action that can be undone', async () => {
    await put();
    engineAnswers({ act: () => ({ action: 9, changed: 1 }) });
    const gone = await ask('DELETE /shortlist/{name}', { params, query: `brief=${brief.id}` });
    expect(gone.value).toMatchObject({ action: 9, before: { domainId: id } });
    expect(called('act')).toEqual([[{ kind: 'unshortlist', brief: brief.id }, { ids: [id] }]]);
    expect((await ask('DELETE /shortlist/{name}', { params, query: '' })).status).toBe(400);
    expect((await ask('DELETE /shortlist/{name}', { params, query: 'brief=4711' })).status).toBe(404);
  });

  it('becomes a plan, under more or less risk', async () => {
    await put();
    await ask('PATCH /shortlist/{name}', {
      params,
      body: { briefId: brief.id, worthLowMinor: 20_000, worthHighMinor: 40_000 },
    });
    listingOfTest(store, id, { venue: 'Quill Auctions', priceMinor: 5000 });
    const plan = await ask('GET /plan', { query: 'risk=bold' });
    expect(plan.value).toMatchObject({ risk: 'bold', brief: { id: brief.id } });
    expect((await ask('GET /plan', { query: 'risk=mad' })).value.issues).toMatchObject([{ at: 'risk' }]);
    expect((await ask('GET /plan', { query: 'brief=4711' })).status).toBe(404);
    expect((await ask('GET /ledger')).value).toMatchObject({ lines: [], left: { briefMinor: 500_000 } });
  });
});

describe('orders', () => {
  const wish = () => ({
    name: NAME,
    briefId: brief.id,
    venue: 'Quill Auctions',
    kind: 'buy' as const,
    amountMinor: 5000,
  });
  const placed = () =>
    placeOrder(store, {
      briefId: brief.id, domainId: id, venue: 'Quill Auctions', url: null, kind: 'buy', amountMinor: 5000, currency: 'EUR', ratePpm: 1_000_000,
      feesMinor: 0, closesAt: null, sendAt: null, way: 'by hand',
    }); // biome-ignore format: one order

  it('are given with what is thought of them, and shown with their log', async () => {
    listingOfTest(store, id, { venue: 'Quill Auctions', priceMinor: 5000 });
    engineAnswers({ placeOrder: () => placed() });
    const given = await ask('POST /orders', { body: wish() });
    expect(given.status).toBe(201);
    expect(called('placeOrder')[0][0]).toMatchObject({ domainId: id, estimates: { winChance: expect.any(Number) } });
    const { order } = given.value;
    const shown = (await ask('GET /orders', { query: `brief=${brief.id}` })).value;
    expect(shown).toMatchObject({ open: [{ id: order.id, briefName: 'Hives' }], ended: [] });
    expect((await ask('GET /orders/{id}', { params: { id: order.id } })).value.log.length).toBeGreaterThan(0);
    expect((await ask('GET /orders/{id}', { params: { id: 4711 } })).status).toBe(404);
    expect((await ask('POST /orders', { body: { ...wish(), amountMinor: -1 } })).status).toBe(400);
  });

  it('are looked at, ended by hand and taken back through the engine', async () => {
    const order = placed();
    engineAnswers({
      lookAtOrder: () => order,
      recordOutcome: () => happen(store, order.id, { kind: 'hand', outcome: 'lost' }, 'you', null),
      withdrawOrder: () => 'it is binding',
    });
    const of = { params: { id: order.id } };
    expect((await ask('POST /orders/{id}/look', of)).value.order).toMatchObject({ id: order.id });
    expect(await ask('POST /orders/{id}/withdraw', of)).toMatchObject({
      status: 409,
      value: { detail: 'it is binding' },
    });
    const ended = await ask('POST /orders/{id}/outcome', { ...of, body: { outcome: 'lost', priceMinor: null } });
    expect(ended.value.order).toMatchObject({ state: 'lost' });
    engineAnswers({ lookAtOrder: () => null });
    expect((await ask('POST /orders/{id}/look', of)).status).toBe(404);
  });

  it('have terms, with what should be known and the most to pay', async () => {
    domainOfTest(store, NAME, { spam_risk: 90 });
    const terms = {
      id, name: NAME, brief: { id: brief.id, name: 'Hives', currency: 'EUR', feesMinor: 0 }, ways: [], orders: [], isOwned: false, isDryRun: true,
      limits: { briefMinor: null, dayMinor: null }, homeCurrency: 'EUR', phase: 'unknown', phaseAt: null,
    }; // biome-ignore format: one answer
    engineAnswers({ orderTerms: () => terms });
    const { value } = await ask('GET /orders/terms', { query: `name=${NAME}` });
    expect(value).toMatchObject({ name: NAME, warnings: ['its spam risk is 90 of 100'], mostMinor: null });
    expect((await ask('GET /orders/terms')).status).toBe(404);
  });
});

describe('kept sieves', () => {
  const keep = (name = 'Old and clean', view = 'c=age%3A10..') => ask('POST /sieves', { body: { name, view } });

  it('are kept under a name of their own, changed under their number, and deleted', async () => {
    const { value } = await keep();
    expect(await keep()).toMatchObject({ status: 409, value: { title: 'The name is taken' } });
    expect((await keep('Broken', 'c=nonsense%3A1')).status).toBe(400);
    const of = { params: { id: value.id } };
    expect((await ask('PATCH /sieves/{id}', { ...of, body: { view: 'c=age%3A20..' } })).value).toMatchObject({
      name: 'Old and clean',
      lastAt: null,
    });
    expect(called('setMembers').at(-1)).toEqual(['fresh', value.id, null, false]);
    expect((await ask('PATCH /sieves/{id}', { ...of, body: { view: 'c=nonsense%3A1' } })).status).toBe(400);
    expect((await ask('GET /sieves')).value.sieves).toHaveLength(1);
    expect((await ask('DELETE /sieves/{id}', of)).status).toBe(200);
    for (const path of ['PATCH /sieves/{id}', 'DELETE /sieves/{id}'] as const)
      expect((await ask(path, { ...of, body: {} } as never)).status).toBe(404);
    // both come back by their acts
    const { acts } = (await ask('GET /acts')).value;
    expect((await ask('POST /acts/{id}/undo', { params: { id: acts[0].id } })).status).toBe(200);
    expect((await ask('GET /sieves')).value.sieves).toHaveLength(1);
    expect((await ask('POST /acts/{id}/undo', { params: { id: 4711 } })).status).toBe(404);
  });

  it('run, are seen, and give what is new as a feed', async () => {
    const { value } = await keep();
    const of = { params: { id: value.id } };
    noteHits(store, value.id, [id], store.now(), false);
    const feed = await ask('GET /sieves/{id}/feed', of);
    expect(feed.headers.get('content-type')).toContain('application/atom+xml');
    expect(feed.text).toContain(`/domains/${NAME}`);
    expect((await ask('POST /sieves/{id}/seen', { ...of, body: { ids: [id] } })).status).toBe(204);
    expect(called('setMembers').at(-1)).toEqual(['fresh', value.id, [id], false]);
    engineAnswers({ runSieve: () => ({ total: 4, fresh: 1 }) });
    expect((await ask('POST /sieves/{id}/run', of)).value).toMatchObject({ total: 4 });
    expect((await ask('GET /sieves/{id}/feed', { params: { id: 4711 } })).status).toBe(404);
  });

  it('go to another machine as a file, under another name where theirs is taken', async () => {
    const { value } = await keep();
    const file = await ask('GET /sieves/{id}/file', { params: { id: value.id } });
    expect(file.headers.get('content-disposition')).toContain('Old-and-clean.sieve.json');
    expect((await ask('POST /sieves/file', { body: file.value })).value).toMatchObject({
      name: 'Old and clean (2)',
      problems: [],
    });
    expect((await ask('POST /sieves/file', { body: { ...file.value, conditions: ['nonsense:1'] } })).value.title).toBe(
      'The file holds no sieve',
    );
  });
});

describe('acts on domains', () => {
  it('are done to names or to what passes a sieve, and undone by number', async () => {
    engineAnswers({
      act: () => ({ action: 5, changed: 1 }),
      undo: () => ({ changed: 1 }),
      idsOf: () => ({ ids: [id] }),
      addJob: () => job(),
    });
    const act = (of: object, which: object = { names: [NAME] }) => ask('POST /actions', { body: { act: of, which } });
    expect((await act({ kind: 'judge', judged: 'keep' })).value).toMatchObject({ action: 5 });
    await act({ kind: 'tag', tag: 'to ask Mara' });
    expect(called('act').at(-1)).toEqual([{ kind: 'tag', tag: 1 }, { ids: [id] }]);
    expect((await ask('GET /tags')).value.tags).toMatchObject([{ name: 'to ask Mara' }]);
    expect((await act({ kind: 'judge', judged: 'keep' }, { names: ['nowhere.org'] })).status).toBe(404);
    expect((await act({ kind: 'shortlist', brief: 4711 })).status).toBe(404);
    expect(await act({ kind: 'measure' })).toMatchObject({ status: 202, value: { action: null, changed: 1 } });
    expect(await act({ kind: 'inspect' })).toMatchObject({ status: 202, value: { changed: 1 } });
    expect(called('addJob').map(([one]) => (one as { kind: string }).kind)).toEqual(['check', 'inspect']);
    expect((await ask('POST /actions/{id}/undo', { params: { id: 5 } })).status).toBe(200);
  });

  it('are checks of few names at once in depth, and of many or a source in their turn', async () => {
    engineAnswers({ addJob: () => job({ kind: 'check' }) });
    await ask('POST /checks', { body: { names: [NAME] } });
    await ask('POST /checks', { body: { sourceId: 4 } });
    const [few, source] = called('addJob').map(([one]) => one as { params: object });
    expect(few.params).toMatchObject({ ids: [id], depth: 'full' });
    expect(source.params).toMatchObject({ sourceId: 4 });
    expect((await ask('POST /checks', { body: { names: ['nowhere.org'] } })).status).toBe(404);
    await ask('POST /measures', { body: { names: [NAME], withinBudget: true } });
    expect(called('addJob').at(-1)?.[0]).toMatchObject({ kind: 'inspect', params: { isByHand: false } });
    expect((await ask('GET /measures')).value).toMatchObject({ queued: 0, next: [] });
  });

  it('keep long lists of words under one number', async () => {
    const first = await ask('POST /word-lists', { body: { words: ['wax', 'comb', 'wax'] } });
    expect(first.value).toMatchObject({ count: 2 });
    expect((await ask('POST /word-lists', { body: { words: ['comb', 'wax'] } })).value.id).toBe(first.value.id);
  });
});

describe('one domain', () => {
  it('has a dossier, as JSON and as a file that needs nothing else', async () => {
    linkOfTest(store, 'quillmere.org', NAME, { anchor: 'bees' });
    expect((await ask('GET /domains/{name}', { params })).value).toMatchObject({
      name: NAME,
      referrers: [{ site: 'quillmere.org' }],
    });
    const file = await ask('GET /domains/{name}/file', { params });
    expect(file.headers.get('content-disposition')).toContain(`${NAME}.html`);
    expect(file.text).toContain('quillmere.org');
    expect(file.text).not.toMatch(/<script/i);
    expect((await ask('GET /domains/{name}/file', { params, query: 'format=json' })).value).toMatchObject({
      name: NAME,
    });
    for (const path of ['GET /domains/{name}', 'GET /domains/{name}/file', 'GET /domains/{name}/notes'] as const)
      expect((await ask(path, { params: { name: 'nowhere.org' } })).status).toBe(404);
  });

  it('takes notes, answers of due diligence and decisions on word marks, and gives them back', async () => {
    const { value } = await ask('POST /domains/{name}/notes', { params, body: { text: ' ask Mara ' } });
    const of = { params: { ...params, id: value.note.id } };
    expect((await ask('DELETE /domains/{name}/notes/{id}', of)).value).toEqual({ notes: [] });
    expect((await ask('POST /domains/{name}/notes/{id}', of)).value.notes).toMatchObject([{ text: 'ask Mara' }]);
    expect((await ask('DELETE /domains/{name}/notes/{id}', { params: { ...params, id: 4711 } })).status).toBe(404);
    const tick = await ask('POST /domains/{name}/diligence', {
      params,
      body: { item: 'marks', state: 'fine', note: '' },
    });
    expect(tick.status).toBe(201);
    const undo = { params: { ...params, id: tick.value.id } };
    expect((await ask('DELETE /domains/{name}/diligence/{id}', undo)).status).toBe(204);
    expect((await ask('DELETE /domains/{name}/diligence/{id}', undo)).status).toBe(404);
    const mark = await ask('POST /domains/{name}/marks', {
      params,
      body: { verdict: 'clear', note: 'no firm of that name' },
    });
    expect(mark.value.reviews).toMatchObject([{ verdict: 'clear', note: 'no firm of that name' }]);
  });

  it('has tables of evidence, as a part or as a whole file', async () => {
    for (const n of [1, 2, 3]) linkOfTest(store, `quillmere${n}.org`, NAME, { anchor: `bees ${n}` });
    addTick(store, id, 'marks', 'fine', '');
    const of = (table: string, query = '') =>
      ask('GET /domains/{name}/tables/{table}', { params: { ...params, table }, query });
    const part = (await of('referrers', 'limit=2&sort=site&order=down')).value;
    expect([part.total, part.found, part.rows.length, part.rows[0].cells[0]]).toEqual([3, 3, 2, 'quillmere3.org']);
    const csv = await of('referrers', 'format=csv&limit=1');
    expect(csv.text.trim().split('\n')).toHaveLength(4);
    expect(csv.text.startsWith('site,anchor,')).toBe(true);
    expect((await of('history', 'format=jsonl')).text).toContain('"what":"Due diligence: marks"');
    expect((await of('chairs')).status).toBe(404);
    expect((await of('referrers', 'limit=0')).value.issues).toMatchObject([{ at: 'limit' }]);
  });

  it('has captures that were read, is raised in its queue, and confirmed', async () => {
    captureOfTest(store, domainOfTest(store, NAME), { at: 1000, title: 'Tarn Hives', terms: new Map([['bee', 3]]) });
    expect((await ask('GET /domains/{name}/captures/{at}', { params: { ...params, at: 1000 } })).value).toMatchObject({
      title: 'Tarn Hives',
      terms: [['bee', 3]],
      blocks: null,
    });
    expect((await ask('GET /domains/{name}/captures/{at}', { params: { ...params, at: 1 } })).status).toBe(404);
    expect((await ask('POST /domains/{name}/raise', { params })).value.place).toMatchObject({ step: 'dns', before: 0 });
  });

  it('stands beside others, up to four of them', async () => {
    domainOfTest(store, 'wexcombe.org');
    const { value } = await ask('GET /compare', { query: `name=${NAME}&name=wexcombe.org&name=nowhere.org` });
    expect(value).toMatchObject({ names: [NAME, 'wexcombe.org'], missing: ['nowhere.org'] });
    expect((await ask('GET /compare')).status).toBe(400);
  });
});

describe('the pool leaves', () => {
  it('as a table of a view, of what was selected, or of a shortlist', async () => {
    engineAnswers({ queryPool: () => ({ ids: [id] }), setMembers: () => ({}) });
    const csv = await ask('GET /export', { query: 'c=age%3A10..&sort=strength%3Adown' });
    expect(csv.text.split('\n')[0]).toMatch(/^domain,phase,/);
    expect(csv.text).toContain(`\n${NAME},`);
    expect(called('queryPool')[0][0]).toMatchObject({
      parts: [{ type: 'range' }],
      sorts: [{ fact: 'strength', descending: true }],
    });
    expect((await ask('GET /export', { query: 'format=jsonl' })).text).toContain(`"domain":"${NAME}"`);
    expect((await ask('GET /export', { query: 'format=xls' })).value.issues).toMatchObject([{ at: 'format' }]);
    expect((await ask('GET /export', { query: 'c=nonsense%3A1' })).status).toBe(400);
    await ask('POST /shortlist', { body: { briefId: brief.id, names: [NAME] } });
    const list = await ask('GET /export', { query: 'what=shortlist&format=tsv' });
    expect(list.text.split('\n')[0]).toMatch(/\tstage\tmaximum_bid\tnote$/);
    const form = new FormData();
    form.set('format', 'csv');
    form.set('which', JSON.stringify({ ids: [id] }));
    expect((await ask('POST /export', { form })).text).toContain(NAME);
    const view = new FormData();
    view.set('which', JSON.stringify({ view: '', except: [id] }));
    expect((await ask('POST /export', { form: view })).text).not.toContain(NAME);
  });
});

describe('sources and what is watched', () => {
  it('are told with their jobs, and a batch with how far it is', async () => {
    engineAnswers({ addJob: () => job({ kind: 'list' }) });
    const batch = await ask('POST /batches', { body: { text: `${NAME}, wexcombe.org` } });
    expect(batch.value).toMatchObject({ pieces: 2, job: { kind: 'list' } });
    expect(called('addJob')[0][0]).toMatchObject({ kind: 'list', next: [{ kind: 'check' }] });
    const of = { params: { id: batch.value.id } };
    write(store, () => {
      putSighting(store, id, batch.value.id, store.now(), 1, {});
      const verdict = { phase: 'active', confidence: 1, reason: 'there', contradictions: [] } as never;
      putVerdict(
        store,
        id,
        store.now(),
        [{ step: 'dns', server: 's', outcome: 'delegated', detail: 'ns1', elapsedMs: 1 }],
        verdict,
        null,
      );
    });
    expect((await ask('GET /batches/{id}', of)).value).toMatchObject({ domains: 1 });
    expect((await ask('GET /batches')).value.batches).toHaveLength(1);
    const file = await ask('GET /batches/{id}/file', of);
    expect(file.text).toContain(`${NAME},active,1,there`);
    expect(file.text).toContain('dns s');
    expect((await ask('GET /batches/{id}/file', { ...of, query: 'format=jsonl' })).text).toContain(
      `"domain":"${NAME}"`,
    );
    expect((await ask('POST /batches', { body: { text: ' , ;' } })).value.title).toBe('Nothing to check');
    expect((await ask('GET /batches/{id}', { params: { id: addSource(store, 'list', 'Drops', {}) } })).status).toBe(
      404,
    );
  });

  it('are watched, at rest, looked at and forgotten', async () => {
    const body = { kind: 'address', target: 'http://127.0.0.1:9/list.csv', name: 'Drops', everyMinutes: 60 } as const;
    const { value } = await ask('POST /watches', { body });
    const of = { params: { id: value.watch.id } };
    expect((await ask('PATCH /watches/{id}', { ...of, body: { isOn: false } })).value.watch).toMatchObject({
      isOn: false,
    });
    expect((await ask('POST /watches/{id}/look', of)).status).toBe(202);
    expect((await ask('GET /watches')).value.watches).toMatchObject([{ name: 'Drops', isOn: true }]);
    expect((await ask('DELETE /watches/{id}', of)).status).toBe(200);
    expect((await ask('DELETE /watches/{id}', of)).status).toBe(404);
    expect((await ask('POST /watches', { body: { ...body, kind: 'folder', target: 'here' } })).value.title).toBe(
      'Not a path',
    );
    expect((await ask('POST /watches', { body: { ...body, target: 'ftp://x' } })).value.title).toBe('Not an address');
  });

  it('have jobs that are steered, and rows of their own', async () => {
    const number = addJob(store, { kind: 'trial', sourceId: null, params: { seeds: [] } });
    expect((await ask('GET /jobs')).value.jobs).toMatchObject([{ id: number, kind: 'trial' }]);
    expect((await ask('GET /jobs/{id}', { params: { id: number } })).value).toMatchObject({ state: 'queued' });
    expect((await ask('GET /jobs/{id}/rows', { params: { id: number } })).value).toMatchObject({ rows: [] });
    engineAnswers({ steerJob: () => job({ state: 'cancelled' }) });
    expect((await ask('POST /jobs/{id}/{action}', { params: { id: number, action: 'cancel' } })).value).toMatchObject({
      state: 'cancelled',
    });
    expect((await ask('POST /jobs/{id}/{action}', { params: { id: number, action: 'dance' } })).status).toBe(404);
    expect((await ask('GET /jobs/{id}', { params: { id: 4711 } })).status).toBe(404);
  });

  it('of a venue give their open offers', async () => {
    listingOfTest(store, id, { venue: 'Quill Auctions', priceMinor: 5000 });
    const { sources } = (await ask('GET /sources')).value;
    const of = { params: { id: sources[0].id } };
    expect((await ask('GET /sources/{id}/listings', of)).value).toMatchObject({
      listings: [{ name: NAME, priceMinor: 5000 }],
    });
    expect((await ask('GET /sources/{id}/listings', { ...of, query: 'kind=auction' })).value.listings).toEqual([]);
    expect((await ask('GET /sources/{id}/listings', { ...of, query: 'kind=raffle' })).value.issues).toMatchObject([
      { at: 'kind' },
    ]);
    expect((await ask('GET /sources/{id}', of)).value).toMatchObject({ name: 'Quill Auctions' });
    expect((await ask('GET /sources/{id}', { params: { id: 4711 } })).status).toBe(404);
  });
});

describe('settings', () => {
  const desk = { venue: 'Quill Auctions', address: 'http://127.0.0.1:9/', key: 'a-secret', currency: 'EUR' };

  it('are changed without ever giving a key away, which stays where it was left empty', async () => {
    const changed = await ask('PATCH /settings', { body: { desks: [desk] } });
    expect(changed.text).not.toContain('a-secret');
    expect(called('settingsChanged')).toHaveLength(1);
    await ask('PATCH /settings', { body: { desks: [{ ...desk, key: '' }] } });
    expect((await ask('GET /settings')).text).not.toContain('a-secret');
    expect(
      store.raw.prepare("SELECT value FROM settings WHERE key = 'settings'").pluck().get() ??
        store.raw.prepare('SELECT group_concat(value) FROM settings').pluck().get(),
    ).toContain('a-secret');
    expect((await ask('PATCH /settings', { body: { currency: 'euro' } })).value.issues).toMatchObject([
      { at: 'currency' },
    ]);
  });

  it('that change which count is sorted by have all measured anew', async () => {
    engineAnswers({ addJob: () => job(), settingsChanged: () => ({}) });
    await ask('PATCH /settings', { body: { countFactor: 7 } });
    expect(called('addJob')).toMatchObject([[{ kind: 'measure', params: { all: true } }]]);
  });
});

describe('deadlines and outcomes', () => {
  it('are told in the person’s zone, by scope and kind, and as a calendar', async () => {
    domainOfTest(store, NAME, {
      drop_from: store.now() + 3_600_000,
      drop_to: store.now() + 7_200_000,
      drop_conditional: 0,
    });
    await ask('POST /shortlist', { body: { briefId: brief.id, names: [NAME] } });
    expect((await ask('GET /deadlines', { query: 'kinds=drop&hours=48' })).value).toMatchObject({
      total: 1,
      deadlines: [{ kind: 'drop', name: NAME }],
    });
    expect((await ask('GET /deadlines', { query: 'kinds=closing' })).value.total).toBe(0);
    for (const query of ['scope=yours', 'kinds=never', 'hours=0'])
      expect((await ask('GET /deadlines', { query })).status, query).toBe(400);
    expect((await ask('GET /deadlines/calendar')).text).toContain('BEGIN:VCALENDAR');
    expect((await ask('GET /learning')).value).toMatchObject({ suggestions: [] });
  });

  it('forget what a server taught', async () => {
    expect((await ask('GET /registries')).value).toEqual({ registries: [] });
    expect((await ask('DELETE /registries/{server}', { params: { server: 'whois.test' } })).status).toBe(204);
    expect(await freshStore()).toBeTruthy();
  });
});
