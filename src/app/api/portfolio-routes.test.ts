import { gzipSync } from 'node:zlib';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { changeSettings } from '../../store/base/settings';
import { putRankings } from '../../store/portfolio/rankings';
import { captureOfTest, domainOfTest, linkOfTest } from '../../store/testing';
import { ask, engineAnswers, engineAsked, serving } from './testing';

const NAME = 'tarnhives.org';
const params = { name: NAME };
const DEAD = `https://${NAME}/queens`;
const PAGE = 'https://quillmere.org/links';
const OWN = 'https://ours.org/queens';
let store: Store;

beforeEach(async () => {
  ({ store } = await serving({
    act: () => ({ action: 1 }),
    resaleWorth: (names: string[]) => names.map(() => null),
    resaleLook: () => null,
  }));
  domainOfTest(store, NAME);
});

const own = () =>
  ask('POST /holdings', { file: `domain,cost,currency,renewal\n${NAME},42,EUR,12.50\nno domain,1,EUR,\n` });

describe('holdings', () => {
  it('come from a list with what was not understood told, are watched, and stand in the order they renew', async () => {
    const { status, value } = await own();
    expect(status).toBe(201);
    expect(value).toMatchObject({ taken: 1, known: 0, setAside: 1, aside: [{ line: 3 }] });
    expect(engineAsked).toMatchObject([{ call: 'act', values: [{ kind: 'watch' }, { ids: [expect.any(Number)] }] }]);
    expect((await own()).value).toMatchObject({ taken: 0, known: 1, act: null });
    expect((await ask('GET /holdings')).value.holdings).toMatchObject([
      { name: NAME, costMinor: 4200, renewalMinor: 1250 },
    ]);
  });

  it('refuse a list without a column for the domain', async () => {
    expect(await ask('POST /holdings', { file: 'cost\n4\n' })).toMatchObject({
      status: 400,
      value: { title: 'The file makes no sense' },
    });
  });

  it('are changed one by one, and say what was before', async () => {
    await own();
    expect((await ask('PATCH /holdings/{name}', { params, body: { note: 'ask Mara' } })).value).toMatchObject({
      before: { note: '' },
    });
    expect((await ask('PATCH /holdings/{name}', { params, body: { plan: 'juggle' } })).status).toBe(400);
    domainOfTest(store, 'wexcombe.org');
    expect(
      (await ask('PATCH /holdings/{name}', { params: { name: 'wexcombe.org' }, body: { note: 'x' } })).status,
    ).toBe(404);
  });

  it('take sums, which count in profit and loss, and leave it again', async () => {
    await own();
    const entry = {
      at: Date.UTC(2026, 10, 20),
      kind: 'sale' as const,
      amountMinor: 90_000,
      currency: 'EUR',
      words: 'to Mara',
    };
    const { value, status } = await ask('POST /holdings/{name}/entries', { params, body: entry });
    expect(status).toBe(201);
    const profit = async (query = '') => ask('GET /holdings/profit', { query });
    expect((await profit()).value).toMatchObject({
      currency: 'EUR',
      by: 'domain',
      lines: [{ key: NAME, costMinor: 4200 }],
    });
    const csv = await profit('format=csv');
    expect(csv.headers.get('content-type')).toContain('text/csv');
    expect(csv.text).toContain(`2026-11-20T00:00:00.000Z,${NAME},`);
    expect(csv.text).toContain('900.00');
    expect((await profit('format=xlsx')).headers.get('content-disposition')).toContain('profit-and-loss.xlsx');
    expect((await profit('by=colour')).value).toMatchObject({ status: 400, issues: [{ at: 'by' }] });
    await ask('PATCH /holdings/{name}/entries', { params, body: { id: value.id, isRemoved: true } });
    expect((await profit('format=csv')).text).not.toContain('900.00');
    expect((await ask('PATCH /holdings/{name}/entries', { params, body: { id: 4711, isRemoved: true } })).status).toBe(
      404,
    );
  });
});

