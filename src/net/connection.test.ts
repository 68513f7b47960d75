import type { IncomingMessage } from 'node:http';
import { afterEach, describe, expect, it } from 'vitest';
import { Connection } from '../core/connections/connection';
import type { Filling } from '../core/connections/template';
import { askDescribed, ConnectionClient } from './connection';
import { HttpClient } from './http';
import { closeServers, httpServer } from './testing';

const clients: HttpClient[] = [];
afterEach(async () => {
  closeServers();
  for (const client of clients.splice(0)) await client.close();
});

type Reply = { status?: number; headers?: Record<string, string>; body?: unknown };

/** A service, and what it was asked. */
async function service(reply: (request: IncomingMessage & { url: string }, body: string) => Reply) {
  const asked: { url: string; method: string; headers: IncomingMessage['headers']; body: string; at: number }[] = [];
  const host = await httpServer((request, response) => {
    let body = '';
    request.on('data', (chunk) => {
      body += chunk;
    });
    request.on('end', () => {
      const { url = '', method = '', headers } = request;
      asked.push({ url, method, headers, body, at: performance.now() });
      const { status = 200, headers: sent = {}, body: given = {} } = reply(Object.assign(request, { url }), body);
      response.writeHead(status, { 'content-type': 'application/json', ...sent });
      response.end(typeof given === 'string' ? given : JSON.stringify(given));
    });
  });
  return { host, asked };
}

function client(host: string, rest: object): ConnectionClient {
  const http = new HttpClient({ allowedPrivate: ['127.0.0.0/8'], timeoutMs: 2000 });
  clients.push(http);
  const connection = Connection.parse({
    id: 'salt',
    title: 'Salt',
    use: 'listings',
    address: `http://${host}/lots`,
    format: 'json',
    entries: '/lots',
    fields: { domain: { at: '/d' } },
    perMinute: 6000,
    ...rest,
  });
  return new ConnectionClient(http, connection);
}

async function all(of: ConnectionClient, values: Filling = {}): Promise<string[]> {
  const names: string[] = [];
  for await (const { answer } of of.parts(values))
    for (let entry = 0; entry < answer.count; entry++) names.push(answer.text(entry, '/d'));
  return names;
}

const LOTS = ['a.org', 'b.org', 'c.org', 'd.org', 'e.org'];
const part = (from: number) => LOTS.slice(from, from + 2).map((d) => ({ d }));
const queryOf = (url: string) => new URL(url, 'http://x').searchParams;

describe('a question', () => {
  it('carries key, login and body where they are described, and escapes what it asks for', async () => {
    const { host, asked } = await service(() => ({ body: { lots: [] } }));
    const of = client(host, {
      use: 'search',
      method: 'POST',
      address: `http://${host}/find?lang=en&q={words}`,
      headers: [{ name: 'X-Api-Key', value: 'token {key}' }],
      body: '{"phrase":"{words}","most":{count}}',
      login: 'basic',
      key: 'k-1',
      user: 'mara',
      password: 'pä',
    });
    await of.ask({ words: 'honey "comb" & wax', count: '10' });
    const [{ url, method, headers, body }] = asked;
    expect(queryOf(url).get('q')).toBe('honey "comb" & wax');
    expect(method).toBe('POST');
    expect(JSON.parse(body)).toEqual({ phrase: 'honey "comb" & wax', most: 10 });
    expect(headers['x-api-key']).toBe('token k-1');
    expect(headers.authorization).toBe(`Basic ${Buffer.from('mara:pä').toString('base64')}`);
    expect(headers['content-type']).toBe('application/json');
  });

  it('is put at the pace that is set', async () => {
    const { host, asked } = await service(({ url }) => ({
      body: { lots: part(2 * Number(queryOf(url).get('page'))) },
    }));
    await all(
      client(host, { address: `http://${host}/l?page={page}`, paging: { by: 'page', from: 0 }, perMinute: 600 }),
    );
    expect(asked).toHaveLength(4);
    // three gaps of 100 ms; the first may have been heard late
    expect(asked[3].at - asked[0].at).toBeGreaterThan(200);
  });
});

