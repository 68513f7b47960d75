import { readdirSync, readFileSync } from 'node:fs';
import { type AddressInfo, createServer, type Server } from 'node:net';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../../store/base/database';
import { knex, run } from '../../store/base/query';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { setWatched } from '../../store/lifecycle/watching';
import { happen, placeOrder } from '../../store/orders/orders';
import { changeSieve, keepDigest, noteHits, readDigest, saveSieve } from '../../store/pool/sieves';
import { briefOfTest, domainOfTest } from '../../store/testing';
import { Digest, digestParts } from './digest';

const HOUR = 3_600_000;
let store: Store;
let digest: Digest;
const problems: unknown[] = [];
let server: Server | null = null;

beforeEach(async () => {
  store = await freshStore();
  problems.length = 0;
  digest = new Digest(store, { error: (of: unknown) => problems.push(of), warn: () => undefined } as never);
  changeSettings(store, {
    digestMinute: 0,
    digestFrom: 'ladle@quillmere.test',
    digestTo: 'mara@quillmere.test',
    digestEvents: true,
    allowedPrivate: ['127.0.0.1'],
  });
});
afterEach(() => {
  server?.close();
  server = null;
});

const mails = () =>
  readdirSync(join(store.folder, 'outbox')).map((file) => readFileSync(join(store.folder, 'outbox', file), 'utf8'));
function sieveWithNew(name: string, count: number): number {
  const sieve = saveSieve(store, name, 'c=age:10..');
  changeSieve(store, sieve, { inDigest: true });
  const ids = Array.from(
    { length: count },
    (_, n) =>
      domainOfTest(store, `${name.toLowerCase()}hive${n}.org`, {
        phase: 'free',
        strength: 40,
        price_minor: 1250,
        currency: 'EUR',
      }).id,
  );
  noteHits(store, sieve, ids, store.now(), false);
  return sieve;
}

/** A mail server that takes everything and knows no encryption; the settings have its address. @returns what is said to it. */
async function mailServer(address: string, login = ''): Promise<string[]> {
  const said: string[] = [];
  server = createServer((socket) => {
    let isData = false;
    socket.write('220 mail.test ESMTP\r\n');
    socket.on('data', (chunk) => {
      const text = chunk.toString();
      said.push(text);
      if (isData && text.includes('\r\n.\r\n')) {
        isData = false;
        socket.write('250 taken\r\n');
      } else if (!isData)
        for (const line of text.split('\r\n').filter(Boolean)) {
          if (line.startsWith('DATA')) {
            isData = true;
            socket.write('354 go on\r\n');
          } else socket.write(line.startsWith('QUIT') ? '221 bye\r\n' : '250 ok\r\n');
        }
    });
    socket.on('error', () => undefined);
  });
  await new Promise<void>((done) => server?.listen(0, address, done));
  const { port } = server.address() as AddressInfo;
  changeSettings(store, { smtpUrl: `smtp://${login}${address}:${port}` });
  return said;
}