describe('sales', () => {
  const OFFER = { name: NAME, venue: 'a fair', askMinor: 60_000, floorMinor: 30_000, currency: 'EUR' };

  it('begin by hand where there is no account, take who asks, answers and the end', async () => {
    await own();
    const offered = await ask('POST /resales', { body: OFFER });
    expect(offered.status).toBe(201);
    expect(offered.value.sale).toMatchObject({ state: 'by hand', text: expect.stringContaining(NAME) });
    const of = { params: { id: offered.value.sale.id } };
    const asked = await ask('POST /resales/{id}/inquiries', {
      ...of,
      body: { buyer: 'Hale', words: 'asks', offerMinor: 40_000 },
    });
    expect(asked.value.sale.inquiries).toMatchObject([{ buyer: 'Hale', state: 'open' }]);
    const { inquiry } = asked.value.sale.inquiries[0];
    const low = await ask('POST /resales/{id}/answers', {
      ...of,
      body: { inquiry: 'nobody', act: 'decline', amountMinor: null },
    });
    expect(low.status).toBe(409);
    expect(
      (await ask('POST /resales/{id}/answers', { ...of, body: { inquiry, act: 'decline', amountMinor: null } })).status,
    ).toBe(200);
    expect((await ask('GET /resales')).value.sales).toHaveLength(1);
    const sold = await ask('POST /resales/{id}/sold', { ...of, body: { finalMinor: 50_000, feesMinor: 5000 } });
    expect(sold.value.sale).toMatchObject({ state: 'sold', finalMinor: 50_000 });
    expect((await ask('GET /resales')).value.sales).toEqual([]);
    expect((await ask('GET /resales/{id}', of)).value.sale).toMatchObject({ state: 'sold' });
  });

  it('refuse what is not owned, a floor above the price, another currency than the account’s, and a text of nothing', async () => {
    expect((await ask('POST /resales', { body: OFFER })).value.detail).toContain('not owned');
    await own();
    expect((await ask('POST /resales', { body: { ...OFFER, floorMinor: 70_000 } })).value.detail).toContain(
      'Less is asked than the floor',
    );
    expect((await ask('POST /resales', { body: { ...OFFER, sentences: [] } })).status).toBe(400);
    changeSettings(store, {
      isDryRun: false,
      accounts: [{ venue: 'a fair', address: 'http://127.0.0.1:9/', key: 'k', currency: 'GBP' }],
    });
    expect((await ask('POST /resales', { body: OFFER })).value.detail).toBe('Prices at a fair are in GBP.');
  });

  it('at a venue are asked for at once, and taken back only with its word', async () => {
    await own();
    changeSettings(store, {
      isDryRun: false,
      accounts: [{ venue: 'a fair', address: 'http://127.0.0.1:9/', key: 'k', currency: 'EUR' }],
    });
    const { value } = await ask('POST /resales', { body: OFFER });
    expect(engineAsked.at(-1)).toMatchObject({ call: 'resaleLook', values: [value.sale.id] });
    engineAnswers({ resaleWithdraw: () => 'it is sold', resaleLook: () => null });
    const of = { params: { id: value.sale.id } };
    expect(await ask('DELETE /resales/{id}', of)).toMatchObject({ status: 409, value: { detail: 'it is sold' } });
    expect((await ask('POST /resales/{id}/sold', { ...of, body: { finalMinor: 1, feesMinor: 0 } })).status).toBe(409);
    expect((await ask('POST /resales/{id}', of)).status).toBe(200);
    engineAnswers({ resaleWithdraw: () => null });
    expect((await ask('DELETE /resales/{id}', of)).status).toBe(200);
    expect((await ask('GET /resales/{id}', { params: { id: 4711 } })).status).toBe(404);
  });
});