describe('an answer in parts', () => {
  it('by number, until there is no more', async () => {
    const { host, asked } = await service(({ url }) => ({
      body: { lots: part(2 * Number(queryOf(url).get('page')) - 2) },
    }));
    const of = client(host, { address: `http://${host}/l?page={page}`, paging: { by: 'page', from: 1 } });
    expect(await all(of)).toEqual(LOTS);
    expect(asked.map(({ url }) => url)).toEqual(['/l?page=1', '/l?page=2', '/l?page=3', '/l?page=4']);
  });

  it('by number at a server that gives its last part for ever', async () => {
    const { host, asked } = await service(({ url }) => ({
      body: { lots: part(Math.min(4, 2 * Number(queryOf(url).get('page')) - 2)) },
    }));
    const of = client(host, { address: `http://${host}/l?page={page}`, paging: { by: 'page', from: 1 } });
    expect(await all(of)).toEqual(LOTS);
    expect(asked).toHaveLength(4);
  });

  it('by the first entry, and by a mark', async () => {
    const { host } = await service(({ url }) => {
      const from = Number(queryOf(url).get('o') || queryOf(url).get('c') || 0);
      return { body: { lots: part(from), next: from + 2 < LOTS.length ? String(from + 2) : null } };
    });
    const offset = client(host, { address: `http://${host}/l?o={offset}`, paging: { by: 'offset', step: 2 } });
    expect(await all(offset)).toEqual(LOTS);
    const cursor = client(host, { address: `http://${host}/l?c={cursor}`, paging: { by: 'cursor', at: '/next' } });
    expect(await all(cursor)).toEqual(LOTS);
  });

  it('at an address that it names, in itself or in its Link header', async () => {
    const { host } = await service(({ url }) => {
      const from = Number(queryOf(url).get('from') ?? 0);
      const next = from + 2 < LOTS.length ? `/l?from=${from + 2}` : null;
      return {
        body: { lots: part(from), next },
        ...(next && { headers: { link: `<${next}>; rel="next", </l>; rel=first` } }),
      };
    });
    expect(await all(client(host, { paging: { by: 'link', at: '/next' } }))).toEqual(LOTS);
    expect(await all(client(host, { paging: { by: 'link', at: '' } }))).toEqual(LOTS);
  });

  it('by number at a server that has nothing beyond its last part', async () => {
    const { host } = await service(({ url }) => {
      const lots = part(2 * Number(queryOf(url).get('page')) - 2);
      return lots.length > 0 ? { body: { lots } } : { status: 404, body: 'no such page' };
    });
    const of = client(host, { address: `http://${host}/l?page={page}`, paging: { by: 'page', from: 1 } });
    expect(await all(of)).toEqual(LOTS);
  });

  it('without an end is not read to where one gives up', async () => {
    let n = 0;
    const { host, asked } = await service(() => ({ body: { lots: [{ d: 'a.org' }], next: String(++n) } }));
    const of = client(host, {
      address: `http://${host}/l?c={cursor}`,
      paging: { by: 'cursor', at: '/next' },
    });
    Object.assign(of.connection, { perMinute: 10_000_000 });
    await expect(all(of)).rejects.toThrow('more than 1000 parts');
    expect(asked).toHaveLength(1000);
  });

  it('that leads in a circle ends', async () => {
    const { host, asked } = await service(() => ({ body: { lots: part(0), next: '/l?from=0' } }));
    expect(await all(client(host, { paging: { by: 'link', at: '/next' } }))).toEqual(['a.org', 'b.org']);
    expect(asked.length).toBeLessThanOrEqual(2);
  });

  it('is not followed to another server: its key would go there', async () => {
    const other = await service(() => ({ body: { lots: [] } }));
    const { host } = await service(() => ({ body: { lots: part(0), next: `http://${other.host}/l` } }));
    const of = client(host, {
      paging: { by: 'link', at: '/next' },
      headers: [{ name: 'X-Key', value: '{key}' }],
      key: 'k',
    });
    await expect(all(of)).rejects.toThrow('another server');
    expect(other.asked).toEqual([]);
  });
});

