import { createHmac } from 'node:crypto';
import type { IncomingHttpHeaders } from 'node:http';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { NO_TELLS } from '../../core/news/news';
import { closeServers, httpServer, tcpServer } from '../../net/testing';
import { newsSince } from '../../services/news/news';
import { type Store, write } from '../../store/base/database';
import { knex, run } from '../../store/base/query';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { setWatched } from '../../store/lifecycle/watching';
import { changeSieve, noteHits, saveSieve } from '../../store/pool/sieves';
import { domainOfTest, listingOfTest } from '../../store/testing';
import { readTold, Teller } from './teller';

const MINUTE = 60_000;
let store: Store;
let teller: Teller;
let now: number;
let heard: { headers: IncomingHttpHeaders; body: string }[];
let status: number;
const warned: object[] = [];

beforeEach(async () => {
  store = await freshStore();
  now = Date.UTC(2026, 10, 20, 12);
  vi.spyOn(store, 'now').mockImplementation(() => now);
  heard = [];
  status = 200;
  warned.length = 0;
  teller = new Teller(store, { error: () => undefined, warn: (of: object) => warned.push(of) } as never);
});
afterEach(closeServers);

async function webhook(tells: Partial<typeof NO_TELLS> = { changes: ['webhook'] }): Promise<void> {
  const host = await httpServer((request, reply) => {
    let body = '';
    request.on('data', (chunk) => {
      body += chunk;
    });
    request.on('end', () => {
      heard.push({ headers: request.headers, body });
      reply.writeHead(status).end();
    });
  });
  changeSettings(store, {
    webhookUrl: `http://${host}/hook`,
    webhookSecret: 'between us',
    allowedPrivate: ['127.0.0.0/8'],
    tells: { ...NO_TELLS, ...tells },
  });
}
/** Something happens to a watched name. */
function happens(name: string, words: string): void {
  now += MINUTE;
  write(store, () => {
    const { id } = domainOfTest(store, name);
    setWatched(store, id, 'by hand', now);
    run(store, knex('life_events').insert({ domain_id: id, at: now, kind: 'dropped', words }));
  });
  now += MINUTE;
}
const told = () => heard.flatMap(({ body }) => JSON.parse(body).events.map((one: { domain: string }) => one.domain));

describe('a webhook', () => {
  it('tells what happens after the clock was set back, without waiting for the old time to come again', async () => {
    await webhook();
    await teller.tell();
    now -= 400 * 24 * 60 * MINUTE;
    await teller.tell();
    happens('tarnhives.org', 'It dropped and is available.');
    await teller.tell();
    expect(told()).toEqual(['tarnhives.org']);
  });

  it('is sent what happens, signed, with a link to each name, and each thing once', async () => {
    await webhook();
    happens('before.org', 'It was before anybody was to be told.');
    await teller.tell();
    happens('tarnhives.org', 'It dropped and is available.');
    await teller.tell();
    await teller.tell();
    expect(told()).toEqual(['tarnhives.org']);
    const [{ headers, body }] = heard;
    expect(JSON.parse(body).events[0]).toMatchObject({
      kind: 'changes',
      words: 'It dropped and is available.',
      link: 'http://127.0.0.1:4310/domains/tarnhives.org',
    });
    const signed = createHmac('sha256', 'between us')
      .update(`${headers['x-jam-ladle-timestamp']}.${body}`)
      .digest('hex');
    expect(headers['x-jam-ladle-signature']).toBe(`sha256=${signed}`);
    happens('pellgatecombs.org', 'It is offered.');
    await teller.tell();
    expect(told()).toEqual(['tarnhives.org', 'pellgatecombs.org']);
  });

  it('that does not take it is told again, later and later, and nothing is lost', async () => {
    await webhook();
    await teller.tell();
    status = 500;
    happens('tarnhives.org', 'It dropped.');
    await teller.tell();
    await teller.tell();
    expect(heard).toHaveLength(1);
    expect(readTold(store)?.webhook).toMatchObject({ failures: 1, problem: expect.stringContaining('answered 500') });
    now += 2 * MINUTE;
    await teller.tell();
    now += MINUTE;
    await teller.tell();
    expect(heard).toHaveLength(2);
    status = 204;
    happens('pellgatecombs.org', 'It is offered.');
    now += 10 * MINUTE;
    await teller.tell();
    expect(JSON.parse(heard[2].body).events).toHaveLength(2);
    expect(readTold(store)?.webhook).toMatchObject({ failures: 0, problem: null });
    expect(warned).toHaveLength(2);
  });

  it('hears nothing of what is not chosen', async () => {
    await webhook({ orders: ['webhook'] });
    await teller.tell();
    happens('tarnhives.org', 'It dropped.');
    await teller.tell();
    expect(heard).toEqual([]);
    // and not of the time before it was
    changeSettings(store, { tells: { ...NO_TELLS, changes: ['webhook'] } });
    await teller.tell();
    expect(heard).toEqual([]);
  });
});

it('mail tells by the server that is set, at most every quarter of an hour', async () => {
  const said: string[] = [];
  const server = await tcpServer((socket) => {
    let isData = false;
    socket.write('220 mail.test ESMTP\r\n');
    socket.on('data', (chunk) => {
      const text = chunk.toString();
      said.push(text);
      if (isData && !text.includes('\r\n.\r\n')) return;
      if (isData) {
        isData = false;
        socket.write('250 taken\r\n');
        return;
      }
      isData = text.startsWith('DATA');
      socket.write(isData ? '354 go on\r\n' : text.startsWith('QUIT') ? '221 bye\r\n' : '250 ok\r\n');
    });
  });
  changeSettings(store, {
    smtpUrl: `smtp://${server}`,
    allowedPrivate: ['127.0.0.0/8'],
    tells: { ...NO_TELLS, changes: ['mail'] },
  });
  await teller.tell();
  happens('tarnhives.org', 'It dropped.');
  await teller.tell();
  happens('pellgatecombs.org', 'It is offered.');
  await teller.tell();
  const mails = () => said.join('').match(/^Subject: .*$/gm);
  expect(mails()).toEqual(['Subject: tarnhives.org']);
  now += 15 * MINUTE;
  await teller.tell();
  expect(mails()?.map((line) => line.trim())).toEqual(['Subject: tarnhives.org', 'Subject: pellgatecombs.org']);
});

describe('news', () => {
  it('are hits of sieves in the digest, and deadlines when they come as near as Settings say', () => {
    const sieve = saveSieve(store, 'Old', 'c=age:10..');
    changeSieve(store, sieve, { inDigest: true });
    const { id } = domainOfTest(store, 'tarnhives.org');
    write(store, () => setWatched(store, id, 'by hand', now));
    listingOfTest(store, id, { venue: 'Saltmarch', kind: 'auction', closingAt: now + 90 * MINUTE });
    noteHits(store, sieve, [id], now, false);
    changeSettings(store, { reminderMinutes: 60 });
    const kinds = () => newsSince(store, now - MINUTE, ['hits', 'deadlines']).map(({ kind }) => kind);
    expect(kinds()).toEqual(['hits']);
    now += 31 * MINUTE;
    expect(newsSince(store, now - 2 * MINUTE, ['deadlines'])).toMatchObject([
      { domain: 'tarnhives.org', kind: 'deadlines' },
    ]);
    // it was told of then
    now += 5 * MINUTE;
    expect(newsSince(store, now - 2 * MINUTE, ['deadlines'])).toEqual([]);
    changeSieve(store, sieve, { inDigest: false });
    expect(newsSince(store, 0, ['hits'])).toEqual([]);
  });
});