describe('redirects', () => {
  const ADDRESSES = `url,title\n${OWN},Raising queens\nhttps://ours.org/honey,Honey\n`;

  beforeEach(() => {
    linkOfTest(store, 'quillmere.org', NAME, { toUrl: DEAD, anchor: 'raising queens', fromUrl: PAGE });
  });

  it('are decided against own pages, and leave as files of each kind', async () => {
    expect((await ask('POST /own-pages', { query: 'name=ours', file: ADDRESSES })).value).toEqual({
      taken: 2,
      setAside: 0,
    });
    expect((await ask('GET /own-pages')).value).toMatchObject({ sources: [{ source: 'ours', pages: 2 }] });
    const plan = (await ask('GET /domains/{name}/redirects', { params })).value;
    expect(plan.proposals[0].candidates[0].url).toBe(OWN);
    const rules = [{ from: '/queens', to: OWN }];
    expect((await ask('PATCH /domains/{name}/redirects', { params, body: { rules } })).value).toMatchObject({
      problems: [],
    });
    for (const [format, holds] of [['csv', '/queens,'], ['nginx', 'queens'], ['apache-map', '/queens '], ['apache-host', 'RewriteMap']] as const) {
      const { text, status } = await ask('GET /domains/{name}/redirects/file', { params, query: `format=${format}` });
      expect([status, text.includes(holds)], format).toEqual([200, true]);
    } // biome-ignore format: a file a cell
    expect((await ask('GET /domains/{name}/redirects/file', { params, query: 'format=prose' })).status).toBe(400);
  });

  it('take no own pages that a crawl has not read, and no index of sitemaps', async () => {
    expect((await ask('POST /own-pages', { query: 'site=ours.org' })).status).toBe(404);
    const index =
      '<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><sitemap><loc>https://ours.org/a.xml</loc></sitemap></sitemapindex>';
    expect((await ask('POST /own-pages', { file: index })).value).toMatchObject({
      status: 400,
      title: 'That is an index of sitemaps',
    });
  });

  it('are held against the log of a server, plain or packed', async () => {
    const line = (path: string, status: number) =>
      `203.0.113.9 - - [20/Nov/2026:10:00:00 +0000] "GET ${path} HTTP/1.1" ${status} 0 "-" "Mozilla/5.0"`;
    const log = [line('/queens', 301), line('/wax', 410), 'no line of a log'].join('\n');
    const told = await ask('POST /domains/{name}/redirects/log', {
      params,
      file: gzipSync(log),
      query: 'name=november',
    });
    expect(told).toMatchObject({ status: 201, value: { lines: 3, setAside: 1, moved: 1, gone: 1 } });
    expect((await ask('POST /domains/{name}/redirects/log', { params, file: 'nothing\n' })).value.detail).toContain(
      'No line of it',
    );
    expect(
      (await ask('POST /domains/{name}/redirects/log', { params, file: new Uint8Array([0x1f, 0x8b, 1, 2]) })).value
        .detail,
    ).toContain('cannot be unpacked');
  });

  it('become a plan of what to bring back, as JSON and as text', async () => {
    captureOfTest(store, domainOfTest(store, NAME), { url: DEAD, title: 'Raising queens' });
    putRankings(store, [{ name: NAME, line: 1, phrase: 'raising queens', position: 2, searches: 900, clickMinor: 80, currency: 'EUR', competition: 0.2, at: null }], 'Autumn'); // biome-ignore format: one phrase
    const { value } = await ask('GET /domains/{name}/rebuild', { params });
    expect(value.pages[0]).toMatchObject({ path: '/queens' });
    const steps = [{ key: value.steps[0].key, state: 'done' }];
    expect((await ask('PATCH /domains/{name}/rebuild', { params, body: { steps } })).status).toBe(200);
    const { text, headers } = await ask('GET /domains/{name}/rebuild/file', { params });
    expect(headers.get('content-type')).toContain('text/markdown');
    expect(text).toContain(NAME);
    expect(text).toContain('/queens');
  });
});