describe('a service that does not answer as it should', () => {
  it.each([
    [401, 'does not know this one'],
    [403, 'does not let you'],
    [404, 'nothing is there'],
    [429, 'ask less a minute'],
    [500, 'answered 500'],
  ])('with %i says so', async (status, words) => {
    const { host } = await service(() => ({ status, body: 'no' }));
    await expect(client(host, {}).ask({})).rejects.toThrow(words);
  });

  it('sends nobody elsewhere, and nothing of the key is in what is said', async () => {
    const other = await service(() => ({ body: { lots: [] } }));
    const { host } = await service(({ url }) => ({
      status: 302,
      headers: { location: `http://${other.host}${url}` },
    }));
    const of = client(host, { address: `http://${host}/l?key={key}`, key: 'k/1' });
    const error = await of.ask({}).catch((one: Error) => one);
    expect(String(error)).toContain(`answered 302, and points to http://${other.host}/l?key=…`);
    expect(other.asked).toEqual([]);
  });

  it('may say by a status that nothing was found', async () => {
    const { host } = await service(() => ({ status: 404, body: { error: 'never seen' } }));
    expect((await client(host, { nothing: [404] }).ask({})).answer.count).toBe(0);
  });

  it('may say in a 200 that it failed', async () => {
    const { host } = await service(() => ({ body: { ok: false, why: 'key k-1 has no credit' } }));
    const of = client(host, { errors: [{ at: '/why' }], key: 'k-1' });
    await expect(of.ask({})).rejects.toThrow('it answers with an error: key … has no credit');
  });

  it('in a character set of its own is read', async () => {
    const host = await httpServer((_, response) => {
      response.writeHead(200, { 'content-type': 'text/xml' });
      response.end(
        Buffer.from(
          '<?xml version="1.0" encoding="ISO-8859-2"?><lots><d>žito.org</d></lots>'.replace('ž', '\xbe'),
          'latin1',
        ),
      );
    });
    expect(await all(client(host, { format: 'xml', entries: '/lots' }))).toEqual(['žito.org']);
  });
});

describe('a registrar that is described', () => {
  const registrar = (host: string, rest: object = {}) =>
    client(host, {
      use: 'registrar',
      address: `http://${host}/check?d={domain}`,
      entries: '',
      fields: {
        domain: { at: '/domain' },
        availability: { at: '/status' },
        price: { at: '/price' },
        currency: { at: '/currency' },
      },
      ...rest,
    });
  const ask = (of: ConnectionClient) => askDescribed(of, 'tarnhives.org', { domain: 'tarnhives.org' });

  it('says whether a name is to be had, and for how much', async () => {
    const { host } = await service(({ url }) => ({
      body: { domain: queryOf(url).get('d'), status: 'free', price: '9,90', currency: 'eur' },
    }));
    expect(await ask(registrar(host))).toMatchObject({
      outcome: 'available',
      priceMinor: 990,
      currency: 'EUR',
      detail: 'available, 9.90 EUR',
    });
  });

  it('is refused for now by 429 and 503, for as long as it says', async () => {
    const { host } = await service(() => ({ status: 429, headers: { 'retry-after': '7' } }));
    expect(await ask(registrar(host))).toMatchObject({ outcome: 'refused', retryAfterMs: 7000 });
  });

  it.each<[string, Reply]>([
    ['a word that nobody knows', { body: { domain: 'tarnhives.org', status: 'perhaps' } }],
    ['another domain', { body: { domain: 'other.org', status: 'free' } }],
    ['a page', { body: '<html>free available</html>' }],
    ['nothing', { body: '' }],
    ['404', { status: 404, body: { domain: 'tarnhives.org', status: 'free' } }],
    ['an error', { status: 400, body: { status: 'free' } }],
  ])('has said nothing by %s', async (_, reply) => {
    const { host } = await service(() => reply);
    expect(await ask(registrar(host))).toMatchObject({ outcome: 'failed', priceMinor: null });
  });

  it('that is silent is known as one that broke off', async () => {
    expect(await ask(registrar('127.0.0.1:9'))).toMatchObject({ outcome: 'failed', elapsedMs: 0 });
  });
});
