import type { IncomingMessage, ServerResponse } from 'node:http';
import pino from 'pino';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { Connection } from '../../core/connections/connection';
import { closeServers, httpServer } from '../../net/testing';
import type { Store } from '../../store/base/database';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { orderLog } from '../../store/orders/order-log';
import { type Order, readOrder } from '../../store/orders/order-rows';
import { happen } from '../../store/orders/orders';
import type { Brief } from '../../store/shortlist/briefs';
import { briefOfTest, domainOfTest, listingOfTest } from '../../store/testing';
import { Outbox } from './outbox';
import { type OrderWish, place, termsOf } from './place';

const VENUE = 'Umberley Lots';
const KEY = 'key-of-umberley';
type Answer = { status?: number; body?: object | string; isBroken?: boolean };

let store: Store;
let brief: Brief;
let domain: number;
let outbox: Outbox;
let host: string;
/** What the venue was sent, and what it answers by method. */
let heard: { method: string; url: string; key: unknown; body: string }[];
let answers: Record<string, Answer>;

beforeEach(async () => {
  heard = [];
  answers = {};
  host = await httpServer((request, reply) => void answer(request, reply));
  store = await freshStore();
  brief = briefOfTest(store);
  domain = domainOfTest(store, 'tarnhives.org').id;
  listingOfTest(store, domain, { venue: VENUE, kind: 'auction', priceMinor: 4000, currency: 'EUR' });
  outbox = new Outbox(store, () => undefined, pino({ level: 'silent' }));
});
afterEach(async () => {
  await outbox.close();
  closeServers();
});

async function answer(request: IncomingMessage, reply: ServerResponse) {
  let body = '';
  for await (const chunk of request) body += chunk;
  const { method = '', url = '', headers } = request;
  heard.push({ method, url, key: headers['x-api-key'], body });
  const { status = 200, body: said = {}, isBroken = false } = answers[method] ?? {};
  if (isBroken) return request.socket.destroy();
  reply.writeHead(status, { 'content-type': 'application/json' });
  reply.end(typeof said === 'string' ? said : JSON.stringify(said));
}

const taking = (rest: object = {}) =>
  Connection.parse({
    id: 'bids',
    title: 'Umberley bids',
    use: 'orders',
    venue: VENUE,
    kinds: ['bid'],
    currency: 'EUR',
    method: 'POST',
    address: `http://${host}/lots/{domain}/bids`,
    headers: [{ name: 'X-Api-Key', value: '{key}' }],
    body: '{"max": "{amount}", "ref": "{order}"}',
    key: KEY,
    isDry: false,
    format: 'json',
    fields: {
      result: { at: '/status' },
      price: { at: '/high' },
      reason: { at: '/message' },
      'order-number': { at: '/id' },
    },
    perMinute: 6000,
    ...rest,
  });
const asked = (rest: object = {}) =>
  Connection.parse({
    ...taking(),
    id: 'state',
    title: 'Umberley bids, where they stand',
    use: 'order-state',
    method: 'GET',
    address: `http://${host}/bids/{number}?ref={order}`,
    body: '',
    ...rest,
  });
const set = (...connections: Connection[]) =>
  changeSettings(store, { isDryRun: false, allowedPrivate: ['127.0.0.0/8'], dayLimitMinor: null, connections });
const bid = (part: Partial<OrderWish> = {}) =>
  place(store, { briefId: brief.id, domainId: domain, venue: VENUE, kind: 'bid', amountMinor: 9000, ...part });
/** Gives an order, and lets it go out. */
async function sent(): Promise<Order> {
  const after = await outbox.attend(bid().id);
  if (!after) throw new Error('it was not attended to');
  return after;
}
const logOf = (order: Order) => orderLog(store, { orderId: order.id }).map(({ words }) => words);