describe('the digest', () => {
  it('has what came new into its sieves since the last one, and no more', () => {
    sieveWithNew('Old', 3);
    changeSieve(store, sieveWithNew('Quiet', 2), { inDigest: false });
    expect(digestParts(store, 0)).toMatchObject([{ sieve: 'Old', total: 3 }]);
    expect(digestParts(store, store.now() + 1)).toEqual([]);
  });

  it('is written as a mail, in words, with what is known of each name', async () => {
    sieveWithNew('Old', 2);
    const state = await digest.make(0);
    expect(state.problem).toBeNull();
    const [mail] = mails();
    expect(mail).toContain('Subject: 2 new in Old');
    expect(mail).toContain('To: mara@quillmere.test');
    expect(mail).toContain('oldhive0.org');
    expect(mail).toContain('free, strength 40, 12.50 EUR');
    // links lead to where it is reached
    const plain = mail.replaceAll('=\r\n', '').replaceAll('=3D', '=');
    expect(plain).toContain('http://127.0.0.1:4310/domains/oldhive0.org');
    expect(plain).toContain('<a style="color:#6b2346" href="http://127.0.0.1:4310/pool?c=age:10..">Old</a>');
    expect(readDigest(store)).toMatchObject({ file: state.file });
  });

  it('tells what happened to one’s names and orders, where that is wanted', async () => {
    const { id } = domainOfTest(store, 'tarnhives.org');
    write(store, () => {
      setWatched(store, id, 'by hand', store.now());
      run(
        store,
        knex('life_events').insert({ domain_id: id, at: store.now(), kind: 'dropped', words: 'It dropped & is free.' }),
      );
    });
    const order = placeOrder(store, {
      briefId: briefOfTest(store).id, domainId: id, venue: 'Saltmarsh Exchange', url: null, kind: 'buy', amountMinor: 100, currency: 'EUR',
      ratePpm: 1_000_000, feesMinor: 0, closesAt: null, sendAt: null, way: 'by hand',
    }); // biome-ignore format: one order
    happen(store, order.id, { kind: 'hand', outcome: 'lost' }, 'you', 'somebody else was first');
    await digest.make(0);
    const [mail] = mails();
    expect(mail).toContain('Subject: 2 changes of your names');
    expect(mail).toContain('Somebody else was first (Saltmarsh Exchange).');
    expect(mail.replaceAll('=\r\n', '')).toContain('It dropped &amp; is free.');
    changeSettings(store, { digestEvents: false });
    await digest.make(0);
    expect(mails().at(-1)).toContain('Subject: Nothing new');
  });

  it('says so where nothing is new, and is due again the next day', async () => {
    const state = await digest.make(Date.UTC(2026, 10, 20, 6));
    expect(state).toMatchObject({ problem: null });
    const [mail] = mails();
    expect(mail).toContain('Subject: Nothing new');
    expect(mail.replaceAll('=\r\n', '')).toContain('Nothing is new in your sieves since 2026-11-20 06:00 UTC.');
    expect(state.nextAt).toBeGreaterThan(store.now());
  });

  it('says that no server took it, and keeps the mail', async () => {
    changeSettings(store, { smtpUrl: 'smtp://127.0.0.1:9' });
    sieveWithNew('Old', 1);
    const state = await digest.make(0);
    expect(state.problem).toContain('The mail server did not take the digest');
    expect(mails()).toHaveLength(1);
  });

  it('is given to the mail server', async () => {
    const said = await mailServer('127.0.0.1');
    sieveWithNew('Old', 1);
    expect(await digest.make(0)).toMatchObject({ problem: null });
    expect(said.join('')).toContain('RCPT TO:<mara@quillmere.test>');
    expect(said.join('')).toContain('Subject: 1 new in Old');
  });

  it('is given to no server inside that the settings do not name', async () => {
    const said = await mailServer('127.0.0.1');
    changeSettings(store, { allowedPrivate: [] });
    sieveWithNew('Old', 1);
    expect((await digest.make(0)).problem).toContain('127.0.0.1 is a private address; allow it in the settings');
    changeSettings(store, { smtpUrl: 'smtp://8.8.4.4:6379' });
    expect((await digest.make(0)).problem).toContain('port 6379 of 8.8.4.4 is one of another protocol');
    expect(said).toEqual([]);
  });

  it('never takes a password over a line that is not encrypted', async () => {
    const said = await mailServer('127.0.0.2', 'mara:a-secret@');
    changeSettings(store, { allowedPrivate: ['127.0.0.2'] });
    sieveWithNew('Old', 1);
    expect((await digest.make(0)).problem).toContain('The mail server did not take the digest');
    const all = said.join('');
    expect(all).toContain('STARTTLS');
    expect(all).not.toMatch(/AUTH|a-secret|DATA/);
    expect(all).not.toContain(Buffer.from('a-secret').toString('base64'));
  });
});

describe('the clock of the digest', () => {
  it('sets its first time without making one, and makes it once that has come', async () => {
    digest.turn();
    const first = readDigest(store);
    expect(first).toMatchObject({ file: null });
    expect(first?.nextAt).toBeGreaterThan(store.now());
    sieveWithNew('Old', 1);
    keepDigest(store, { at: 0, nextAt: store.now() - 1, problem: null, file: null });
    digest.turn();
    digest.turn();
    await expect.poll(() => readDigest(store)?.file).not.toBeNull();
    expect(mails()).toHaveLength(1);
    expect(problems).toEqual([]);
  });

  it('comes sooner where its minute was moved forward, and rests where there is none', () => {
    keepDigest(store, { at: 0, nextAt: store.now() + 40 * HOUR, problem: null, file: null });
    digest.turn();
    expect(readDigest(store)?.nextAt).toBeLessThanOrEqual(store.now() + 24 * HOUR);
    changeSettings(store, { digestMinute: null });
    keepDigest(store, { at: 0, nextAt: 1, problem: null, file: null });
    digest.turn();
    expect(readDigest(store)).toMatchObject({ nextAt: 1 });
  });
});
