import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { HttpClient } from './http';
import { type AccountOrder, askOrder, askTerms, sendOrder, withdrawOrder } from './venue-account';

const ORDER: AccountOrder = {
  key: 'key-of-this-order',
  domain: 'pellgatehives.org',
  kind: 'bid',
  amountMinor: 5000,
  currency: 'EUR',
};
const GOOD = {
  key: ORDER.key,
  domain: ORDER.domain,
  state: 'leading',
  priceMinor: 4000,
  closesAt: '2026-11-30T10:00:00Z',
};

let server: Server;
let http: HttpClient;
let reply: (request: IncomingMessage, response: ServerResponse, body: string) => void;
let seen: { method?: string; url?: string; authorization?: string; body: string }[] = [];
const account = { address: 'http://saltmarchexchange.com/account/', key: 'a key' };
const json = (status: number, value: object) => (_: IncomingMessage, response: ServerResponse) => {
  response.writeHead(status, { 'content-type': 'application/json' });
  response.end(JSON.stringify(value));
};

beforeAll(async () => {
  server = createServer((request, response) => {
    let body = '';
    request.on('data', (chunk) => {
      body += chunk;
    });
    request.on('end', () => {
      seen.push({ method: request.method, url: request.url, authorization: request.headers.authorization, body });
      reply(request, response, body);
    });
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  http = new HttpClient({ connector: `127.0.0.1:${(server.address() as AddressInfo).port}`, timeoutMs: 800 });
});
beforeEach(() => {
  seen = [];
});
afterAll(async () => {
  await http.close();
  server.closeAllConnections();
  server.close();
});

describe('a account', () => {
  it('is sent an order under its key, and answers where it stands', async () => {
    reply = json(200, GOOD);
    expect(await sendOrder(http, account, ORDER)).toMatchObject({
      outcome: 'answered',
      value: { state: 'leading', priceMinor: 4000, finalMinor: null, closesAt: Date.UTC(2026, 10, 30, 10) },
    });
    expect(seen).toEqual([
      {
        method: 'PUT',
        url: '/account/orders/key-of-this-order',
        authorization: 'Bearer a key',
        body: '{"domain":"pellgatehives.org","kind":"bid","amountMinor":5000,"currency":"EUR"}',
      },
    ]);
  });

  it('is asked by GET and taken back by DELETE', async () => {
    reply = json(200, { ...GOOD, state: 'withdrawn' });
    await askOrder(http, account, ORDER.key, ORDER.domain);
    await withdrawOrder(http, account, ORDER.key, ORDER.domain);
    expect(seen.map(({ method }) => method)).toEqual(['GET', 'DELETE']);
  });

  it.each<[string, number, object, string]>([
    ['does not know the key', 404, { error: 'no such order' }, 'none'],
    ['is not ready', 503, {}, 'unknown'],
    ['has had too many questions', 429, {}, 'unknown'],
    ['breaks', 500, {}, 'unknown'],
    ['rejects it', 400, { error: 'no amount' }, 'rejected'],
    ['answers about another domain', 200, { ...GOOD, domain: 'other.org' }, 'unknown'],
    ['names a state that is none', 200, { ...GOOD, state: 'queued' }, 'unknown'],
    ['prices in fractions', 200, { ...GOOD, priceMinor: 1.5 }, 'unknown'],
  ])('that %s is believed no further than that', async (_, status, value, outcome) => {
    reply = json(status, value);
    expect((await askOrder(http, account, ORDER.key, ORDER.domain)).outcome).toBe(outcome);
  });

  it('that never heard of an order that was just sent has not refused it', async () => {
    reply = json(404, { error: 'no such account' });
    expect(await sendOrder(http, account, ORDER)).toEqual({ outcome: 'rejected', reason: 'no such account' });
  });

  it('that breaks off, or says nothing, leaves it open whether it was done', async () => {
    reply = (request) => request.socket.destroy();
    expect((await sendOrder(http, account, ORDER)).outcome).toBe('unknown');
    reply = () => undefined;
    expect((await sendOrder(http, account, ORDER)).outcome).toBe('unknown');
  });

  it('tells on what terms a domain is to be had', async () => {
    reply = json(200, {
      domain: ORDER.domain,
      kind: 'bid',
      state: 'open',
      priceMinor: 700,
      leastMinor: 800,
      currency: 'EUR',
    });
    expect(await askTerms(http, account, ORDER.domain)).toMatchObject({
      outcome: 'answered',
      value: { leastMinor: 800 },
    });
    expect(seen[0].url).toBe('/account/terms?domain=pellgatehives.org');
  });
});