describe('an order to a described service', () => {
  it('is sent once, and asked after by the number that it was given', async () => {
    set(taking(), asked());
    answers.POST = { body: { status: 'winning', high: '41.00', id: 7731 } };
    const order = await sent();
    expect(heard).toEqual([
      { method: 'POST', url: '/lots/tarnhives.org/bids', key: KEY, body: `{"max": "90.00", "ref": "${order.key}"}` },
    ]);
    expect(order).toMatchObject({ state: 'leading', priceMinor: 4100, venueNumber: '7731' });
    expect(logOf(order)[0]).toBe('leading at 41.00 EUR, number 7731 there');
    answers.GET = { body: { status: 'won', high: '55.00' } };
    expect(await outbox.attend(order.id)).toMatchObject({ state: 'won', finalMinor: 5500 });
    expect(heard[1]).toMatchObject({ method: 'GET', url: `/bids/7731?ref=${order.key}` });
    expect(JSON.stringify(logOf(order))).not.toContain(KEY);
  });

  it('goes on by hand where nobody can be asked how it stands', async () => {
    set(taking());
    answers.POST = { body: { status: 'accepted' } };
    const order = await sent();
    expect(order).toMatchObject({ state: 'by hand', nextAt: null });
    expect(logOf(order)[0]).toMatch(/^nobody can be asked how it stands at Umberley Lots/);
    expect(happen(store, order.id, { kind: 'hand', outcome: 'won' }, 'you', null)).toMatchObject({ state: 'won' });
  });

  it.each<[string, Answer]>([
    ['is lost', { isBroken: true }],
    ['is an error of the server', { status: 502, body: 'Bad gateway' }],
    ['says to come again', { status: 429 }],
    ['is no JSON', { body: '<p>Thank you</p>' }],
    ['says a word that nobody knows', { body: { status: 'quuxed' } }],
    ['points elsewhere', { status: 302 }],
  ])('whose answer %s is never sent again', async (_, came) => {
    set(taking());
    answers.POST = came;
    const order = await sent();
    expect(order.state).toBe('by hand');
    expect(logOf(order)[0]).toMatch(/^whether Umberley Lots has it is not known/);
    expect(await outbox.attend(order.id)).toMatchObject({ state: 'by hand' });
    outbox.reconcile();
    outbox.turn();
    expect(heard).toHaveLength(1);
  });

  it('whose answer was lost is asked after, and sent again only where nothing came under its key', async () => {
    set(taking(), asked());
    answers = { POST: { isBroken: true }, GET: { status: 404 } };
    const order = await sent();
    expect(order.state).toBe('sent');
    expect(await outbox.attend(order.id)).toMatchObject({ state: 'queued' });
    answers.POST = { body: { status: 'outbid', high: 95 } };
    expect(await outbox.attend(order.id)).toMatchObject({ state: 'outbid', priceMinor: 9500 });
    expect(heard.map(({ method }) => method)).toEqual(['POST', 'GET', 'POST']);
  });

  it('is not sent again where it is asked after by what the venue may not know yet', async () => {
    set(taking(), asked({ address: `http://${host}/bids?lot={domain}` }));
    answers = { POST: { isBroken: true }, GET: { status: 404 } };
    const order = await sent();
    expect(await outbox.attend(order.id)).toMatchObject({ state: 'sent' });
    expect(heard.map(({ method }) => method)).toEqual(['POST', 'GET']);
  });

  it('waits for a key that is not here, and is not refused for the want of it', async () => {
    set(taking({ key: '' }));
    const order = await sent();
    expect(order).toMatchObject({ state: 'queued', reason: expect.stringContaining('is not here') });
    expect(order.nextAt).toBeGreaterThan(store.now());
    expect(heard).toEqual([]);
  });

  it('that never left goes out later', async () => {
    set(taking({ address: 'http://127.0.0.1:9/{domain}' }));
    const order = await sent();
    expect(order).toMatchObject({ state: 'queued', reason: '127.0.0.1:9 refuses connections' });
    expect(order.nextAt).toBeGreaterThan(store.now());
    set(taking());
    answers.POST = { body: { status: 'winning' } };
    await outbox.attend(order.id);
    expect(heard).toHaveLength(1);
  });

  it.each<[string, Answer, string]>([
    ['by its status', { status: 422, body: { message: 'below the least bid' } }, 'below the least bid'],
    ['in words of its own', { status: 400, body: 'no such lot' }, `answered 400: no such lot`],
    ['by a word', { body: { status: 'declined', message: 'the card was declined' } }, 'the card was declined'],
  ])('is refused %s, with the reason', async (_, came, words) => {
    set(taking());
    answers.POST = came;
    const order = await sent();
    expect(order).toMatchObject({ state: 'refused', refusedFor: 'other' });
    expect(order.reason).toContain(words);
  });

  it('what was taken once and is not known any more stays as it was', async () => {
    set(taking(), asked());
    answers = { POST: { body: { status: 'winning', id: 3 } }, GET: { status: 404 } };
    const order = await sent();
    expect(await outbox.attend(order.id)).toMatchObject({
      state: 'leading',
      reason: 'Umberley Lots does not know of it any more',
    });
  });

  it('is taken back there, once it has left', async () => {
    set(taking(), asked());
    answers.POST = { body: { status: 'winning' } };
    const order = await sent();
    expect(await outbox.withdraw(order.id)).toBe('Umberley Lots: take it back there');
    expect(readOrder(store, order.id)?.state).toBe('leading');
  });
});

describe('a dry run of one service', () => {
  it('writes down what would be sent, without its key, and sends nothing', async () => {
    set(taking({ isDry: true }));
    const order = bid();
    expect(order.state).toBe('dry');
    const [shown] = logOf(order);
    expect(shown).toContain(`this would be sent: POST http://${host}/lots/tarnhives.org/bids`);
    expect(shown).toContain(`{"max": "90.00", "ref": "${order.key}"}`);
    expect(shown).not.toContain(KEY);
    await outbox.attend(order.id);
    expect(heard).toEqual([]);
  });

  it('that is switched on before an order was sent keeps it here', async () => {
    set(taking());
    const order = bid({ sendAt: store.now() + 1000 });
    expect(order.state).toBe('queued');
    set(taking({ isDry: true }));
    expect(await outbox.attend(order.id)).toMatchObject({
      state: 'refused',
      reason: expect.stringContaining('dry run was switched on'),
    });
    expect(heard).toEqual([]);
  });

  it('is said with the terms', async () => {
    set(taking({ isDry: true }));
    const { ways } = await termsOf(store, brief.id, domain);
    expect(ways).toMatchObject([{ venue: VENUE, hasAccount: true, isDry: true, refusal: null }]);
  });
});

describe('what is ordered by a description', () => {
  it('is what it names: the rest is done by hand', async () => {
    listingOfTest(store, domain, { venue: VENUE, kind: 'buy-now', priceMinor: 20_000, currency: 'EUR' });
    set(taking());
    expect(bid({ kind: 'buy', amountMinor: 20_000 })).toMatchObject({ state: 'by hand' });
  });

  it('is in its currency, or refused', async () => {
    set(taking({ currency: 'GBP' }));
    expect(() => bid()).toThrow('Umberley Lots has it in EUR, and orders are described in GBP');
    const { ways } = await termsOf(store, brief.id, domain);
    expect(ways[0].refusal).toMatch(/in EUR/);
  });

  it('goes through an account where there is one', () => {
    set(taking({ isDry: true }));
    changeSettings(store, { accounts: [{ venue: VENUE, address: 'http://127.0.0.1:9/', key: 'k', currency: 'EUR' }] });
    expect(bid()).toMatchObject({ state: 'queued' });
  });
});
