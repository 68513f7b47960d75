import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { happen, placeOrder } from '../../store/orders/orders';
import type { Brief } from '../../store/shortlist/briefs';
import { domainOfTest, listingOfTest } from '../../store/testing';
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
    engineAnswers({ addJob: () => jobOfTest() });
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
    expect((await ask('GET /ledger', { query: 'brief=4711' })).status).toBe(404);
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
