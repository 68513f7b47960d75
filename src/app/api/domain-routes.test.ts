import { beforeEach, describe, expect, it } from 'vitest';
import { EXPORTED_LISTS } from '../../contracts/exports';
import type { Store } from '../../store/base/database';
import { addTick } from '../../store/domains/notes';
import type { Brief } from '../../store/shortlist/briefs';
import { captureOfTest, domainOfTest, linkOfTest } from '../../store/testing';
import { ask, called, engineAnswers, jobOfTest, serving } from './testing';

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

/** Lists of which there are several, by number. */
const NUMBERED: ReadonlySet<string> = new Set(['batch', 'ideas', 'page-links']);

describe('acts on domains', () => {
  it('are done to names or to what passes a sieve, and undone by number', async () => {
    engineAnswers({
      act: () => ({ action: 5, changed: 1 }),
      undo: () => ({ changed: 1 }),
      idsOf: () => ({ ids: [id] }),
      addJob: () => jobOfTest(),
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
    engineAnswers({ addJob: () => jobOfTest({ kind: 'check' }) });
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

  it('takes notes, answers of due diligence and decisions on trademarks, and gives them back', async () => {
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
    engineAnswers({
      askPages: () => ({ at: 7, who: 'Salt', total: 31, pages: [{ url: 'https://a.test/', title: 'A' }] }),
    });
    expect((await ask('POST /domains/{name}/diligence/ask', { params, body: { item: 'mentioned' } })).status).toBe(200);
    expect(called('askPages')).toEqual([['mentioned', params.name]]);
    await ask('POST /domains/{name}/diligence/ask', { params, body: { item: 'mentioned' } });
    const { diligence } = (await ask('GET /domains/{name}', { params })).value;
    expect(diligence.find((one: { item: string }) => one.item === 'mentioned')).toMatchObject({
      state: 'fine',
      answer: 'mentioned on 31 pages of others, says Salt',
      asking: { who: null, pages: [{ title: 'A' }] },
    });
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
    expect(csv.text.split('\n')[0]).toMatch(/^domain,status,/);
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
    expect(list.text.split('\n')[0]).toMatch(/\tstage\tmaximum_bid\tnote\t/);
    for (const what of EXPORTED_LISTS.filter((one) => !NUMBERED.has(one))) {
      const { status, text, headers } = await ask('GET /export', { query: `what=${what}&format=csv` });
      expect([what, status, text.split('\r\n')[0].includes(',')]).toEqual([what, 200, true]);
      expect(headers.get('content-disposition')).toMatch(/filename="[a-z-]+\.csv"/);
    }
    for (const what of NUMBERED)
      expect([what, (await ask('GET /export', { query: `what=${what}&id=4711` })).status]).toEqual([what, 404]);
    const form = new FormData();
    form.set('format', 'csv');
    form.set('which', JSON.stringify({ ids: [id] }));
    expect((await ask('POST /export', { form })).text).toContain(NAME);
    form.set('columns', '0|length,worth,domain');
    const heads = (await ask('POST /export', { form })).text.split('\r\n')[0];
    expect(heads).toMatch(/^domain,length,worth_low,worth_high,/);
    form.set('columns', '0|length');
    expect((await ask('POST /export', { form })).text).toBe(`domain,length\r\n${NAME},${NAME.indexOf('.')}\r\n`);
    const view = new FormData();
    view.set('which', JSON.stringify({ view: '', except: [id] }));
    expect((await ask('POST /export', { form: view })).text).not.toContain(NAME);
  });
});
