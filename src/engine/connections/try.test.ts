import type { RequestListener } from 'node:http';
import { afterEach, describe, expect, it } from 'vitest';
import { CONNECTION_USES, Connection, type ConnectionUse } from '../../core/connections/connection';
import { closeServers, httpServer } from '../../net/testing';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { tryConnection } from './try';

afterEach(closeServers);

const NAME = 'pellgatehives.org';
/** Of a service that says nothing: no longer than that is waited for it. */
const QUICK_MS = 400;

/** Orders are no question: they are shown, not sent. */
type Asked = Exclude<ConnectionUse, 'orders'>;
const ASKED = CONNECTION_USES.filter((use): use is Asked => use !== 'orders');

const PAGES = { hits: [{ url: 'https://tarnhives.org/', title: 'Tarn hives' }], total: 31 };
const FOUND = {
  entries: '/hits',
  fields: { url: { at: '/url' }, title: { at: '/title' }, total: { in: 'answer', at: '/total' } },
};
/** How each use is described, what answers it well, and what is understood then. */
const USES: Record<Asked, { rest: object; answer: unknown; understood: RegExp[] }> = {
  registrar: {
    rest: { fields: { availability: { at: '/status' }, price: { at: '/price' }, renewal: { at: '/renew' } }, currency: 'EUR' },
    answer: { status: 'available', price: 9.9, renew: 14 },
    understood: [/pellgatehives.org is available/, /costs 9.90 EUR/, /further year costs 14 EUR/],
  },
  search: { rest: FOUND, answer: PAGES, understood: [/^1 page, the first Tarn hives/, /31 in all/] },
  marks: {
    rest: { entries: '/m', fields: { mark: { at: '/n' }, owner: { at: '/o' } } },
    answer: { m: [{ n: 'Tarn', o: 'Tarn Ltd' }, { n: 'Hive' }] },
    understood: [/^2 trademarks, the first Tarn of Tarn Ltd; Hive/],
  },
  listings: {
    rest: { entries: '/lots', fields: { domain: { at: '/d' }, price: { at: '/p' } } },
    answer: { lots: [{ d: 'tarnhives.org', p: 12 }, { d: 'no domain at all' }] },
    understood: [/^1 listing in its first part: tarnhives.org/, /1 entry rejected/],
  },
  figures: {
    rest: { fields: { 'referring-domains': { at: '/rd' }, traffic: { at: '/visits' } } },
    answer: { rd: 12, visits: 340 },
    understood: [/pellgatehives.org: referring domains 12, traffic 340/],
  },
  shown: { rest: FOUND, answer: PAGES, understood: [/^1 page/, /31 in all/] },
  directories: { rest: FOUND, answer: PAGES, understood: [/^1 page/] },
  mentions: { rest: FOUND, answer: PAGES, understood: [/^1 page/] },
  'order-state': {
    rest: { venue: 'Umberley Lots', fields: { result: { at: '/state' }, price: { at: '/high' }, domain: { at: '/name' } }, currency: 'EUR' },
    answer: { state: 'Winning', high: '44.00', name: 'tarnhives.org' },
    understood: [/^The order: leading, 44 EUR\./],
  },
}; // biome-ignore format: one part a line

async function ask(
  use: Asked,
  reply: RequestListener | null,
  rest: object = {},
  question?: string,
  timeoutMs?: number,
) {
  const host = reply ? await httpServer(reply) : '127.0.0.1:9';
  const store = await freshStore();
  changeSettings(store, { allowedPrivate: ['127.0.0.0/8'] });
  const connection = Connection.parse({
    id: 'one',
    title: 'Saltmarch',
    use,
    address: `http://${host}/?d={domain}&q={words}&o={number}&k={key}`,
    key: 'key-of-saltmarch',
    format: 'json',
    ...USES[use].rest,
    ...rest,
  });
  const words = use === 'search' || use === 'marks' ? 'tarn hives' : use === 'order-state' ? '7731' : NAME;
  return tryConnection(store, connection, question ?? words, new AbortController().signal, timeoutMs);
}
const json =
  (value: unknown, status = 200): RequestListener =>
  (_, reply) =>
    reply.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(value));

describe.each(ASKED)('a service for %s that is tried', (use) => {
  const { answer, understood } = USES[use];

  it('says what it answered, and what of it was understood', async () => {
    const { tried, laidOut } = await ask(use, json(answer));
    expect(tried).toMatchObject({ outcome: 'works', problem: null });
    for (const words of understood) expect(tried.understood.join('\n')).toMatch(new RegExp(words.source, 'm'));
    expect(tried.came).toContain('HTTP 200');
    expect(laidOut?.format).toBe('json');
    expect(laidOut?.leaves.length).toBeGreaterThan(0);
  });

  it('may refuse its key', async () => {
    const { tried } = await ask(use, json({ error: 'the key key-of-saltmarch has ended' }, 401));
    expect(tried).toMatchObject({ outcome: 'refused', problem: { field: 'key' } });
    expect(JSON.stringify(tried)).not.toContain('key-of-saltmarch');
  });

  it('may answer with something else', async () => {
    const { tried, laidOut } = await ask(use, (_, reply) => reply.end('<!doctype html><p>Parked</p><p>Here</p>'));
    expect(tried).toMatchObject({ outcome: 'nonsense', problem: { field: 'format', words: 'The answer is no JSON.' } });
    expect(laidOut?.format).toBe('html');
  });

  it('may be silent', async () => {
    const { tried, laidOut } = await ask(use, () => undefined, {}, undefined, QUICK_MS);
    expect(tried).toMatchObject({ outcome: 'silent', problem: { field: 'address' } });
    expect(tried.problem?.words).toMatch(/did not answer/);
    expect(laidOut).toBeNull();
  });
});