describe('prospects', () => {
  beforeEach(() => {
    linkOfTest(store, 'quillmere.org', NAME, { toUrl: DEAD, anchor: 'raising queens', fromUrl: PAGE });
  });
  const put = () => ask('POST /prospects', { body: { target: DEAD, domain: NAME, standIn: OWN } });

  it('are put on the list once, changed, given back and dropped', async () => {
    expect(await put()).toMatchObject({ status: 201, value: { added: [PAGE] } });
    expect((await put()).value).toEqual({ added: [] });
    const { before } = (await ask('PATCH /prospects', { body: { target: DEAD, page: PAGE, state: 'written' } })).value;
    expect(before).toMatchObject({ state: 'to write' });
    expect((await ask('GET /prospects')).value.rows).toMatchObject([{ page: PAGE, state: 'written', standIn: OWN }]);
    await ask('PATCH /prospects', { body: { target: DEAD, page: PAGE, before } });
    expect((await ask('GET /prospects')).value.rows[0]).toMatchObject({ state: 'to write', writtenAt: null });
    expect((await ask('PATCH /prospects', { body: { target: DEAD, standIn: null } })).value).toEqual({
      before: { standIn: OWN },
    });
    expect((await ask('PATCH /prospects', { body: { target: DEAD, page: PAGE, isDropped: true } })).status).toBe(200);
    expect((await ask('PATCH /prospects', { body: { target: DEAD, page: PAGE, isDropped: true } })).status).toBe(404);
  });

  it('are not of an address that nobody links to', async () => {
    expect((await ask('POST /prospects', { body: { target: `https://${NAME}/nothing`, domain: NAME } })).status).toBe(
      404,
    );
  });

  it('say what a look at a page found, and go on by it', async () => {
    await put();
    engineAnswers({ linksOf: () => ({ links: [OWN], contact: 'mailto:mara@quillmere.org' }) });
    const { value } = await ask('POST /prospects/look', { body: { target: DEAD, page: PAGE } });
    expect(value).toEqual({ linksStill: false, linksToOwn: true, contact: 'mailto:mara@quillmere.org' });
    expect((await ask('GET /prospects')).value.rows[0]).toMatchObject({
      state: 'changed',
      contact: 'mailto:mara@quillmere.org',
    });
    expect((await ask('POST /prospects/look', { body: { target: DEAD, page: `${PAGE}/x` } })).status).toBe(404);
  });

  it('come with dead targets as JSON or as a table', async () => {
    expect((await ask('GET /targets')).value).toEqual({ targets: [] });
    const { text, headers } = await ask('GET /targets', { query: 'format=csv' });
    expect(headers.get('content-type')).toContain('text/csv');
    expect(text.startsWith('dead_page,status,')).toBe(true);
  });
});

describe('lists of sales, phrases and places', () => {
  it('are taken with their name, and what was not understood is told', async () => {
    engineAnswers({ domainsChanged: () => ({}) });
    const sales = await ask('POST /sales', {
      query: 'name=Autumn',
      file: 'domain,price,currency,date\nsoldhive.org,120,EUR,2026-10-01\nbroken,,,\n',
    });
    expect(sales.value).toMatchObject({ taken: 1, repeated: 0, setAside: 1 });
    expect((await ask('GET /sales')).value).toEqual(sales.value.known);
    const file = `domain,phrase,position,searches,cpc,currency\n${NAME},queens,1,900,0.80,EUR\nnowhere.org,x,1,9,0.1,EUR\n`;
    expect((await ask('POST /rankings', { file })).value).toMatchObject({ taken: 1, unknown: 1 });
    expect(engineAsked.at(-1)).toMatchObject({ call: 'domainsChanged' });
    expect((await ask('POST /ideas/places', { file: 'place,people\nHull,260000\n' })).value).toMatchObject({
      taken: 1,
      setAside: 0,
    });
    for (const path of ['POST /sales', 'POST /rankings', 'POST /ideas/places'] as const)
      expect((await ask(path, { file: 'what\nnothing\n' })).value).toMatchObject({
        status: 400,
        title: 'The file makes no sense',
      });
  });
});