describe('a service of which nothing is picked yet', () => {
  it('is asked, its answer laid out, and its meaning proposed', async () => {
    const { tried, laidOut } = await ask(
      'listings',
      json({ page: 1, items: [{ domain: 'a.org', price: 3, currency: 'EUR' }] }),
      {
        entries: '',
        fields: {},
      },
    );
    expect(tried).toMatchObject({ outcome: 'unread', problem: { field: 'fields' } });
    expect(laidOut).toMatchObject({
      series: [{ at: '/items', count: 1 }],
      proposed: { entries: '/items', fields: { domain: { at: '/domain' }, price: { at: '/price' } } },
    });
  });

  it('of a page shows what comes again and again', async () => {
    const page = '<ol><li class="hit"><a href="/a">A first result</a></li><li class="hit"><a href="/b">B</a></li></ol>';
    const { laidOut } = await ask(
      'search',
      (_, reply) => reply.writeHead(200, { 'content-type': 'text/html' }).end(page),
      {
        format: 'html',
        entries: 'li.hit',
        fields: { url: { at: 'a@href' } },
      },
    );
    expect(laidOut?.repeated[0]).toMatchObject({ selector: 'li.hit', count: 2 });
    expect(laidOut?.rows[0][0]).toMatch(/^http:\/\/127\.0\.0\.1:\d+\/a$/);
  });
});

describe('a service that takes orders', () => {
  const show = async (sample: string, rest: object = {}) => {
    const connection = Connection.parse({
      id: 'bids',
      title: 'Umberley bids',
      use: 'orders',
      venue: 'Umberley Lots',
      kinds: ['bid'],
      currency: 'GBP',
      method: 'POST',
      // nobody listens: whoever asked would hear of it
      address: 'http://127.0.0.1:9/bids',
      headers: [{ name: 'X-Api-Key', value: '{key}' }],
      body: '{"lot": "{domain}", "max": {minor}, "ref": "{order}"}',
      key: 'key-of-umberley',
      format: 'json',
      fields: { result: { at: '/status' }, price: { at: '/high' }, 'order-number': { at: '/bid_id' } },
      errors: [{ at: '/error' }],
      ...rest,
    });
    return tryConnection(await freshStore(), connection, sample, new AbortController().signal);
  };

  it('shows what would be sent, without its key, and sends nothing', async () => {
    const { tried } = await show('');
    expect(tried).toMatchObject({ outcome: 'unread', problem: { field: 'question' } });
    expect(tried.asked).toBe(
      'What would be sent to bid for ashcottbees.org at 42.50 GBP? (Umberley bids; nothing is sent)',
    );
    expect(tried.came.split('\n')).toEqual([
      'POST http://127.0.0.1:9/bids',
      'accept: application/json',
      'content-type: application/json',
      'x-api-key: …',
      '',
      '{"lot": "ashcottbees.org", "max": 4250, "ref": "00000000-0000-4000-8000-000000000000"}',
    ]);
  });

  it('says what an answer of its documentation means, and proposes what stands where', async () => {
    const { tried, laidOut } = await show('{"status": "winning", "high": 41.5, "bid_id": 7731}');
    expect(tried).toMatchObject({
      outcome: 'works',
      understood: ['Such an answer means: leading, 41.50 GBP, number 7731.'],
    });
    expect(laidOut?.proposed?.fields).toMatchObject({ result: { at: '/status' }, 'order-number': { at: '/bid_id' } });
  });

  it.each([
    ['an error', '{"error": "lot is closed"}', 'works', 'Such an answer means: refused: lot is closed.'],
    ['a word that nobody knows', '{"status": "quuxed"}', 'nonsense', 'no word that is known of an order'],
    ['something else', '<p>Down</p>', 'nonsense', 'no JSON'],
  ])('says so of %s', async (_, sample, outcome, words) => {
    const { tried } = await show(sample);
    expect(tried.outcome).toBe(outcome);
    expect([...tried.understood, tried.problem?.words].join(' ')).toContain(words);
  });

  it('that nothing is picked of yet wants it', async () => {
    const { tried } = await show('{"status": "winning"}', { fields: {} });
    expect(tried).toMatchObject({ outcome: 'unread', problem: { field: 'fields' } });
  });
});

describe('a question that makes no sense', () => {
  it('is not put', async () => {
    await expect(ask('registrar', json({}), {}, 'no domain')).rejects.toThrow('is no domain that can be registered');
    await expect(ask('search', json({}), {}, ' ')).rejects.toThrow('Say the words');
  });

  it('to an address inside names what has to be allowed', async () => {
    const store = await freshStore();
    const connection = Connection.parse({
      id: 'a',
      title: 'A',
      use: 'listings',
      address: 'http://127.0.0.1:9/',
      format: 'json',
    });
    const { tried } = await tryConnection(store, connection, '', new AbortController().signal);
    expect(tried).toMatchObject({ outcome: 'refused', problem: { field: 'allowedPrivate' } });
  });
});
